"""What is measured on a geometry: areas, normals, lengths, curvature, frames of curves, components, distances along
the surface.
"""

from reticula.core.geometry.measure.areas import (
    area_vectors,
    corner_positions,
    curve_centers,
    curve_lengths,
    edge_centers,
    edge_lengths,
    face_areas,
    face_centers,
    face_normals,
    face_perimeters,
    face_planarity,
    gather_sum,
    point_normals,
    row_means,
)
from reticula.core.rows import unit

__all__ = [
    "area_vectors",
    "corner_positions",
    "curve_centers",
    "curve_lengths",
    "edge_centers",
    "edge_lengths",
    "face_areas",
    "face_centers",
    "face_normals",
    "face_perimeters",
    "face_planarity",
    "gather_sum",
    "point_normals",
    "row_means",
    "unit",
]
