"""The supervisor says why something did not start, and sees to all parts at every moment."""

import time
from pathlib import Path

import pytest

from reticula.launch import supervisor as module
from reticula.launch.supervisor import Supervisor


@pytest.fixture
def supervisor(tmp_path: Path) -> Supervisor:
    return Supervisor(tmp_path, 1)


def test_a_full_disk_is_said(
    supervisor: Supervisor, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    supervisor._tell("the service", RuntimeError("a log:\n  the last line.\n"), 30.0)
    assert "The service did not start: the last line. Trying again in 30 s" in capsys.readouterr().out
    monkeypatch.setattr(module, "LEAST_FREE", 10**18)
    supervisor._tell("the service", RuntimeError("anything"), 0.5)
    assert "the disk is full" in capsys.readouterr().out


def test_the_service_waits_for_the_database_and_nothing_else_does(
    supervisor: Supervisor, monkeypatch: pytest.MonkeyPatch
) -> None:
    begun: list[str] = []
    monkeypatch.setattr(supervisor, "_start_database", lambda: begun.append("database"))
    monkeypatch.setattr(supervisor, "_start_depot", lambda: begun.append("depot"))
    monkeypatch.setattr(supervisor, "_start_service", lambda: begun.append("service"))

    def demo() -> None:
        begun.append("demo")
        raise OSError("the service is away")

    monkeypatch.setattr(supervisor, "_load_demo", demo)
    chores = supervisor._chores()
    for chore in chores:
        chore.see_to_it()
    assert begun == ["depot", "database"]
    supervisor._migrated = True
    for _ in range(2):
        for chore in chores:
            chore.see_to_it()
    assert begun[2:] == ["depot", "database", "service", "demo", "depot", "database", "service"]


def test_a_depot_that_is_away_holds_nothing_up(
    supervisor: Supervisor, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    supervisor.depot_port = 1  # nobody listens there
    began = time.monotonic()
    with pytest.raises(RuntimeError, match="the depot does not answer yet"):
        supervisor._depot_client()
    assert time.monotonic() - began < 2.0
    monkeypatch.setattr(module, "DEPOT_SECONDS", 0.0)
    assert supervisor._depot_client() is None
    assert "The depot does not answer" in capsys.readouterr().err
