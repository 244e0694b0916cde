"""Flame graphs of our side of rows of :mod:`bench.topology` at a million elements, by py-spy, which must be installed.

``python -m bench.flames docs/speed 'fill with an even mesh' …`` writes one picture for each row into the folder. Time
is that of the interpreter's stack: a compiled kernel is the call that enters it.
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from bench import topology
from bench.measure import Row
from reticula.core.memory import keep_freed_memory

__all__ = ["main"]


def main(folder: Path, wanted: list[str]) -> None:
    """Run each row once to warm up, then once while it is looked at."""
    topology.FREQUENCIES = topology.FREQUENCIES[-1:]

    def run(what: str, size: str, ours: Callable[[], Any], *_: Any, **__: Any) -> Row:
        if what in wanted:
            ours()
            _look_at(folder / f"{what.replace(' ', '_').replace(',', '')}.svg", f"{what}, {size}", ours)
        return Row(what, size, 0.0, "")

    topology.compare = topology.alone = run
    keep_freed_memory()
    for _row in topology.rows():
        pass


def _look_at(path: Path, title: str, work: Callable[[], Any]) -> None:
    command = ["py-spy", "record", "--pid", str(os.getpid()), "--rate", "200", "--output", str(path)]
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True) as looking:
        assert looking.stdout is not None
        next(line for line in looking.stdout if "Sampling" in line)
        work()
        looking.send_signal(signal.SIGINT)
        looking.stdout.read()
    path.write_text(path.read_text().replace(" ".join(command), title))


if __name__ == "__main__":
    main(Path(sys.argv[1]), sys.argv[2:])
