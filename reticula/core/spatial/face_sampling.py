"""Places in known faces, as shares of their corners."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Ints, ragged_index
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.planar.barycentric import barycentric

__all__ = ["sample_faces"]


def sample_faces(geo: Geo, face: AnyArray, places: Floats) -> tuple[Ints, Floats]:
    """Return three corners of a ``face (N,)`` and their shares for each of ``places (N, 3)`` in it, both ``(N, 3)``.

    They are of the triangle of the face in which the place lies, or to which it is nearest.
    """
    cut = triangles(geo)
    begin = np.searchsorted(cut.face, np.arange(geo.topology.face_count + 1)).astype(np.int32)
    flat, start = ragged_index(begin, face)
    rows = np.repeat(np.arange(len(face)), np.diff(start))
    corner = geo.positions[geo.topology.corner_point[cut.corner[flat]]]
    weight = barycentric(corner, places[rows])
    off = np.linalg.norm(np.einsum("nk,nkj->nj", weight, corner) - places[rows], axis=1)
    order = np.lexsort([off, rows])
    best = order[start[:-1]] if len(flat) else order
    return cut.corner[flat[best]].astype(np.int64), weight[best]
