"""The supervisor tries for ever, with growing pauses, and says why."""

from pathlib import Path

import pytest

from reticula.launch import supervisor as module
from reticula.launch.supervisor import PAUSES, Supervisor
from reticula.store.database import NewerData


@pytest.fixture
def supervisor(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Supervisor:
    made = Supervisor(tmp_path, 1)
    made.slept = []  # type: ignore[attr-defined]
    monkeypatch.setattr(module.time, "sleep", made.slept.append)  # type: ignore[attr-defined]
    return made


def test_pauses_grow_up_to_the_longest(supervisor: Supervisor, capsys: pytest.CaptureFixture[str]) -> None:
    left = [OSError("no such file")] * 3 + [RuntimeError("a log:\n  the last line.\n")] * 6

    def start() -> None:
        if left:
            raise left.pop(0)

    supervisor._until_done("the database", start)
    assert supervisor.slept == [*PAUSES, PAUSES[-1], PAUSES[-1]]  # type: ignore[attr-defined]
    said = capsys.readouterr().out
    assert "The database did not start: no such file. Trying again in 0.5 s" in said
    assert "did not start: the last line. Trying again in 30 s" in said


def test_a_full_disk_is_said(
    supervisor: Supervisor, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr(module, "LEAST_FREE", 10**18)
    supervisor._pause("the service", RuntimeError("anything"))
    assert "the disk is full" in capsys.readouterr().out


def test_newer_data_are_not_tried_again(supervisor: Supervisor) -> None:
    def start() -> None:
        raise NewerData("newer")

    with pytest.raises(NewerData):
        supervisor._until_done("the database", start)
    assert supervisor.slept == []  # type: ignore[attr-defined]
