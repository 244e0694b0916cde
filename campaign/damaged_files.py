"""``python -m campaign.damaged_files COUNT [ENDING ...]``: as many damaged files of each format, read in turn.

Prints the table of ``docs/trust.md``: how many were read all the same, refused in words, or ended the process that is
there to be ended; what was wrong with a reader; the longest time and the most memory of one file.
"""

from __future__ import annotations

import argparse
import os
import sys
from concurrent.futures import ThreadPoolExecutor

from reticula.core.formats import FORMATS
from tests.core.formats.damage import Found, hunt


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m campaign.damaged_files", description=__doc__)
    parser.add_argument("count", type=int)
    parser.add_argument("endings", nargs="*", default=list(FORMATS))
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--workers", type=int, default=os.cpu_count())
    given = parser.parse_args()
    columns = ("format", "files", "read", "refused", "process ended", "faults", "longest", "memory")
    print(f"| {' | '.join(columns)} |", "|---" * len(columns) + "|", sep="\n")
    with ThreadPoolExecutor(given.workers) as pool:  # each has its files read by a process of its own
        found = list(pool.map(lambda ending: _told(hunt(ending, given.count, given.seed)), given.endings))
    for one in found:
        for fault in one.faults[:10]:
            print(f"{one.ending}: {fault}", file=sys.stderr)
    return 1 if any(one.faults for one in found) else 0


def _told(found: Found) -> Found:
    counts = [found.answers[answer] for answer in ("read", "refused", "gave up")]
    cells = [f".{found.ending}", *(f"{count:,}" for count in (found.answers.total(), *counts)), str(len(found.faults))]
    print(f"| {' | '.join(cells)} | {found.slowest:.2f} s | {max(found.memory, 0):,.0f} MB |", flush=True)
    return found


if __name__ == "__main__":
    sys.exit(main())
