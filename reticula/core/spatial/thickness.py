"""How thick the material is behind a surface."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.geometry.measure.areas import point_normals
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.spatial.sampling import NOTHING, sample_ray
from reticula.core.spatial.true_size import true_size

__all__ = ["thickness"]

START = 1e-6
"""A ray begins this share of the mesh's size below the surface, so that it does not hit where it starts."""


@once_per_geo
def thickness(geo: Geo) -> Floats:
    """Return how far it is from each point against its normal to the other side, m ``(P,)``; -1 where there is none."""
    if not geo.topology.face_count:
        return np.full(geo.topology.point_count, NOTHING)
    low, high = true_size(geo).geo.bounds
    begin = START * float(np.linalg.norm(high - low))
    return sample_ray(geo, geo.positions, -point_normals(geo), begin=begin).distance
