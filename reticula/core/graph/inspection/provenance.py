"""Trace: which node made an element, and from which element of which input it came, step by step."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, cast

import numpy as np

from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.identity import child_of, distinct_names, twin_of
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.graph.evaluation.results import Evaluation
from reticula.core.graph.structure.document import split_feed

__all__ = ["Step", "source_of", "trace"]

MOST_CHILDREN = 256
"""Children of one element that are told apart when the element that something was made of is looked for."""


@dataclass(frozen=True)
class Step:
    """An element as it was in the result of a node. ``how`` says what that node did: ``kept`` it, ``made`` it from
    another one (the next step), or made it ``new``.
    """

    feed: str
    kind: Kind
    element: int
    position: tuple[float, float, float]
    how: str

    def describe(self) -> dict[str, Any]:
        return {
            "feed": self.feed,
            "kind": self.kind,
            "element": self.element,
            "position": list(self.position),
            "how": self.how,
        }


def trace(done: Evaluation, feed: str, kind: Kind, element: int) -> list[Step]:
    """Return the way of an element from where it is looked at (first) to where it was made (last).

    Names of elements are what is followed: they stay through edits, and those of new elements are made of their
    sources'. Raises GeometryError if there is no such element.
    """
    geo = done.geo(feed)
    if kind == "corner":
        kind, element = (
            "face",
            int(geo.topology.corner_face[element]) if 0 <= element < geo.topology.corner_count else -1,
        )
    count = geo.topology.count(kind)
    if not 0 <= element < count:
        raise GeometryError(f"there are only {count:,} {PLURAL[kind]} here")
    steps: list[Step] = []
    while True:
        source = source_of(done, feed, kind, element)
        steps.append(Step(feed, kind, element, _place(geo, kind, element), source[2] if source else "new"))
        if source is None:
            return steps
        feed, element = source[0], source[1]
        geo = done.geo(feed)


def source_of(done: Evaluation, feed: str, kind: Kind, element: int) -> tuple[str, int, str] | None:
    """Return where an element of a result came from: a feed of its node, the element there, and whether it was
    ``kept`` or ``made`` from that; None if the node made it of nothing.
    """
    node: Mapping[str, Any] = done.document["nodes"][split_feed(feed)[0]]
    if node.get("skip"):
        wire = next((one for fed in node.get("inputs", {}).values() for one in fed), None)
        return (wire, element, "kept") if wire else None
    return _source(done, node, kind, done.geo(feed).identity(kind)[element])


def _source(done: Evaluation, node: Mapping[str, Any], kind: Kind, name: np.uint64) -> tuple[str, int, str] | None:
    """Return the feed and the element that an element came from, and whether it was kept or made from that."""
    feeds = [feed for fed in node.get("inputs", {}).values() for feed in fed if done.has(feed)]
    known = [done.geo(feed).identity(kind) for feed in feeds]
    if not known:
        return None
    names = np.concatenate(known)
    begin = np.cumsum([0, *(len(own) for own in known)])

    def found(row: int, how: str) -> tuple[str, int, str]:
        number = int(np.searchsorted(begin, row, side="right")) - 1
        return feeds[number], int(row - begin[number]), how

    same = np.flatnonzero(distinct_names(names) == name)
    if len(same):
        return found(int(same[0]), "kept")
    for sought in (child_of, twin_of):
        row = sought(names, name, MOST_CHILDREN)
        if row >= 0:
            return found(row, "made")
    return None


def _place(geo: Geo, kind: Kind, element: int) -> tuple[float, float, float]:
    shape = geo.topology
    if kind == "point":
        rows = np.array([element])
    elif kind == "edge":
        rows = shape.edges[element]
    elif kind == "curve":
        rows = shape.curve_point[shape.curve_start[element] : shape.curve_start[element + 1]]
    elif kind == "face":
        rows = shape.corner_point[shape.face_start[element] : shape.face_start[element + 1]]
    else:
        return (0.0, 0.0, 0.0)
    return cast(tuple[float, float, float], tuple(geo.positions[rows].mean(axis=0).tolist()))
