"""Frames on the command line: ``--frame 12``, ``--frames 1:48:2``, and numbered files."""

from __future__ import annotations

import re
from pathlib import Path

from reticula.core.errors import GraphError
from reticula.core.graph.time.timeline import MOST_FRAMES

__all__ = ["frames_in", "numbered"]

PLACE = re.compile(r"#+")


def frames_in(text: str) -> list[float | None]:
    """Return the frames from the first to the last, both included: ``1:48``, or ``1:48:2`` for every other one.

    Raises GraphError for what names none.
    """
    match = re.fullmatch(r"(-?\d+):(-?\d+)(?::(\d+))?", text)
    if not match:
        raise GraphError(f"--frames takes FIRST:LAST or FIRST:LAST:STEP in whole frames, not '{text}'")
    first, last, step = int(match[1]), int(match[2]), int(match[3] or 1)
    if last < first or step < 1:
        raise GraphError(f"--frames goes upwards, in steps of at least 1, not '{text}'")
    if (last - first) // step >= MOST_FRAMES:
        raise GraphError(f"--frames takes at most {MOST_FRAMES:,} frames at once")
    return [float(frame) for frame in range(first, last + 1, step)]


def numbered(path: str, frame: float | None, *, several: bool = False) -> str:
    """Return a path with the frame's number in place of its ``#`` signs, at least as wide as they are; None leaves it.

    Raises GraphError if there is no such place, and ``several`` frames are written.
    """
    name = Path(path).name
    if frame is None or not (several or PLACE.search(name)):
        return path
    if not PLACE.search(name):
        raise GraphError(f"--out needs a place for the number of the frame, e.g. '{_with_place(path)}'")
    return str(Path(path).with_name(PLACE.sub(lambda signs: _number(frame, len(signs[0])), name)))


def _number(frame: float, width: int) -> str:
    whole, _, part = f"{abs(frame):.12g}".partition(".")
    return ("-" if frame < 0 else "") + whole.zfill(width) + (f".{part}" if part else "")


def _with_place(path: str) -> str:
    parts = Path(path)
    return str(parts.with_name(f"{parts.stem}.####{parts.suffix}"))
