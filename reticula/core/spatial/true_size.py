"""The size at which a shape stands: distances and reaches are in metres of the world, whatever its place scales."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.geometry.edit.placement import place_of
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.rows import unit

__all__ = ["TrueSize", "true_size"]

RIGID = 1e-9
"""A place whose scale differs from 1 by less than this share scales nothing."""


@dataclass(frozen=True)
class TrueSize:
    """A geometry at the size at which it stands, and the map ``linear (3, 3)`` that leads there from its own space;
    None if its place scales nothing, so that ``geo`` is the geometry itself.

    Only positions differ: elements, their order and all other attributes are those of the geometry.
    """

    geo: Geo
    linear: Floats | None

    def enter(self, rows: AnyArray) -> Floats:
        """Return places or directions ``(N, 3)`` of the own space at true size."""
        given = np.asarray(rows, np.float64)
        return given if self.linear is None else given @ self.linear.T

    def back(self, rows: Floats) -> Floats:
        """Return places or directions ``(N, 3)`` at true size in the own space."""
        return rows if self.linear is None else np.asarray(np.linalg.solve(self.linear, rows.T).T, np.float64)

    def back_normals(self, normals: Floats) -> Floats:
        """Return unit normals ``(N, 3)`` of the surface at true size as those of the surface in the own space."""
        if self.linear is None:
            return normals
        return unit(normals @ self.linear) * np.sign(np.linalg.det(self.linear))

    def stretch(self, ways: Floats) -> Floats:
        """Return how many metres of the world a step of each of ``ways (N, 3)`` is, per length of it ``(N,)``; 1 for
        those of no length.
        """
        if self.linear is None:
            return np.ones(len(ways))
        own = np.linalg.norm(ways, axis=1)
        return np.divide(np.linalg.norm(self.enter(ways), axis=1), own, out=np.ones(len(ways)), where=own > 0)


@once_per_geo
def true_size(geo: Geo) -> TrueSize:
    """Return a geometry at true size: by the linear part of its place."""
    linear = place_of(geo)[:3, :3]
    if np.allclose(linear.T @ linear, np.eye(3), rtol=0.0, atol=RIGID):
        return TrueSize(geo, None)
    return TrueSize(geo.with_positions(geo.positions @ linear.T).without_attribute("whole", "place"), linear)
