"""Reading in another process: what comes back, and what is said when the reader gives up."""

import os
from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import apart, write_bytes
from reticula.core.formats.apart import read_apart


def test_shape_and_notes_come_back(notes: list[Note]) -> None:
    data = write_bytes(ops.box().with_attribute("face", "object", np.array(["山"] * 6)), "a.ply")
    assert read_apart("ply", data).attribute("face", "object").tolist() == ["山"] * 6
    read_apart("obj", b"v 0 0 0\ns off\n")
    assert notes[-1].text == "Passed over: smoothing groups."


def test_what_the_reader_says_is_said_with_its_place() -> None:
    with pytest.raises(FormatError, match=r"^line 1: a vertex has 2 numbers") as caught:
        read_apart("obj", b"v 1 2\n")
    assert caught.value.line == 1


def gives_up(monkeypatch: pytest.MonkeyPatch, code: str) -> None:
    real = apart.subprocess.Popen

    def other(command: list[str], **given: Any) -> Any:
        return real([command[0], "-c", code], **given)

    monkeypatch.setattr(apart.subprocess, "Popen", other)


def test_a_reader_that_dies_takes_nobody_with_it(monkeypatch: pytest.MonkeyPatch) -> None:
    gives_up(monkeypatch, "import os; os.abort()")
    with pytest.raises(FormatError, match=r"its reader gave up \(SIGABRT\)"):
        read_apart("ply", b"x")
    assert os.getpid()


def test_a_reader_that_hangs_is_ended(monkeypatch: pytest.MonkeyPatch) -> None:
    gives_up(monkeypatch, "import threading; threading.Event().wait()")
    monkeypatch.setattr(apart, "MOST_SECONDS", 0.5)
    with pytest.raises(FormatError, match="took more than"):
        read_apart("ply", b"x")


def test_nothing_comes_back_as_nothing() -> None:
    assert read_apart("ply", write_bytes(Geo.empty(), "a.ply")).topology.point_count == 0
