"""Shapes that stand in a geometry as instances, as the view draws them: each once, wherever it stands."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Indices
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world

__all__ = ["placed_shapes", "sources"]


def placed_shapes(geo: Geo) -> list[tuple[Geo, Indices]]:
    """Return the shapes that have instances, turned into mesh, each with the numbers of its instances."""
    if not geo.topology.instance_count:
        return []
    which = np.asarray(geo.attribute("instance", "shape"))
    found: list[tuple[Geo, Indices]] = []
    for number, prototype in enumerate(geo.prototypes):
        members = np.flatnonzero(which == number).astype(np.int32)
        if len(members):
            found.append((to_world(flatten(prototype)), members))
    return found


def sources(geo: Geo) -> list[Geo]:
    """Return what is drawn one after the other: the geometry itself, then each shape that stands in it."""
    return [geo, *(shape for shape, _ in placed_shapes(geo))]
