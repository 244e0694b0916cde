"""Which faces must be turned over so that neighbours look the same way."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Indices, Ints
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import kernel

__all__ = ["Orientation", "consistent_orientation"]


class Orientation(NamedTuple):
    """Regions of faces that hang together across edges of exactly two faces: ``region (F,)`` from 0, -1 for faces that
    were not asked for; ``turned (F,)``: which look against the first face of their region; and ``torn (E,)``: edges
    across which that is not possible, as on a band with one side.
    """

    region: Ints
    turned: Flags
    torn: Flags


class _Edges(NamedTuple):
    """The corners along each edge, ``start (E+1,)`` and ``corner``, with the face and point of each corner."""

    start: Indices
    corner: Indices
    face: Indices
    point: Indices


@kernel
def _spread(asked: Flags, face_start: Indices, corner_edge: Indices, edges: _Edges) -> tuple[Indices, Flags, Flags]:
    """Go from face to face across edges of two faces that are asked for."""
    count = len(face_start) - 1
    region, turned = np.full(count, -1, np.int32), np.zeros(count, np.bool_)
    torn, stack = np.zeros(len(edges.start) - 1, np.bool_), np.empty(count, np.int32)
    made = 0
    for first in range(count):
        if region[first] >= 0 or not asked[first]:
            continue
        region[first] = made
        stack[0] = first
        top = 1
        while top > 0:
            top -= 1
            f = stack[top]
            for c in range(face_start[f], face_start[f + 1]):
                e = corner_edge[c]
                begin = edges.start[e]
                if edges.start[e + 1] - begin != 2:
                    continue
                other = edges.corner[begin] if edges.corner[begin] != c else edges.corner[begin + 1]
                g = edges.face[other]
                if g == f or not asked[g]:
                    continue
                against = turned[f] != (edges.point[other] == edges.point[c])
                if region[g] < 0:
                    region[g], turned[g] = made, against
                    stack[top] = g
                    top += 1
                elif turned[g] != against:
                    torn[e] = True
        made += 1
    return region, turned, torn


def consistent_orientation(shape: Topology, asked: Flags | None = None) -> Orientation:
    """Return which of the ``asked (F,)`` faces (all, if not given) look against their neighbours.

    Two faces look the same way if they run along their common edge in opposite directions.
    """
    asked = np.ones(shape.face_count, bool) if asked is None else asked
    edges = _Edges(*shape.edge_corners, shape.corner_face, shape.corner_point)
    region, turned, torn = _spread(asked, shape.face_start, shape.corner_edge, edges)
    return Orientation(region.astype(np.int64), turned, torn)
