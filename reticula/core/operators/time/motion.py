"""Motion: how points and placed shapes move from frame to frame."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.context import current
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo, Kind
from reticula.core.language.scope import TIMELINE
from reticula.core.operators.declaration.operator import Once, operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, KindChoice, Number, Vector
from reticula.core.operators.shared.other_frames import at_other_frames, rows_of
from reticula.core.reports.attribute_writing import write_attribute

__all__ = ["motion"]

MOST_FRAMES = 10_000


def _frames(once: Once, moment: Mapping[str, float]) -> Sequence[float]:
    asked = (once(name) for name in ("scheme", "apart", "acceleration", "path_length", "since"))
    return _wanted(moment["frame"], *asked)


def _wanted(frame: float, scheme: str, apart: float, acceleration: str, path_length: str, since: float) -> list[float]:
    """Return the frames that are looked at, in order."""
    offsets = [-1.0, 1.0] if scheme == "central" else [-1.0, -2.0] if acceleration else [-1.0]
    found = [frame + offset * apart for offset in offsets]
    return sorted({*found, *(_way(frame, since, apart) if path_length else ())})


def _way(frame: float, since: float, apart: float) -> list[float]:
    """Return the frames from ``since`` to ``frame``, that many apart, counted back from the last one."""
    count = int(max(frame - since, 0.0) / apart + 1e-9)
    if count > MOST_FRAMES:
        raise ParameterError("since", f"the way is {count:,} frames long; {MOST_FRAMES:,} is the most")
    return [frame - n * apart for n in range(count, -1, -1)]


@operator(
    "motion",
    family="time",
    keywords=("velocity", "speed", "acceleration", "motion blur", "trajectory", "derivative", "distance travelled"),
    carries="Carries all; adds or replaces the attributes that have a name here.",
    sections={"names": ("velocity", "speed", "acceleration", "path_length"), "new elements": ("missing",)},
    example="""
        ball = scatter(disc(), total=60)
        moving = displace(ball, value="sin(frame / 6 + position.x * 8)", amount=0.2, along="direction")
        felt = motion(moving)
        remap(felt, value="speed", name="color", through="gradient")
    """,
    related=("at_frame", "paths_over_time", "evolve"),
    parameters=(
        KindChoice.of(("point", "instance"), "point", "what moves: points, or placed shapes", name="of"),
        Choice(
            "scheme",
            "central",
            "from which frames",
            options={
                "central": "the frame before and the one after; exact to the second order",
                "backward": "only from frames before; exact to the first order",
            },
        ),
        Number("apart", 1.0, "how far these frames are away", unit="frames", soft=(0.1, 4), low=0.001, high=10_000),
        AttributeName("velocity", "velocity", "vector of the velocity in m/s; empty: none", new=True, optional=True),
        AttributeName("speed", "speed", "its length in m/s; empty: none", new=True, optional=True),
        AttributeName("acceleration", "", "vector of the acceleration in m/s²; empty: none", new=True, optional=True),
        AttributeName("path_length", "", "metres travelled since a frame; empty: none", new=True, optional=True),
        Number("since", 0.0, "frame from which on metres are counted", soft=(0, 48), step=1),
        Vector("missing", (0.0, 0.0, 0.0), "velocity of elements that are at none of these frames", unit="m/s"),
    ),
    frames=_frames,
)
def motion(
    geo: Geo,
    *,
    of: Kind,
    scheme: str,
    apart: float,
    velocity: str,
    speed: str,
    acceleration: str,
    path_length: str,
    since: float,
    missing: Floats,
) -> Geo:
    """Velocity, speed, acceleration and way of points or placed shapes, from the frames before and after.

    Elements are found again by their stable names, so it does no harm if others come or go. An element that is there at
    one of two frames only gets the difference to this frame. Places are those in the space of this frame's input.

    Differences as in R. L. Burden and J. D. Faires, Numerical Analysis, section 4.1.
    """
    moment = current().moment or TIMELINE
    frame, step = moment["frame"], apart * moment["seconds_per_frame"]
    others = at_other_frames(geo, _wanted(frame, scheme, apart, acceleration, path_length, since))
    here = _places(geo, of)
    names = geo.identity(of)

    def at(offset: float) -> tuple[Floats, Flags]:
        return _found(others[frame + offset * apart], of, names)

    before, was = at(-1.0)
    after, will = at(1.0) if scheme == "central" else (here, np.zeros(len(here), bool))
    found = np.full(here.shape, missing, dtype=np.float64)
    found[was] = (here[was] - before[was]) / step
    found[will] = (after[will] - here[will]) / step
    both = was & will
    found[both] = (after[both] - before[both]) / (2.0 * step)
    made = geo
    if velocity:
        made = write_attribute(made, of, velocity, found)
    if speed:
        made = write_attribute(made, of, speed, np.linalg.norm(found, axis=1))
    if acceleration:
        third, there = (after, both) if scheme == "central" else at(-2.0)
        bent = np.zeros(here.shape)
        known = was & there
        ends = after + before - 2.0 * here if scheme == "central" else here + third - 2.0 * before
        bent[known] = ends[known] / step**2
        made = write_attribute(made, of, acceleration, bent)
    if path_length:
        made = write_attribute(made, of, path_length, _way_of(others, geo, of, _way(frame, since, apart)))
    known = was | will
    if len(known) and not known.any():
        warn("None of these elements is there at the other frames; do they get new names at every frame?")
    elif not known.all():
        note(f"{int((~known).sum()):,} of {len(known):,} are new and have the velocity that is given for these.")
    return made


def _way_of(others: Mapping[float, Geo], geo: Geo, kind: Kind, frames: Sequence[float]) -> Floats:
    """Return the sum of the distances from frame to frame, for as long as an element was there without a gap."""
    names, length = geo.identity(kind), np.zeros(geo.topology.count(kind))
    last, there = _places(geo, kind), np.zeros(len(length), bool)
    for at in frames:
        place, is_there = _found(others[at], kind, names)
        went = is_there & there
        length[went] += np.linalg.norm(place[went] - last[went], axis=1)
        length[~is_there] = 0.0
        last, there = place, is_there
    return length


def _found(other: Geo, kind: Kind, names: AnyArray) -> tuple[Floats, Flags]:
    """Return where elements of these names are in another geometry ``(N, 3)``, and which of them are there."""
    rows = rows_of(other.identity(kind), names)
    places = _places(other, kind)
    if not len(places):
        return np.zeros((len(names), 3)), np.zeros(len(names), bool)
    return places[np.maximum(rows, 0)], rows >= 0


def _places(geo: Geo, kind: Kind) -> Floats:
    if kind == "point":
        return geo.positions
    return (
        np.asarray(geo.attribute("instance", "transform"))[:, :3, 3]
        if geo.topology.instance_count
        else np.zeros((0, 3))
    )
