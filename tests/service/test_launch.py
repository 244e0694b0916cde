"""Starting and stopping everything for real: one command, second start, taken ports, and kill -9 of each part."""

import json
import os
import re
import signal
import socket
import stat
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest

from reticula.cli import main
from reticula.launch.client import Client
from reticula.launch.processes import port_is_free
from tests.helpers import any_port, wait_until


class Running:
    """``python -m reticula.launch`` in a folder of its own."""

    def __init__(self, var: Path, port: int) -> None:
        command = [sys.executable, "-u", "-m", "reticula.launch", "--var", str(var), "--port", str(port)]
        self.var = var
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
        self.said = ""

    def ready(self) -> Client:
        assert self.process.stdout is not None
        for line in self.process.stdout:
            self.said += line
            found = re.search(r"ready at (http\S+)", line)
            if found:
                return Client(found[1])
        raise AssertionError(self.said)

    def end(self) -> None:
        if self.process.poll() is None:
            self.process.send_signal(signal.SIGINT)
            self.process.wait(40)


def processes_of(var: Path, word: str) -> list[int]:
    found = []
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit():
            try:
                command = (entry / "cmdline").read_bytes().decode(errors="replace")
                inside = f"RETICULA_VAR={var}" in (entry / "environ").read_bytes().decode(errors="replace")
            except OSError:
                continue
            if word in command and (str(var) in command or inside):
                found.append(int(entry.name))
    return found


@pytest.fixture(scope="module")
def var(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return tmp_path_factory.mktemp("launch")


@pytest.fixture(scope="module")
def port() -> int:
    """A port that is free, as is the next one."""
    return next(found for found in iter(any_port, 0) if port_is_free(found + 1))


@pytest.fixture
def running(var: Path, port: int) -> Iterator[Running]:
    made = Running(var, port)
    yield made
    made.end()


def test_first_start_loads_the_demo_and_keeps_secrets(running: Running, var: Path, port: int) -> None:
    client = running.ready()
    project = client.get("/api/projects")["projects"][0]
    assert project["title"] == "Reef studio"
    assert client.get(f"/api/projects/{project['id']}/graphs")["graphs"][0]["title"] == "Settlement tile"
    access = var / "mariadb" / "access.json"
    assert stat.S_IMODE(access.stat().st_mode) == 0o600
    assert len(json.loads(access.read_text())["password"]) > 20
    again = Running(var, port)
    assert again.process.wait(30) == 1
    assert again.process.stdout is not None
    assert "runs already, at http://127.0.0.1:" in again.process.stdout.read()
    running.end()
    assert not processes_of(var, "mariadbd")
    assert not processes_of(var, "reticula.service")


def test_second_start_loses_nothing_and_steps_over_a_taken_port(var: Path, port: int) -> None:
    with socket.socket() as taken:
        taken.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        taken.bind(("127.0.0.1", port))
        taken.listen()
        running = Running(var, port)
        try:
            client = running.ready()
            assert f"Port {port} is taken by another program; using {port + 1}" in running.said
            assert len(client.get("/api/projects")["projects"]) == 1
        finally:
            running.end()


def test_every_part_recovers_from_kill_9(running: Running, var: Path, port: int) -> None:
    client = running.ready()
    made = client.post("/api/projects", {"title": "Kept"})
    for word in ("mariadbd", "reticula.service", "reticula.depot"):
        victim = processes_of(var, word)[0]
        os.kill(victim, signal.SIGKILL)
        wait_until(lambda: client.get("/api/health")["status"] == "ok" and victim not in processes_of(var, word))  # noqa: B023
        assert made["id"] in [project["id"] for project in client.get("/api/projects")["projects"]]
    for _ in range(2):
        running.process.kill()
        running.process.wait()
        running = Running(var, port)
        try:
            client = running.ready()
            assert client.address == f"http://127.0.0.1:{port}", "it keeps its port"
            assert made["id"] in [project["id"] for project in client.get("/api/projects")["projects"]]
        except BaseException:
            running.end()
            raise
    running.end()


def test_it_waits_for_a_database_that_cannot_start(var: Path, port: int) -> None:
    data = var / "mariadb" / "data" / "ibdata1"
    mode = data.stat().st_mode
    hidden = data.with_name("hidden")
    data.rename(hidden)
    data.mkdir()
    running = Running(var, port)
    try:
        assert running.process.stdout is not None
        for line in running.process.stdout:
            running.said += line
            if "Trying again in" in line:
                break
        assert "The database did not start" in running.said
        data.rmdir()
        hidden.rename(data)
        data.chmod(mode)
        assert running.ready().get("/api/health")["status"] == "ok"
    finally:
        running.end()


def test_backup_while_it_runs_and_restore_into_an_empty_folder(
    running: Running, var: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    client = running.ready()
    archive, fresh = tmp_path / "reef.zip", tmp_path / "fresh"
    assert main(["backup", str(archive), "--var", str(var)]) == 0
    assert "Wrote" in capsys.readouterr().out
    assert main(["restore", str(archive), "--var", str(var)]) == 1
    assert "Reticula runs in" in capsys.readouterr().err
    assert main(["restore", str(archive), "--var", str(fresh)]) == 0
    said = capsys.readouterr().out
    assert f"{len(client.get('/api/projects')['projects'])} projects" in said
    kept = {path.name for path in (var / "assets").iterdir()}
    assert kept == {path.name for path in (fresh / "assets").iterdir()}
    assert main(["restore", str(archive), "--var", str(fresh)]) == 1
    assert "something here already" in capsys.readouterr().err
    assert not processes_of(fresh, "mariadbd")
