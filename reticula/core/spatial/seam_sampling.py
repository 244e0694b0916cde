"""Values of corners read from a surface at new places, on the right side of its seams."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Ints
from reticula.core.geometry.measure.areas import face_centers
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.rows import unit
from reticula.core.spatial.face_sampling import sample_faces
from reticula.core.spatial.sampling import sample_closest
from reticula.core.spatial.surface import surface_of

__all__ = ["sample_beside_seams"]


def sample_beside_seams(geo: Geo, seams: Flags, places: Floats, inward: Floats, on_seam: Flags) -> tuple[Ints, Floats]:
    """Return three corners of ``geo`` ``(N, 3)`` and their weights ``(N, 3)`` for each of ``places (N, 3)``.

    They are of the nearest triangle; but for places that are ``on_seam (N,)`` of the triangle at the nearest of the
    ``seams (E,)`` to whose side ``inward (N, 3)`` points.
    """
    cut = triangles(geo)
    near = surface_of(geo).closest(places)
    corners, weights = cut.corner[near.triangle].astype(np.int64), near.weight.copy()
    rows, edges = np.flatnonzero(on_seam), np.flatnonzero(seams)
    if not len(rows) or not len(edges):
        return corners, weights
    face = _faces_at(geo, edges[_nearest_edge(geo, edges, places[rows])], inward[rows])
    corners[rows], weights[rows] = sample_faces(geo, face, places[rows])
    return corners, weights


def _nearest_edge(geo: Geo, edges: AnyArray, places: Floats) -> AnyArray:
    """Which of ``edges`` is the nearest to each place ``(N,)``."""
    ends = geo.topology.edges[edges]
    lines = Topology(
        geo.topology.point_count,
        curve_start=2 * np.arange(len(edges) + 1),
        curve_point=ends.reshape(-1),
        curve_closed=np.zeros(len(edges), bool),
    )
    return sample_closest(Geo.of(geo.positions, lines), places).maps["curve"].index


def _faces_at(geo: Geo, edges: AnyArray, inward: Floats) -> AnyArray:
    """Return of the two faces along each edge the one to whose side ``inward (N, 3)`` points ``(N,)``."""
    shape = geo.topology
    start, corner = shape.edge_corners
    first, second = corner[start[edges]], corner[start[edges + 1] - 1]
    a, b = geo.positions[shape.edges[edges, 0]], geo.positions[shape.edges[edges, 1]]
    along = unit(b - a)
    centers = face_centers(geo)

    def lean(faces: AnyArray) -> Floats:
        way = centers[faces] - a
        across = unit(way - np.einsum("ij,ij->i", way, along)[:, None] * along)
        return np.asarray(np.einsum("ij,ij->i", across, inward))

    one, other = shape.corner_face[first], shape.corner_face[second]
    return np.where(lean(one) >= lean(other), one, other)
