"""An element that was picked in one result, found again in another one of the same graph."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.incidence import incident
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.graph.evaluation.results import Evaluation
from reticula.core.graph.inspection.provenance import trace

__all__ = ["Picked", "element_in", "related"]


@dataclass(frozen=True)
class Picked:
    """An element of the result ``feed`` (a node, or ``node:output``), by kind and number."""

    feed: str
    kind: Kind
    element: int


def element_in(done: Evaluation, picked: Picked, feed: str, kind: Kind) -> int | None:
    """Return the number that a picked element, or what it was made from, has in another result, as a ``kind``.

    Results are related by the way of the element (see :mod:`.provenance`) or by its stable name; an element of another
    kind stands for the first one that touches it. None if there is none. Raises GeometryError if nothing like it was
    picked.
    """
    if not done.has(feed):
        return None
    if kind == "whole":
        return 0
    geo = done.geo(feed)
    found = _same(done, picked, feed)
    if found is None:
        # What touches it may have a way there where it has none itself: a new face between kept points.
        shown = done.geo(picked.feed)
        for touching in ("point", "face"):
            other = related(shown, picked.kind, picked.element, touching)
            there = None if other is None else _same(done, Picked(picked.feed, touching, other), feed)
            if there is not None:
                return related(geo, there[1], there[0], kind)
        return None
    number, as_kind = found
    return related(geo, as_kind, number, kind)


def _same(done: Evaluation, picked: Picked, feed: str) -> tuple[int, Kind] | None:
    if picked.feed == feed:
        count = done.geo(feed).topology.count(picked.kind)
        if not 0 <= picked.element < count:
            raise GeometryError(f"there are only {count:,} {PLURAL[picked.kind]} here; pick again")
        return picked.element, picked.kind
    for step in trace(done, picked.feed, picked.kind, picked.element):
        if step.feed == feed:
            return step.element, step.kind
    name = done.geo(picked.feed).identity(picked.kind)[picked.element]
    rows = np.flatnonzero(done.geo(feed).identity(picked.kind) == name)
    return (int(rows[0]), picked.kind) if len(rows) else None


def related(geo: Geo, kind: Kind, element: int, wanted: Kind) -> int | None:
    """Return the first element of another kind that touches an element; itself if the kind is the same."""
    if kind == wanted:
        return element
    if kind == "instance" or wanted == "instance":
        return None
    if wanted == "whole":
        return 0
    start, around = incident(geo, wanted, kind)
    first, last = int(start[element]), int(start[element + 1])
    return int(around[first]) if first < last else None
