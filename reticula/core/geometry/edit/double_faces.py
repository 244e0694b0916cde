"""Faces that lie on the same points as another one, told apart by which way they run."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Flags
from reticula.core.equal_rows import unique_rows
from reticula.core.geometry.mesh.topology import Topology

__all__ = ["DoubleFaces", "find_double_faces"]


class DoubleFaces(NamedTuple):
    """``copies (F,)``: all but the first of faces that run alike; ``walls (F,)``: pairs that run against each other and
    part what else hangs together, as between two blocks that touch; ``backs (F,)``: the second of other such pairs.
    """

    copies: Flags
    walls: Flags
    backs: Flags


def find_double_faces(shape: Topology) -> DoubleFaces:
    """Return the faces of a mesh that lie on the points of others, in the same order around."""
    copies, walls, backs = (np.zeros(shape.face_count, bool) for _ in range(3))
    partner = np.full(shape.face_count, -1)
    for size in np.unique(shape.face_size):
        rows = np.flatnonzero(shape.face_size == size)
        around = shape.corner_point[shape.face_start[rows][:, None] + np.arange(size)]
        first = _from_lowest(around)
        back = _from_lowest(around[:, ::-1])
        begins, group = unique_rows(np.concatenate([first, back]))
        own, other = group[: len(rows)], group[len(rows) :]
        stands = np.full(len(begins), -1)
        stands[own[::-1]] = np.arange(len(rows))[::-1]
        copies[rows[stands[own] != np.arange(len(rows))]] = True
        against = np.where(own != other, stands[other], -1)
        partner[rows] = np.where(against >= 0, rows[against], -1)
    partner[copies] = -1
    paired = np.flatnonzero(partner >= 0)
    if len(paired):
        inside = _touch_others(shape, partner >= 0, copies)
        walls[paired] = inside[paired]
        backs[paired] = ~inside[paired] & (partner[paired] < paired)
    return DoubleFaces(copies, walls, backs)


def _from_lowest(around: AnyArray) -> AnyArray:
    """Rows of points, each begun at its lowest."""
    at = around.argmin(axis=1)
    return np.take_along_axis(around, (at[:, None] + np.arange(around.shape[1])) % around.shape[1], axis=1)


def _touch_others(shape: Topology, paired: Flags, copies: Flags) -> Flags:
    """Which paired faces hang together with some, across edges, beside which faces without a partner stand ``(F,)``."""
    on = np.flatnonzero(paired[shape.corner_face])
    edge, face = shape.corner_edge[on], shape.corner_face[on]
    order = np.argsort(edge, kind="stable")
    same = edge[order][1:] == edge[order][:-1]
    a, b = face[order][:-1][same], face[order][1:][same]
    count = shape.face_count
    _, piece = scipy.sparse.csgraph.connected_components(
        scipy.sparse.coo_array((np.ones(len(a), np.int8), (a, b)), shape=(count, count)), directed=False
    )
    single = np.zeros(shape.edge_count, np.int64)
    np.add.at(single, shape.corner_edge, ~paired[shape.corner_face] & ~copies[shape.corner_face])
    touches = np.zeros(count, bool)
    touches[piece[face[single[edge] >= 2]]] = True
    return touches[piece] & paired
