"""How points of a bevel slide along edges, and what the points in faces blend."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, Ints
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.geometry.remesh.bevel import points_that_go
from reticula.core.jit import inline, kernel, parallel_kernel, prange
from reticula.core.rows import dot3, row_crosses, row_dots, row_lengths, rows_at, unit

__all__ = ["inner_shares", "slide_rates"]


class _Ends(NamedTuple):
    """Per corner: its point, its edge and the one before it, and which of their ends stand at it; whether each edge
    is cut, and whether nothing stays of each point.
    """

    point: Indices
    out: Indices
    back: Indices
    end_out: Ints
    end_in: Ints
    cut: Flags
    whole: Flags


class _Sides(NamedTuple):
    """Per corner the unit directions of its two edges, sine and cosine between them, and its inset per metre."""

    ahead: Floats
    behind: Floats
    sine: Floats
    cosine: Floats
    inset: Floats


def slide_rates(shape: Topology, positions: Floats, cut: Flags, points: Flags, insets: Floats) -> tuple[Floats, Floats]:
    """How far points slide along each edge end ``(2E,)`` per metre of width, and how fast edges shrink there
    ``(2E,)``.
    """
    out, back = shape.corner_edge, rows_at(shape.corner_edge, shape.corner_previous)
    end_out = 2 * out.astype(np.int64) + (rows_at(shape.edges[:, 0], out) != shape.corner_point)
    end_in = 2 * back.astype(np.int64) + (rows_at(shape.edges[:, 0], back) != shape.corner_point)
    place = rows_at(positions, shape.corner_point)
    ahead = unit(rows_at(place, shape.corner_next) - place)
    behind = unit(rows_at(place, shape.corner_previous) - place)
    sine = np.maximum(row_lengths(row_crosses(ahead, behind)), 0.2)
    ends = _Ends(shape.corner_point, out, back, end_out, end_in, cut, points_that_go(shape, cut, points))
    return _rates(ends, _Sides(ahead, behind, sine, row_dots(ahead, behind), insets), 2 * shape.edge_count)


@inline
def _dot(a: Floats, b: Floats, c: int) -> float:
    return dot3(a[c, 0], a[c, 1], a[c, 2], b[c, 0], b[c, 1], b[c, 2])


@kernel
def _rates(ends: _Ends, sides: _Sides, count: int) -> tuple[Floats, Floats]:
    slide, times = np.zeros(count), np.zeros(count)
    corners = len(ends.point)
    for c in range(corners):
        if ends.cut[ends.out[c]] and not ends.cut[ends.back[c]]:
            slide[ends.end_in[c]] += 1.0 / sides.sine[c]
            times[ends.end_in[c]] += 1.0
    for c in range(corners):
        if ends.cut[ends.back[c]] and not ends.cut[ends.out[c]]:
            slide[ends.end_out[c]] += 1.0 / sides.sine[c]
            times[ends.end_out[c]] += 1.0
    for e in range(count):
        slide[e] /= max(times[e], 1.0)
    for c in range(corners):
        if ends.whole[ends.point[c]]:
            for e in (ends.end_in[c], ends.end_out[c]):
                if times[e] == 0.0:
                    slide[e] = 1.0
    shrink = slide.copy()
    for c in range(corners):
        into, out = ends.cut[ends.back[c]], ends.cut[ends.out[c]]
        i, o = ends.end_in[c], ends.end_out[c]
        x, y, z = sides.inset[c]
        if out and into:
            shrink[o] = np.maximum(shrink[o], (x * sides.ahead[c, 0] + z * sides.ahead[c, 2]) + y * sides.ahead[c, 1])
            shrink[i] = np.maximum(
                shrink[i], (x * sides.behind[c, 0] + z * sides.behind[c, 2]) + y * sides.behind[c, 1]
            )
        elif out:
            shrink[o] = np.maximum(shrink[o], slide[i] * sides.cosine[c])
        elif into:
            shrink[i] = np.maximum(shrink[i], slide[o] * sides.cosine[c])
    return slide, np.maximum(shrink, 0.0)


class _Corners(NamedTuple):
    """Per inner point: the corner's point, the one ahead and the one behind, and how far it moves."""

    point: Indices
    ahead: Indices
    behind: Indices
    move: Floats


def inner_shares(shape: Topology, positions: Floats, inner: Indices, move: Floats) -> Floats:
    """Return how much the points at the corners ``inner (N,)`` that ``move (N, 3)`` into their faces have of the
    corner, the next one and the one before ``(N, 3)``.
    """
    ahead, behind = rows_at(shape.corner_next, inner), rows_at(shape.corner_previous, inner)
    point = shape.corner_point
    return _shares(positions, _Corners(rows_at(point, inner), rows_at(point, ahead), rows_at(point, behind), move))


@parallel_kernel
def _shares(positions: Floats, corners: _Corners) -> Floats:
    point, ahead, behind, move = corners.point, corners.ahead, corners.behind, corners.move
    out = np.empty((len(point), 3))
    for n in prange(len(point)):
        p, q, r = point[n], ahead[n], behind[n]
        u0, u1, u2 = (
            positions[q, 0] - positions[p, 0],
            positions[q, 1] - positions[p, 1],
            positions[q, 2] - positions[p, 2],
        )
        v0, v1, v2 = (
            positions[r, 0] - positions[p, 0],
            positions[r, 1] - positions[p, 1],
            positions[r, 2] - positions[p, 2],
        )
        m0, m1, m2 = move[n, 0], move[n, 1], move[n, 2]
        uu, vv = dot3(u0, u1, u2, u0, u1, u2), dot3(v0, v1, v2, v0, v1, v2)
        uv, um, vm = dot3(u0, u1, u2, v0, v1, v2), dot3(u0, u1, u2, m0, m1, m2), dot3(v0, v1, v2, m0, m1, m2)
        det = np.maximum(uu * vv - uv * uv, 1e-300)
        alpha = np.minimum(np.maximum((um * vv - vm * uv) / det, 0.0), 1.0)
        beta = np.minimum(np.maximum((vm * uu - um * uv) / det, 0.0), 1.0)
        out[n, 0], out[n, 1], out[n, 2] = 1.0 - alpha - beta, alpha, beta
    return out
