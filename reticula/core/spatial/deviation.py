"""How far two surfaces lie apart at most."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.spatial.surface import surface_of

__all__ = ["farthest_between"]


def _samples(geo: Geo) -> Floats:
    """Places on a surface ``(N, 3)``: its points, the middles of the edges of its triangles and their middles."""
    corner = geo.positions[geo.topology.corner_point[triangles(geo).corner]]
    used = np.unique(geo.topology.corner_point)
    middles = 0.5 * (corner + corner[:, [1, 2, 0]])
    return np.concatenate([geo.positions[used], middles.reshape(-1, 3), corner.mean(axis=1)])


def farthest_between(a: Geo, b: Geo) -> float:
    """Return the largest distance in m from a sample of either surface to the other: the Hausdorff distance up to what
    lies between the samples (Cignoni, Rocchini & Scopigno, "Metro: measuring error on simplified surfaces", Computer
    Graphics Forum 17(2), 1998). Infinite if one of them has no faces.
    """
    if not a.topology.face_count or not b.topology.face_count:
        return float("inf")
    there = surface_of(b).closest(_samples(a)).distance
    back = surface_of(a).closest(_samples(b)).distance
    return float(max(there.max(), back.max()))
