"""How much a closed surface holds."""

from __future__ import annotations

import numpy as np

from reticula.core.errors import GeometryError
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo

__all__ = ["volume"]


def volume(geo: Geo) -> float:
    """Return the volume inside a closed surface in m³; below 0 where faces face inwards.

    By the divergence theorem: the sum of the tetrahedra from one place to each triangle (Zhang and Chen, "Efficient
    feature extraction for 2D/3D objects in mesh representation", ICIP 2001). Raises GeometryError if the surface has
    open borders: then nothing is inside.
    """
    open_edges = int(geo.topology.border_edges.sum())
    if open_edges:
        raise GeometryError(
            f"a volume needs a closed surface, and this has {open_edges:,} edges on open borders; fill them"
        )
    if not geo.topology.face_count:
        return 0.0
    corner = geo.positions[geo.topology.corner_point[triangles(geo).corner]] - geo.positions.mean(axis=0)
    return float(np.einsum("ij,ij->", corner[:, 0], np.cross(corner[:, 1], corner[:, 2])) / 6.0)
