"""Meshes cut along the lines where a value at their points crosses certain levels."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Ints, ragged_index
from reticula.core.geometry.edit.level_cut import cut_at_zero
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import Geo

__all__ = ["LevelCut", "cut_at_levels", "snap_to_line"]

VALUE = "_value"
LEAST_TURN = 0.35
"""Sine of the angle by which the way of a point may leave the planes of its faces, so that shapes stay."""


class LevelCut(NamedTuple):
    """A mesh cut at levels: ``band (F,)``, how many levels each face lies above, and ``level (E,)``, which level each
    edge runs along between two bands, or -1.
    """

    geo: Geo
    band: Ints
    level: Ints


def cut_at_levels(geo: Geo, value: Floats, levels: Sequence[float], snap: float) -> LevelCut:
    """Cut faces where ``value (P,)`` crosses the ``levels``, which ascend; it is taken as linear along edges.

    Points that the line passes at less than ``snap`` of an edge's length move onto it, see :func:`snap_to_line`.
    """
    reach = max(float(np.abs(value).max(initial=0.0)), max((abs(level) for level in levels), default=0.0))
    near = 1e-11 * reach
    made = geo.with_attribute("point", VALUE, value)
    for level in levels:
        if snap:
            made = snap_to_line(made, made.attribute("point", VALUE) - level, snap)
        at = made.attribute("point", VALUE) - level
        made = cut_at_zero(made, np.where(np.abs(at) <= near, 0.0, at)).geo
    found = made.attribute("point", VALUE)
    shape = made.topology
    band, on_level = np.zeros(shape.face_count, np.int64), np.full(shape.point_count, -1)
    for n, level in enumerate(levels):
        away = found - level
        away = np.where(np.abs(away) <= near, 0.0, np.sign(away))
        on_level[away == 0.0] = n
        if shape.face_count:
            band += np.add.reduceat(away[shape.corner_point], shape.face_start[:-1]) > 0
    ends = on_level[shape.edges]
    level_of = np.where((ends[:, 0] == ends[:, 1]) & _between(made, band), ends[:, 0], -1)
    return LevelCut(made.without_attribute("point", VALUE), band, level_of)


def _between(geo: Geo, band: Ints) -> Flags:
    """Whether the faces along an edge lie in different bands ``(E,)``."""
    shape = geo.topology
    if not shape.edge_count:
        return np.zeros(0, bool)
    start, corner = shape.edge_corners
    of_corner = band[shape.corner_face[corner]]
    return np.asarray(np.minimum.reduceat(of_corner, start[:-1]) != np.maximum.reduceat(of_corner, start[:-1]))


def snap_to_line(geo: Geo, value: Floats, snap: float) -> Geo:
    """Move points that the line ``value == 0`` passes closer than ``snap`` of an edge onto it, along that edge.

    Each goes along the edge on which it has the shortest way. A point at an open border moves along the border only,
    and none leaves the planes of its faces by much, so that rims and creases stay. Values go along: those of points are
    interpolated, numbers of corners extrapolated in their faces.
    """
    shape = geo.topology
    ends = np.concatenate([shape.edges, shape.edges[:, ::-1]])
    here, there = value[ends[:, 0]], value[ends[:, 1]]
    share = np.divide(here, here - there, out=np.ones(len(ends)), where=here != there)
    rows = np.flatnonzero((here * there < 0.0) & (share < snap))
    border = np.concatenate([shape.border_edges, shape.border_edges])
    rows = rows[border[rows] | ~shape.border_points[ends[rows, 0]]]
    way = (geo.positions[ends[rows, 1]] - geo.positions[ends[rows, 0]]) * share[rows, None]
    stays = _in_planes(geo, ends[rows, 0], way)
    rows, way = rows[stays], way[stays]
    order = np.lexsort([np.linalg.norm(way, axis=1), ends[rows, 0]])
    first = order[np.append(True, np.diff(ends[rows[order], 0]) > 0)] if len(order) else order
    point, other, part, way = ends[rows[first], 0], ends[rows[first], 1], share[rows[first]], way[first]
    if not len(point):
        return geo
    move = np.zeros((shape.point_count, 3))
    move[point] = way
    made = geo
    for name, attribute in geo.attributes["point"].items():
        if attribute.start is None and attribute.values.dtype.kind == "f":
            values = attribute.values.copy()
            weight = part.reshape(-1, *(1,) * (values.ndim - 1))
            values[point] = values[point] * (1.0 - weight) + values[other] * weight
            made = made.with_attribute("point", name, Attribute(attribute.type, values, None, attribute.default))
    made = _with_moved_corners(made, geo, move)
    exact = made.attribute("point", VALUE).copy() if made.has("point", VALUE) else None
    if exact is not None:
        exact[point] = geo.attribute("point", VALUE)[point] - value[point]
        made = made.with_attribute("point", VALUE, exact)
    return made.with_positions(geo.positions + move)


def _in_planes(geo: Geo, point: AnyArray, way: Floats) -> Flags:
    """Whether moving a point by ``way (N, 3)`` stays nearly in the planes of all its faces ``(N,)``."""
    shape = geo.topology
    start, corner = shape.point_corners
    flat, begin = ragged_index(start, point)
    rows = np.repeat(np.arange(len(point)), np.diff(begin))
    normal = face_normals(geo)[shape.corner_face[corner[flat]]]
    length = np.maximum(np.linalg.norm(way, axis=1), 1e-300)
    off = np.abs(np.einsum("ij,ij->i", normal, way[rows])) / length[rows]
    worst = np.zeros(len(point))
    np.maximum.at(worst, rows, off)
    return worst <= LEAST_TURN


def _with_moved_corners(made: Geo, geo: Geo, move: Floats) -> Geo:
    """Extrapolate the numbers of corners whose point moves, linearly from both neighbours in the face."""
    shape = geo.topology
    names = [n for n, a in geo.attributes["corner"].items() if a.start is None and a.values.dtype.kind == "f"]
    corner = np.flatnonzero(move[shape.corner_point].any(axis=1))
    if not names or not len(corner):
        return made
    ahead, behind = shape.corner_next[corner], shape.corner_previous[corner]
    here = geo.positions[shape.corner_point[corner]]
    a, b = geo.positions[shape.corner_point[ahead]] - here, geo.positions[shape.corner_point[behind]] - here
    way = move[shape.corner_point[corner]]
    aa, ab, bb = (np.einsum("ij,ij->i", u, v) for u, v in ((a, a), (a, b), (b, b)))
    wa, wb = np.einsum("ij,ij->i", way, a), np.einsum("ij,ij->i", way, b)
    det = aa * bb - ab * ab
    safe = det > 1e-12 * aa * bb
    s = np.divide(wa * bb - wb * ab, det, out=np.zeros(len(det)), where=safe)
    r = np.divide(wb * aa - wa * ab, det, out=np.zeros(len(det)), where=safe)
    for name in names:
        attribute = geo.find("corner", name)
        values = attribute.values.copy()
        shaped = (-1, *(1,) * (values.ndim - 1))
        own = values[corner]
        values[corner] = own + s.reshape(shaped) * (values[ahead] - own) + r.reshape(shaped) * (values[behind] - own)
        made = made.with_attribute("corner", name, Attribute(attribute.type, values, None, attribute.default))
    return made
