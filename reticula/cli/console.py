"""What a terminal shows beside results: warnings and errors in colour, and progress with the time that is left.

Results go to the standard output as plain text or JSON; all that is here goes to the error output. Colours are left out
where ``NO_COLOR`` is set (https://no-color.org) or nobody looks at a terminal; so is progress.
"""

from __future__ import annotations

import sys
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from rich.console import Console
from rich.progress import BarColumn, Progress, SpinnerColumn, TextColumn, TimeElapsedColumn, TimeRemainingColumn
from rich.text import Text

__all__ = ["PATIENCE", "Step", "fail", "progress", "warn"]

PATIENCE = 1.0
"""Seconds after which something that takes its time says how far it is."""

Step = Callable[[float, float, str], None]
"""Told how much is done, of how much, and at what; of 0 if nobody knows how much there is."""


def _console() -> Console:
    return Console(stderr=True, highlight=False)


def fail(message: object) -> None:
    """Say why something was not done."""
    _console().print(Text.assemble(("reticula: ", "bold red"), str(message)), soft_wrap=True)


def warn(message: str) -> None:
    """Say what should be known about a result."""
    _console().print(Text(message, "yellow"), soft_wrap=True)


@contextmanager
def progress(title: str) -> Iterator[Step]:
    """Show how far something is once it has taken a second; it is gone again at the end."""
    console = _console()
    if not console.is_terminal:
        yield lambda done, total, at: None
        return
    columns = (
        SpinnerColumn(),
        TextColumn("{task.description}"),
        BarColumn(),
        TextColumn("{task.fields[at]}", style="dim"),
        TimeElapsedColumn(),
        TextColumn("left:"),
        TimeRemainingColumn(),
    )
    bar = Progress(*columns, console=console, transient=True, redirect_stdout=sys.stdout.isatty())
    task = bar.add_task(title, total=None, at="")
    timer = threading.Timer(PATIENCE, bar.start)
    timer.daemon = True
    timer.start()

    def step(done: float, total: float, at: str) -> None:
        bar.update(task, completed=done, total=total or None, at=at)

    try:
        yield step
    finally:
        timer.cancel()
        timer.join()
        bar.stop()
