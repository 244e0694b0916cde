"""Shapes that stand in a geometry as instances, as the view draws them: each once, wherever it stands."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Indices
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.mesh.geo import once_per_geo

__all__ = ["SURFACE", "placed_shapes", "sources"]

SURFACE: tuple[Kind, ...] = ("point", "corner", "face")
"""The kinds whose values lie on a surface: those of a shape are shown on each of its instances."""


@once_per_geo
def placed_shapes(geo: Geo) -> tuple[tuple[Geo, Indices], ...]:
    """Return the shapes that have instances, turned into mesh, each with the numbers of its instances."""
    if not geo.topology.instance_count:
        return ()
    which = np.asarray(geo.attribute("instance", "shape"))
    found: list[tuple[Geo, Indices]] = []
    for number, prototype in enumerate(geo.prototypes):
        members = np.flatnonzero(which == number).astype(np.int32)
        if len(members):
            found.append((to_world(flatten(prototype)), members))
    return tuple(found)


def sources(geo: Geo) -> list[Geo]:
    """Return what is drawn one after the other: the geometry itself, then each shape that stands in it."""
    return [geo, *(shape for shape, _ in placed_shapes(geo))]
