"""Paths over time: curves through the places where points were."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from reticula.core.arrays import Flags, starts_from_sizes
from reticula.core.context import current
from reticula.core.diagnostics import note
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo, Kind, carry, kept
from reticula.core.geometry.mesh.source_maps import SourceMap
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.language.scope import TIMELINE
from reticula.core.operators.declaration.operator import Once, operator
from reticula.core.operators.declaration.parameters import AttributeName, Integer, Number, Selection, Toggle
from reticula.core.operators.shared.other_frames import at_other_frames, rows_of

__all__ = ["paths_over_time"]

MOST_FRAMES = 10_000


def _frames(once: Once, moment: Mapping[str, float]) -> Sequence[float]:
    return _wanted(moment["frame"], *(once(name) for name in ("whole_way", "back", "since", "every")))


def _wanted(frame: float, whole_way: bool, back: int, since: float, every: float) -> list[float]:
    """Return the frames that the paths lead through, in order."""
    count = int(max(frame - since, 0.0) / every + 1e-9) if whole_way else back
    if count > MOST_FRAMES:
        raise ParameterError("since", f"the paths go back {count:,} frames; {MOST_FRAMES:,} is the most")
    return [frame - n * every for n in range(count, -1, -1)]


@operator(
    "paths_over_time",
    family="time",
    keywords=("trail", "trajectory", "trace", "tracks", "streak", "history", "wake", "motion path"),
    carries="Points and curves carry the attributes of the points whose paths they are, as they are now.",
    example="""
        seeds = scatter(disc(radius=0.4), total=20)
        moving = transform(seeds, move="vec3(0, 0.04 * frame, 0)", turn="vec3(0, 9 * frame, 0)")
        ways = paths_over_time(moving, back=20)
        sweep(ways, radius=0.01)
    """,
    related=("motion", "evolve", "at_frame"),
    parameters=(
        Selection.each("point", "points whose paths are drawn, as they are now; empty means all"),
        Toggle("whole_way", False, "go back to a certain frame, instead of so many frames"),
        Integer(
            "back", 12, "how many steps they go back", soft=(1, 48), low=1, high=10_000, shown_when=("whole_way", False)
        ),
        Number("since", 0.0, "frame where they begin", soft=(0, 48), step=1, shown_when=("whole_way", True)),
        Number("every", 1.0, "how far the steps are apart", unit="frames", soft=(0.25, 8), low=0.001),
        AttributeName("age", "age", "point attribute: seconds since then; empty: none", new=True, optional=True),
    ),
    brings={"points in one place": None},
    frames=_frames,
)
def paths_over_time(geo: Geo, *, where: Flags, whole_way: bool, back: int, since: float, every: float, age: str) -> Geo:
    """Curves through the places where points were, from then until now.

    Points are found again by their stable names. A path begins where its point has been there ever since; a point that
    is new has none yet. Places are those in the space of this frame's input.
    """
    moment = current().moment or TIMELINE
    frame = moment["frame"]
    others = at_other_frames(geo, _wanted(frame, whole_way, back, since, every))
    chosen = np.flatnonzero(where)
    names = geo.identity("point")[chosen]
    rows = np.stack([rows_of(found.identity("point"), names) for found in others.values()])
    since_when = np.where((rows < 0).any(axis=0), len(rows) - np.argmax((rows < 0)[::-1], axis=0), 0)
    sizes = len(rows) - since_when
    long = sizes >= 2
    sizes, first = sizes[long], since_when[long]
    start = starts_from_sizes(sizes)
    curve = np.repeat(np.arange(len(sizes)), sizes)
    when = np.arange(start[-1]) - start[curve] + first[curve]
    row = rows[when, np.flatnonzero(long)[curve]]
    place = np.zeros((len(when), 3))
    for n, found in enumerate(others.values()):
        place[when == n] = found.positions[row[when == n]]
    topology = Topology(len(place), curve_start=start, curve_point=np.arange(len(place)))
    none: dict[Kind, SourceMap] = {
        kind: kept(np.full(topology.count(kind), -1)) for kind in ("edge", "corner", "face", "curve", "instance")
    }
    made = carry(geo, topology, {"point": kept(chosen[long][curve]), **none}, positions=place)
    for name, values in geo.attributes["point"].items():
        if name != "position" and not made.has("curve", name):
            made = made.with_attribute("curve", name, values.take(chosen[long]))
    if age:
        seconds = (frame - np.array(list(others)))[when] * moment["seconds_per_frame"]
        made = made.with_attribute("point", age, seconds, "number")
    short = int((~long).sum())
    note(
        f"{len(sizes):,} paths over {len(rows):,} frames"
        + (f"; {short:,} points are new and have none." if short else ".")
    )
    return made
