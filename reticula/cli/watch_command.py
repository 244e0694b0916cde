"""``reticula watch``: the same as ``run``, again each time that a file it reads has changed."""

from __future__ import annotations

from typing import Any

import click

from reticula.cli.console import fail, progress, warn
from reticula.cli.run_command import helpers_of, order_of, ordered, tell
from reticula.cli.running import FilesRead, Order, carry_out
from reticula.cli.spreading import Helpers
from reticula.core.errors import ReticulaError
from reticula.core.graph import Evaluator

__all__ = ["watch_command"]


@click.command("watch")
@ordered
@click.option("--times", type=click.IntRange(min=1), help="End after so many runs (default: at Ctrl-C).")
def watch_command(times: int | None, **given: Any) -> None:
    """Run GRAPH now, and again whenever a file it reads changes.

    Only what the change concerns is evaluated again. An error is said, and the next change is waited for.
    """
    from watchfiles import watch

    with helpers_of(given) as helpers:
        order = order_of(**given)
        evaluator = Evaluator()
        read = _again(order, evaluator, helpers)
        done = 1
        while times is None or done < times:
            folders = {path.resolve().parent for path in read if path.resolve().parent.is_dir()}
            warn(f"waiting for a change of {', '.join(sorted({path.name for path in read}))} …")
            # Asked again every second, too: a file may have changed before anybody looked at its folder.
            for _ in watch(*folders, recursive=False, raise_interrupt=True, rust_timeout=1000, yield_on_timeout=True):
                if read.changed():
                    break
            read = _again(order, evaluator, helpers)
            done += 1


def _again(order: Order, evaluator: Evaluator, helpers: Helpers) -> FilesRead:
    """Run once, saying what went wrong; return the files it read."""
    read = FilesRead()
    try:
        with progress(order.graph.name) as step:
            line = carry_out(order, evaluator, tell, step, read, helpers)
        if line:
            print(line, flush=True)
    except (ReticulaError, OSError) as error:
        fail(error)
    return read
