"""Builds the wheel with page, documentation and demo inside: ``python -m tools.wheel [FOLDER]``; ``make wheel``."""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
LEFT_OUT = shutil.ignore_patterns("__pycache__", "*.pyc", "*.nbi", "*.nbc", "bundled")


def build_wheel(target: Path) -> Path:
    """Build the wheel into a folder and return its path; the page and the documentation have to be built before."""
    with tempfile.TemporaryDirectory() as folder:
        stage = Path(folder)
        shutil.copytree(ROOT / "reticula", stage / "reticula", ignore=LEFT_OUT)
        for name in ("pyproject.toml", "README.md", "LICENSE"):
            shutil.copy2(ROOT / name, stage / name)
        bundled = stage / "reticula" / "bundled"
        for name, source in (("page", "web/dist"), ("docs", "site"), ("demo", "demo")):
            shutil.copytree(ROOT / source, bundled / name, ignore=shutil.ignore_patterns("__pycache__", "*.py"))
        command = [sys.executable, "-m", "build", "--wheel", "--no-isolation", "--outdir", str(target), str(stage)]
        subprocess.run(command, check=True, capture_output=True)
    return max(target.glob("*.whl"), key=lambda path: path.stat().st_mtime)


if __name__ == "__main__":
    print(build_wheel(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "dist"))
