"""Edge loops and rings: rows of edges end to end, and rows of edges side by side, through faces of four sides."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Indices
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import kernel

__all__ = ["edge_loops", "edge_rings"]


def edge_loops(shape: Topology, chosen: Flags) -> Flags:
    """Return the chosen edges ``(E,)`` with all that follow them end to end, straight on through points of four edges.

    Along an open border the loop follows the border. Common practice, no source.
    """
    return _walk(_half_edges(shape), chosen, True)


def edge_rings(shape: Topology, chosen: Flags) -> Flags:
    """Return the chosen edges ``(E,)`` with all that lie opposite them, from quad to quad.

    Common practice, no source.
    """
    return _walk(_half_edges(shape), chosen, False)


class _HalfEdges(NamedTuple):
    """Per corner: the next one of its face, the size of that, its edge, the corner on the other side (-1: none) and its
    point; and the starts of the edges around each point.
    """

    after: Indices
    size: Indices
    edge: Indices
    twin: Indices
    point: Indices
    point_start: Indices


def _half_edges(shape: Topology) -> _HalfEdges:
    return _HalfEdges(
        shape.corner_next,
        shape.face_size[shape.corner_face],
        shape.corner_edge,
        shape.corner_across,
        shape.corner_point,
        shape.point_edges[0].astype(np.int32),
    )


@kernel
def _walk(half: _HalfEdges, chosen: Flags, loop: bool) -> Flags:
    after, size, edge, twin, corner_point, point_start = half
    found = chosen.copy()
    for corner in range(len(edge)):
        if not chosen[edge[corner]]:
            continue
        at = corner
        for _ in range(len(edge)):
            if loop:
                step = after[at]
                point = corner_point[step]
                valence = point_start[point + 1] - point_start[point]
                other = twin[step]
                if other < 0:  # a border: the next edge along it
                    if twin[at] >= 0 or valence > 3:
                        break
                    at = step
                elif twin[at] < 0:  # on a border, go on along it
                    while other >= 0:
                        step = after[other]
                        other = twin[step]
                    at = step
                else:
                    if valence != 4:
                        break
                    at = after[other]
            else:
                if size[at] != 4:
                    break
                across = after[after[at]]
                found[edge[across]] = True
                at = twin[across]
                if at < 0:
                    break
            if found[edge[at]] and edge[at] == edge[corner]:
                break
            found[edge[at]] = True
    return found
