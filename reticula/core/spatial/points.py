"""Questions to a cloud of points, answered by SciPy's k-d tree."""

from __future__ import annotations

import math

import numpy as np
from scipy.spatial import cKDTree

from reticula.core.arrays import Floats, Indices
from reticula.core.errors import GeometryError
from reticula.core.geometry.geo import Geo, once_per_geo

__all__ = ["NearestPoints", "points_of"]


class NearestPoints:
    """The points of a geometry, ready to be asked. Make it with :func:`points_of`."""

    def __init__(self, geo: Geo) -> None:
        if not geo.topology.point_count:
            raise GeometryError("there are no points to ask; give a geometry that is not empty")
        self._tree = cKDTree(geo.positions)
        self._count = geo.topology.point_count

    def nearest(self, points: Floats, reach: float = math.inf) -> tuple[Indices, Floats]:
        """Return the nearest point's number ``(N,)`` (-1 beyond ``reach`` m) and its distance in m ``(N,)``."""
        distance, index = self._tree.query(points, distance_upper_bound=np.nextafter(reach, math.inf), workers=-1)
        missing = index == self._count
        return np.where(missing, -1, index).astype(np.int32), np.where(missing, 0.0, distance)


@once_per_geo
def points_of(geo: Geo) -> NearestPoints:
    """Return the points of a geometry as a search tree, built once; raise GeometryError if there are none."""
    return NearestPoints(geo)
