"""Two geometries held against each other: counts, attributes, wiring, and how far one surface is from the other."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import Floats, as_rows
from reticula.core.geometry import KINDS, Attribute, Geo, Topology
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.reports.summary import element_counts
from reticula.core.spatial import points_of, surface_of

__all__ = ["AttributeDifference", "Comparison", "compare"]

SAME = 1e-9


@dataclass(frozen=True)
class AttributeDifference:
    """What became of an attribute: ``new``, ``gone``, another type, or how many of its values changed."""

    kind: Kind
    name: str
    what: str


@dataclass(frozen=True)
class Comparison:
    """What differs in one geometry from another.

    ``counts`` has elements per kind and how many more they are; ``distance`` (P,) in m is that of each point in world
    space to the other geometry (its surface, else its points). ``rewired`` names faces and curves that are as many as
    the other's and go over other points.
    """

    counts: dict[str, tuple[int, int]]
    attributes: list[AttributeDifference]
    distance: Floats
    rewired: list[str]

    @property
    def moved(self) -> int:
        """How many points are not where the other geometry is."""
        return int((self.distance > SAME).sum())

    @property
    def farthest(self) -> float:
        """The largest distance, in m."""
        return float(self.distance.max(initial=0.0))


def compare(geo: Geo, other: Geo) -> Comparison:
    """Return what differs in ``geo`` from ``other``."""
    ours, theirs = element_counts(geo, edges=True), element_counts(other, edges=True)
    found: list[AttributeDifference] = []
    for kind in KINDS:
        for name in sorted({*geo.attributes[kind], *other.attributes[kind]}):
            what = _difference(geo.attributes[kind].get(name), other.attributes[kind].get(name))
            if what:
                found.append(AttributeDifference(kind, name, what))
    return Comparison(
        {kind: (count, count - theirs[kind]) for kind, count in ours.items() if count or theirs[kind]},
        found,
        _distances(to_world(geo), to_world(other)),
        _rewired(geo.topology, other.topology),
    )


def _rewired(ours: Topology, theirs: Topology) -> list[str]:
    alike = {
        "faces": (ours.face_count == theirs.face_count, ("face_start", "corner_point")),
        "curves": (ours.curve_count == theirs.curve_count, ("curve_start", "curve_point", "curve_closed")),
    }
    return [
        kind
        for kind, (as_many, names) in alike.items()
        if as_many and not all(np.array_equal(getattr(ours, name), getattr(theirs, name)) for name in names)
    ]


def _difference(ours: Attribute | None, theirs: Attribute | None) -> str:
    if ours is None or theirs is None:
        return "new" if theirs is None else "gone"
    if ours.type != theirs.type:
        return f"{theirs.type} before, {ours.type} now"
    if ours is theirs or len(ours) != len(theirs):
        return ""
    changed = _changed(ours, theirs)
    return f"{changed:,} of {len(ours):,} changed" if changed else ""


def _changed(ours: Attribute, theirs: Attribute) -> int:
    """Return how many elements have other values."""
    if ours.start is None or theirs.start is None:
        return int(as_rows(_unlike(ours.values, theirs.values)).any(axis=1).sum())
    lengths, other_lengths = np.diff(ours.start), np.diff(theirs.start)
    like = lengths == other_lengths
    unlike = _unlike(ours.values[np.repeat(like, lengths)], theirs.values[np.repeat(like, other_lengths)])
    owner = np.repeat(np.flatnonzero(like), lengths[like])
    return int((~like).sum()) + len(np.unique(owner[unlike]))


def _unlike(a: np.ndarray, b: np.ndarray) -> np.ndarray:
    """Return where values differ; no number equals no number."""
    differ = a != b
    return differ & ~((a != a) & (b != b)) if a.dtype.kind == "f" else differ


def _distances(geo: Geo, other: Geo) -> Floats:
    if not geo.topology.point_count or not other.topology.point_count:
        return np.zeros(geo.topology.point_count)
    if other.topology.face_count:
        return np.asarray(surface_of(other).closest(geo.positions).distance)
    return np.asarray(points_of(other).nearest(geo.positions)[1])
