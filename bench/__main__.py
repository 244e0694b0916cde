"""Runs all comparisons (or those of the parts that are named) and prints them; ``--write`` also keeps them in
docs/speed.md. ``crowd`` is a run of 100,000 tiny parts, which is made only if it is named.
"""

from __future__ import annotations

import itertools
import os
import platform
import sys
from pathlib import Path

import numpy as np

from bench import browser, crowds, files, fleet, frames, graphs, memory, operators, scripts, topology, values
from bench.measure import table
from reticula.core.memory import keep_freed_memory

INTRODUCTION = """# Speed

Printed by `make bench`: medians of several turns, ours and the peer's in turn, in one process, which keeps freed
memory for both, as evaluators do. A ratio below 1 means that ours is faster. Absolute times are those of the machine
below; the ratios are what to look at.
"""


def main() -> None:
    keep_freed_memory()
    made = []
    wanted = [word for word in sys.argv[1:] if not word.startswith("-")]
    parts = {
        "operators": operators.rows,
        "topology": topology.rows,
        "files": files.rows,
        "crowds": crowds.rows,
        "values": values.rows,
        "scripts": scripts.rows,
        "graphs": graphs.rows,
        "frames": frames.rows,
        "memory": memory.rows,
        "fleet": fleet.rows,
        "browser": browser.rows,
    }
    if "crowd" in wanted:
        parts = {"crowd": fleet.crowd}
    for row in itertools.chain.from_iterable(rows() for name, rows in parts.items() if not wanted or name in wanted):
        theirs = f"{row.show(row.theirs):>12}   x {row.ratio:.2f}" if row.theirs is not None and row.ratio else ""
        print(f"{row.what:55} {row.size:32} {row.show(row.ours):>12}   {row.peer:36} {theirs}", flush=True)
        made.append(row)
    if "--write" in sys.argv:
        machine = (
            f"{os.cpu_count()} cores, {platform.machine()}, Python {platform.python_version()}, NumPy {np.__version__}"
        )
        text = f"{INTRODUCTION}\nMachine: {machine}.\n\n{table(made)}\n"
        (Path(__file__).resolve().parents[1] / "docs" / "speed.md").write_text(text)


if __name__ == "__main__":
    main()
