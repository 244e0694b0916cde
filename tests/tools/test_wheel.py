"""The wheel in an empty environment: the computation alone, and with the server's extra the whole workshop."""

from __future__ import annotations

import re
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import pytest

from reticula.store.database import Database
from tools.wheel import build_wheel

ROOT = Path(__file__).parents[2]
Run = Callable[..., subprocess.CompletedProcess[str]]

ALONE = """
import importlib.util, sys
from reticula.core import Geo, ops, run_script
made = ops.grid(cells=(2, 2))
made.write("tile.ply")
assert Geo.read("tile.ply").counts["faces"] == 4
assert importlib.util.find_spec("flask") is None and importlib.util.find_spec("sqlalchemy") is None
assert "site-packages" in sys.modules["reticula"].__file__
print(made)
"""
WHOLE = """
import sys
from pathlib import Path
from reticula.bundle import DEMO, VAR
from reticula.service.app import create_app
from reticula.service.config import Config
from reticula.store.database import Database
Database(sys.argv[1]).migrate()
config = Config.from_environment()
app = create_app(config)
client = app.test_client()
for path in ("/", "/docs/index.html", "/api/operators", "/api/health"):
    answer = client.get(path)
    assert answer.status_code == 200, (path, answer.get_data(as_text=True))
app.extensions["reticula"].close()
assert len(list(DEMO.glob("*.json"))) >= 10 and list((DEMO / "packages").glob("*.zip"))
assert VAR.is_relative_to(Path.home())
print("ready")
"""


@pytest.fixture(scope="module")
def wheel(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return build_wheel(tmp_path_factory.mktemp("wheel"))


@pytest.fixture(scope="module")
def constraints(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The versions that the lock file pins."""
    pins = re.findall(r"^[a-z0-9][^ \n]*==[^ \n]*", (ROOT / "requirements.lock").read_text(), re.MULTILINE)
    made = tmp_path_factory.mktemp("pins") / "constraints.txt"
    made.write_text("\n".join(pins))
    return made


@pytest.fixture(scope="module")
def place(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("empty")
    subprocess.run([sys.executable, "-m", "venv", folder], check=True)
    return folder


@pytest.fixture(scope="module")
def run(place: Path) -> Run:
    def run(*command: str, **more: str) -> subprocess.CompletedProcess[str]:
        environment = {"PATH": "/usr/bin:/bin", "HOME": str(place), "PYTHONPATH": "", **more}
        return subprocess.run(
            [str(place / "bin" / command[0]), *command[1:]], cwd=place, env=environment, capture_output=True, text=True
        )

    return run


def install(run: Run, what: str, constraints: Path) -> None:
    pip = ("pip", "install", "-q", "--no-compile", "--disable-pip-version-check")
    cache = subprocess.run([sys.executable, "-m", "pip", "cache", "dir"], capture_output=True, text=True).stdout.strip()
    done = run(*pip, "-c", str(constraints), what, PIP_CACHE_DIR=cache)
    assert done.returncode == 0, done.stderr


def test_the_computation_alone_and_then_the_whole(
    wheel: Path, constraints: Path, run: Run, database: Database, tmp_path: Path
) -> None:
    install(run, str(wheel), constraints)
    told = run("python", "-c", ALONE)
    assert told.stdout.startswith("<Geo 9 points, 4 faces"), told.stderr
    assert "extrude" in run("reticula", "list").stdout
    refused = run("reticula", "serve")
    assert refused.returncode == 1
    assert "pip install 'reticula[server,formats,many]'" in refused.stderr
    install(run, f"{wheel}[server]", constraints)
    told = run("python", "-c", WHOLE, database.url, RETICULA_DATABASE=database.url, RETICULA_VAR=str(tmp_path))
    assert told.stdout.strip() == "ready", told.stderr
