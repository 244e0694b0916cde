"""What commands that make many results have in common: their options, and what they say while they run."""

from __future__ import annotations

import signal
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

import click

from reticula.cli.console import fail, progress, warn

__all__ = ["COUNTED_HELP", "WORKERS", "named", "saying", "workers_options"]

SAID = 20
"""How many failures and warnings are said one by one; the manifest has all."""
COUNTED_HELP = "points, edges, faces, curves, instances, area, volume, defects, or a formula"
Command = Callable[..., int]
Told = Callable[[dict[str, Any], int, int], None]


WORKERS = (
    click.option(
        "--workers",
        type=click.IntRange(min=1),
        help="Worker processes of this machine (default: one per core).",
    ),
    click.option(
        "--cluster", default="", metavar="tcp://…", help="A Dask scheduler that runs already (or RETICULA_CLUSTER)."
    ),
    click.option(
        "--store",
        default="",
        metavar="URL",
        help="Where meshes travel: a shared folder, s3://… (or RETICULA_STORE).",
    ),
)
"""Where work is done."""
LIMIT = click.option(
    "--seconds", type=click.FloatRange(min=1), default=600.0, show_default=True, help="Limit of one result."
)


def workers_options(command: Command) -> Command:
    """Say where results are made, and what one may take."""
    for add in reversed((*WORKERS, LIMIT)):
        command = add(command)
    return command


def named(numbers: tuple[str, ...]) -> dict[str, str]:
    """Return formulas by name from texts ``NAME`` or ``NAME=FORMULA``."""
    return {name: formula or name for name, _, formula in (one.partition("=") for one in numbers)}


@contextmanager
def saying(title: str) -> Iterator[tuple[Told, threading.Event]]:
    """Say how far it is and what goes wrong, and stop in two steps with Ctrl-C.

    Gives what is to be told each entry as it comes, how many there are and will be, and an event that is set to stop.
    """
    stop = threading.Event()
    remarks = 0

    def interrupted(*_: Any) -> None:
        if stop.is_set():
            raise KeyboardInterrupt
        stop.set()
        warn("Stopping after what is being made; Ctrl-C again ends at once.")

    with progress(title) as step:

        def told(entry: dict[str, Any], done: int, total: int) -> None:
            nonlocal remarks
            step(done, total, entry["name"])
            errors = [entry["error"]] if entry["state"] == "failed" else []
            for say, texts in ((fail, errors), (warn, entry["warnings"])):
                for text in texts:
                    remarks += 1
                    if remarks <= SAID:
                        say(f"row {entry['row']}, {entry['name']}: {text}")

        before = signal.signal(signal.SIGINT, interrupted)
        try:
            yield told, stop
        finally:
            signal.signal(signal.SIGINT, before)
    if remarks > SAID:
        warn(f"{remarks - SAID:,} more; the manifest has all")
