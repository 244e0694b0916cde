"""``python -m campaign MINUTES``: hunts for what breaks trust, and prints what it found as docs/trust.md shows it."""

from __future__ import annotations

import argparse
import os
import random
import sys
import tempfile
from datetime import UTC, datetime
from pathlib import Path

from campaign.crowd import Crowd, run_crowd
from campaign.full_disk import FullDisk, run_full_disk, small_disk
from campaign.installation import Installation
from campaign.kills import Kills, run_kills
from campaign.odd_input import OddInput, run_odd_input
from campaign.report import report

SHARES = {"kills": 0.62, "odd": 0.12, "crowds": 0.14, "full": 0.04}
"""Parts of the time; the rest goes into starting."""
CROWDS = (50, 200)


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m campaign", description=__doc__)
    parser.add_argument("minutes", type=float, nargs="?", default=20.0)
    parser.add_argument("--seed", type=int, default=random.SystemRandom().randrange(10**6))
    parser.add_argument("--port", type=int, default=18765)
    parser.add_argument("--out", type=Path, help="write the table into this file, too")
    parser.add_argument("--only", choices=list(SHARES), help="give one part all of the time")
    given = parser.parse_args()
    shares = {given.only: 0.97} if given.only else SHARES
    seconds = {part: share * given.minutes * 60 for part, share in shares.items()}
    folder = Path(tempfile.mkdtemp(prefix="campaign-"))
    print(f"Seed {given.seed}, {given.minutes:g} minutes, in {folder}", flush=True)
    place = Installation(folder / "var", given.port)
    place.start()
    try:
        crowds: list[Crowd] = []
        for people in CROWDS if "crowds" in seconds else ():
            crowds.append(run_crowd(place, people, seconds["crowds"] / len(CROWDS)))
            print(f"{people} people: done", flush=True)
        memory = place.memory() if crowds else {}
        odd = run_odd_input(place, seconds["odd"], given.seed) if "odd" in seconds else OddInput()
        print("Odd input: done", flush=True)
        kills = run_kills(place, seconds["kills"], given.seed) if "kills" in seconds else Kills()
        print("Kills: done", flush=True)
    finally:
        place.stop()
    full = _full_disk(folder, given.port + 20, seconds["full"]) if "full" in seconds else None
    head = f"{datetime.now(UTC):%Y-%m-%d}, {given.minutes:g} minutes, seed {given.seed}, {os.cpu_count()} cores"
    text, sound = report(head, kills, crowds, odd, full, memory)
    print(text)
    if given.out:
        given.out.write_text(text)
    return 0 if sound else 1


def _full_disk(folder: Path, port: int, seconds: float) -> FullDisk | None:
    """Fill a disk of its own; None where none can be made."""
    with small_disk(folder / "small") as disk:
        if disk is None:
            return None
        cramped = Installation(disk / "var", port)
        cramped.start()
        try:
            return run_full_disk(cramped, seconds)
        finally:
            cramped.stop()


if __name__ == "__main__":
    sys.exit(main())
