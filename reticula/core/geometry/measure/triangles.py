"""Triangles of polygons, for drawing, for nearest places and for rays. The polygons themselves stay as they are."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices
from reticula.core.geometry.measure.areas import area_vectors
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.geometry.planar.ear_clipping import cut_polygons

__all__ = ["Triangles", "halves", "largest_triangle_middles", "longest_edges", "triangles"]


@dataclass(frozen=True, eq=False)
class Triangles:
    """``corner (T, 3)``: the face corners of each triangle, counter-clockwise; ``face (T,)``: the face it is from."""

    corner: Indices
    face: Indices


@once_per_geo
def triangles(geo: Geo) -> Triangles:
    """Cut every face into triangles by its own corners.

    A quad is cut so that both halves face its way, along its shorter diagonal if both cuts do; larger faces by ear
    clipping, short cuts first (Meisters, "Polygons have ears", Amer. Math. Monthly 82, 1975), in the plane of their
    area vector. All that measures, hits, samples or draws faces cuts them by this, as *triangulate* does. A face that
    crosses itself still gives its number of corners minus 2.
    """
    shape = geo.topology
    count = shape.corner_count - 2 * shape.face_count
    if count == shape.face_count:
        corner = np.arange(shape.corner_count, dtype=np.int32).reshape(-1, 3)
        return Triangles(corner, np.arange(count, dtype=np.int32))
    return Triangles(*cut_polygons(geo.positions, shape.face_start, shape.corner_point, area_vectors(geo)))


def longest_edges(corner: Floats) -> tuple[Indices, Floats]:
    """Return the longest edge of each triangle ``corner (N, 3, 3)``, by the number of the corner where it begins
    ``(N,)``, and its length ``(N,)`` in m.
    """
    length = np.linalg.norm(corner - corner[:, [1, 2, 0]], axis=2)
    edge = length.argmax(axis=1).astype(np.int32)
    return edge, np.asarray(length[np.arange(len(edge)), edge])


def halves(values: AnyArray, edge: Indices, middle: AnyArray) -> AnyArray:
    """Return what the halves of triangles have at their corners ``(2N, 3, ...)``: those of one after the other.

    Triangles with ``values (N, 3, ...)`` are cut from a place on the ``edge (N,)``, from its corner of that number to
    the next, where the value is ``middle (N, ...)``, to the corner across.
    """
    order = (edge[:, None] + np.arange(3)) % 3
    both = np.repeat(values[np.arange(len(edge))[:, None], order], 2, axis=0)
    both[0::2, 1], both[1::2, 0] = middle, middle
    return both


def largest_triangle_middles(geo: Geo) -> Floats:
    """Return a place inside each face ``(F, 3)``: the middle of its largest triangle."""
    cut = triangles(geo)
    corner = geo.positions[geo.topology.corner_point[cut.corner]]
    area = np.linalg.norm(np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]), axis=1)
    order = np.lexsort([area, cut.face])
    last = np.flatnonzero(np.append(cut.face[order][1:] != cut.face[order][:-1], True)) if len(order) else order
    return corner[order[last]].mean(axis=1)
