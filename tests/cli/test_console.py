"""What a terminal shows: colours where they are wanted, and progress once something takes its time."""

from __future__ import annotations

import os
import pty
import select
import subprocess
import sys

import pytest

from reticula.cli import console

SLOW = """
import threading
from reticula.cli import console
console.PATIENCE = {patience}
with console.progress("tile.json") as step:
    step(1, 4, "ridges")
    threading.Event().wait({seconds})
console.fail("no such node")
"""


def on_a_terminal(code: str, **environment: str) -> str:
    """Return what a program shows on a terminal of 100 columns."""
    ours, theirs = pty.openpty()
    env = {key: value for key, value in os.environ.items() if key != "NO_COLOR"} | {
        "TERM": "xterm-256color",
        "COLUMNS": "100",
        **environment,
    }
    with subprocess.Popen([sys.executable, "-c", code], stdout=theirs, stderr=theirs, env=env) as program:
        os.close(theirs)
        shown = b""
        while select.select([ours], [], [], 60)[0]:
            try:
                part = os.read(ours, 65536)
            except OSError:  # the program has ended
                break
            shown += part
        assert program.wait() == 0
    os.close(ours)
    return shown.decode()


def test_something_long_says_how_far_it_is_and_what_is_left() -> None:
    shown = on_a_terminal(SLOW.format(patience=0.05, seconds=0.6))
    assert "tile.json" in shown
    assert "ridges" in shown
    assert "left:" in shown
    assert "\x1b[1;31mreticula: " in shown


def test_something_short_shows_no_progress() -> None:
    assert "ridges" not in on_a_terminal(SLOW.format(patience=60, seconds=0.01))


def test_no_color_is_respected() -> None:
    shown = on_a_terminal(SLOW.format(patience=0.05, seconds=0.3), NO_COLOR="1")
    assert "reticula: no such node" in shown.replace("\x1b[1m", "").replace("\x1b[0m", "")
    assert "\x1b[1;31m" not in shown
    assert "\x1b[31m" not in shown


def test_nothing_but_words_where_nobody_looks(capsys: pytest.CaptureFixture[str]) -> None:
    with console.progress("tile.json") as step:
        step(1, 2, "ridges")
    console.warn("x [bold] " + "long " * 60)
    assert capsys.readouterr().err == "x [bold] " + "long " * 60 + "\n"
