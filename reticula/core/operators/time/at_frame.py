"""At frame: the input as it is at another frame."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from reticula.core.context import KeyedGeo, current
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import Once, operator
from reticula.core.operators.declaration.parameters import Choice, Number

__all__ = ["at_frame", "frame_meant"]


def frame_meant(
    frame: float, *, which: str, by: float, at: float, first: float, last: float, every: float, speed: float
) -> float:
    """Return the frame that is looked at when it is ``frame``; see the operator for the rest."""
    if which in ("repeat", "swing") and last <= first:
        raise ParameterError("last", f"the last frame, {last:g}, has to come after the first one, {first:g}")
    if which == "at":
        found = at
    elif which == "repeat":
        found = first + (frame - first) % (last - first + 1.0)
    elif which == "swing":
        turns, rest = divmod(frame - first, last - first)
        found = last - rest if turns % 2 else first + rest
    elif which == "every":
        found = first + math.floor((frame - first) / every + 1e-9) * every
    elif which == "speed":
        found = first + (frame - first) * speed
    else:
        found = frame + by
    return found


NAMES = ("which", "by", "at", "first", "last", "every", "speed")


def _frames(once: Once, moment: Mapping[str, float]) -> Sequence[float]:
    return (frame_meant(moment["frame"], **{name: once(name) for name in NAMES}),)


@operator(
    "at_frame",
    family="time",
    keywords=(
        "offset",
        "earlier",
        "later",
        "delay",
        "retime",
        "slow",
        "fast",
        "reverse",
        "loop",
        "freeze",
        "hold",
        "step",
    ),
    carries="Carries all, as it is at that frame.",
    example="""
        ball = geodesic_sphere(radius=0.2, frequency=8)
        moving = transform(ball, move="vec3(0.03 * frame, 0.2 * sin(frame / 4), 0)")
        before = at_frame(moving, which="shift", by=-12)
        join(moving, before)
    """,
    related=("between_frames", "motion", "evolve"),
    parameters=(
        Choice(
            "which",
            "shift",
            "which frame is looked at",
            options={
                "shift": "so many frames later, or earlier",
                "at": "one certain frame; with keys, any course of frames",
                "repeat": "a part of the frames again and again",
                "swing": "a part of the frames forwards and backwards",
                "every": "every nth frame, held until the next one",
                "speed": "faster, slower or backwards from a frame on",
            },
        ),
        Number(
            "by",
            -1.0,
            "how many frames later",
            unit="frames",
            soft=(-24, 24),
            step=1,
            shown_when=("which", "shift"),
        ),
        Number("at", 0.0, "the frame that is looked at", soft=(0, 48), step=1, shown_when=("which", "at")),
        Number(
            "first",
            0.0,
            "frame from which on this is so, or the first of the part",
            soft=(0, 48),
            step=1,
            shown_when=("which", ["repeat", "swing", "every", "speed"]),
        ),
        Number(
            "last",
            23.0,
            "last frame of the part",
            soft=(0, 48),
            step=1,
            shown_when=("which", ["repeat", "swing"]),
        ),
        Number(
            "every",
            2.0,
            "how many frames one is held",
            unit="frames",
            soft=(1, 12),
            low=0.01,
            step=1,
            shown_when=("which", "every"),
        ),
        Number(
            "speed",
            0.5,
            "frames of the input per frame; below 0 it goes backwards",
            soft=(-2, 2),
            shown_when=("which", "speed"),
        ),
    ),
    frames=_frames,
)
def at_frame(
    geo: Geo, *, which: str, by: float, at: float, first: float, last: float, every: float, speed: float
) -> Geo:
    """The input as it is at another frame: earlier or later, held, repeated, or at another speed.

    All that feeds the input is evaluated at that frame; what is known there already is taken from the cache. Frames
    between two whole ones are looked at, too. Outside of a graph nothing moves, and the input is passed on.
    """
    call = current().call
    there = next(iter(call.frames.values()))["geo"] if call and call.frames else None
    return there.geo if isinstance(there, KeyedGeo) else geo
