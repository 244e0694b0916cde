"""The topology of a bevel: what becomes of corners, edges and points when edges or points are cut off.

Every corner of a cut point is replaced by one or two points: one inside its face where both its edges are cut, else
points that slide along the edges that are not. Cut edges become strips between them, points become polygons.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import inline, kernel

__all__ = ["BevelPlan", "bevel_plan", "points_that_go"]


@dataclass(frozen=True, eq=False)
class BevelPlan:
    """Points and faces of a bevel.

    ``before (C,)``, ``after (C,)``: the points that replace each corner, towards its incoming and its outgoing edge.
    Numbers from ``point_count`` on are new: first ``inner`` corners, each with a point in its face; then ``slid`` edge
    ends ``2 * edge + end``; then the points inside ``arc (A, 2)``, ``segments - 1`` each, from the first end to the
    second. ``strip_edge`` are the cut edges, ``strip_corner (S, 2)`` a corner along each and the one across;
    ``strip_arc (S, 2)`` the arcs at both ends and ``strip_back (S, 2)`` whether they run against the strip.
    ``ring_start``, ``ring``: polygons of points in place of ``ring_point``, where ``ring_meets`` cut edges meet;
    ``arc_uses (A,)`` strips at each arc.
    """

    before: Indices
    after: Indices
    inner: Indices
    slid: Indices
    arc: Indices
    arc_uses: AnyArray
    arc_edge: AnyArray
    arc_point: AnyArray
    strip_edge: AnyArray
    strip_corner: AnyArray
    strip_arc: AnyArray
    strip_back: AnyArray
    ring_start: Indices
    ring: Indices
    ring_point: Indices
    ring_meets: Indices
    ring_corner: Indices


class _Around(NamedTuple):
    """The fan of corners around each point, the points that replace each corner, and the edge that comes in at it."""

    start: Indices
    corner: Indices
    closed: Flags
    before: Indices
    after: Indices
    in_edge: Indices


class _Arcs(NamedTuple):
    """The arcs at the ends of cut edges: which stands at each end ``at (2E,)``, their ends ``ends (A, 2)``, and the
    points
    inside each, ``inner`` of them from ``first_inner`` on.
    """

    cut: Flags
    edges: Indices
    at: Indices
    ends: Indices
    first_inner: int
    inner: int


class _Rings(NamedTuple):
    """Polygons in place of points: ``start (R+1,)``, ``point``, the ``owner (R,)`` and how many arcs each ``meets``."""

    start: Indices
    point: Indices
    owner: Indices
    meets: Indices


@inline
def _write_arc(arcs: _Arcs, e: int, p: int, begin: int, ring: Indices, at: int) -> int:
    """Write the points inside the arc at one end of a cut edge, from ``begin`` on; returns where the ring goes on."""
    a = arcs.at[2 * e + (0 if arcs.edges[e, 0] == p else 1)]
    forward = arcs.ends[a, 0] == begin
    for s in range(arcs.inner):
        ring[at] = arcs.first_inner + a * arcs.inner + (s if forward else arcs.inner - 1 - s)
        at += 1
    return at


@kernel
def _rings(chosen: Indices, around: _Around, arcs: _Arcs) -> _Rings:
    """Go around each chosen point; what is left of fewer than three points, or a single arc's two, is no ring."""
    room = 0
    for k in range(len(chosen)):
        p = chosen[k]
        room += (around.start[p + 1] - around.start[p]) * (2 + arcs.inner)
    ring, sizes = np.empty(room, np.int32), np.zeros(len(chosen) + 1, np.int32)
    owner, meets = np.empty(len(chosen), np.int32), np.empty(len(chosen), np.int32)
    at = made = 0
    for k in range(len(chosen)):
        p = chosen[k]
        row = at
        base = arcs_here = 0
        count = around.start[p + 1] - around.start[p]
        for i in range(count):
            c = around.corner[around.start[p] + i]
            for q in (around.after[c], around.before[c]):
                if at == row or ring[at - 1] != q:
                    ring[at] = q
                    at += 1
                    base += 1
            e = around.in_edge[c]
            if arcs.cut[e] and (around.closed[p] or i + 1 < count):
                arcs_here += 1
                at = _write_arc(arcs, e, p, around.before[c], ring, at)
        if at - row > 1 and ring[at - 1] == ring[row]:
            at -= 1
            base -= 1
        if base >= 3 or (base == 2 and around.closed[p] and arcs_here == 1 and arcs.inner > 0):
            owner[made], meets[made] = p, arcs_here
            made += 1
            sizes[made] = at
        else:
            at = row
    return _Rings(sizes[: made + 1].copy(), ring[:at].copy(), owner[:made].copy(), meets[:made].copy())


def points_that_go(shape: Topology, cut: Flags, points: Flags) -> Flags:
    """Points at which nothing stays: those cut off, and those of several cut edges, whose sectors part."""
    return points | (np.bincount(shape.edges[cut].reshape(-1), minlength=shape.point_count) > 1)


class _CornerPoints(NamedTuple):
    """The points that replace each corner, ``before (C,)`` and ``after (C,)`` it, and which are new: corners with a
    point ``inner`` to their face, and edge ends ``slid``; ``concerned (P,)`` are the points around which all this is.
    """

    before: Indices
    after: Indices
    inner: AnyArray
    slid: AnyArray
    concerned: Flags


class _StripArcs(NamedTuple):
    """Strips along the cut edges, a ``corner (S, 2)`` at either side, and the ``arcs (A, 2)`` at their ends:
    ``which (2S,)`` arc is at the first end of each strip, then at the second, and the two points there ``ends (2S,
    2)``.
    """

    edge: AnyArray
    corner: AnyArray
    arcs: AnyArray
    which: AnyArray
    ends: AnyArray


def _corner_points(shape: Topology, cut: Flags, points: Flags) -> _CornerPoints:
    """Say what becomes of each corner: a point in its face between two cut edges, else one that slides along an
    edge.
    """
    edge, back = shape.corner_edge, shape.corner_edge[shape.corner_previous]
    out, into = cut[edge], cut[back]
    concerned = points.copy()
    concerned[shape.edges[cut].reshape(-1)] = True
    touched = concerned[shape.corner_point]
    end_out = 2 * edge + (shape.edges[edge, 0] != shape.corner_point)
    end_in = 2 * back + (shape.edges[back, 0] != shape.corner_point)
    slides = np.zeros(2 * shape.edge_count, bool)
    slides[end_in[touched & out & ~into]] = True
    slides[end_out[touched & into & ~out]] = True
    whole = touched & points_that_go(shape, cut, points)[shape.corner_point]
    slides[end_in[whole & ~into]] = slides[end_out[whole & ~out]] = True
    inner, slid = np.flatnonzero(out & into & touched), np.flatnonzero(slides)
    number = np.full(2 * shape.edge_count, -1)
    number[slid] = shape.point_count + len(inner) + np.arange(len(slid))
    own = np.full(shape.corner_count, -1)
    own[inner] = shape.point_count + np.arange(len(inner))
    on_in = np.where(number[end_in] >= 0, number[end_in], shape.corner_point)
    on_out = np.where(number[end_out] >= 0, number[end_out], shape.corner_point)
    before = np.where(~touched, shape.corner_point, np.where(out & into, own, np.where(into, on_out, on_in)))
    after = np.where(~touched, shape.corner_point, np.where(out & into, own, np.where(out, on_in, on_out)))
    return _CornerPoints(before.astype(np.int32), after.astype(np.int32), inner, slid, concerned)


def _strip_arcs(shape: Topology, cut: Flags, replaced: _CornerPoints) -> _StripArcs:
    """Lay a strip along each cut edge; strips that end between the same two points share an arc."""
    strip = np.flatnonzero(cut)
    corner = shape.edge_corners[1][shape.edge_corners[0][:-1][strip]]
    across = shape.corner_across[corner]
    before, after = replaced.before.astype(np.int64), replaced.after.astype(np.int64)
    first = np.stack([after[corner], before[shape.corner_next[across]]], axis=1)
    second = np.stack([before[shape.corner_next[corner]], after[across]], axis=1)
    ends = np.concatenate([first, second])
    ordered = np.sort(ends, axis=1)
    most = int(ordered.max(initial=0)) + 1
    key, which = np.unique(ordered[:, 0] * most + ordered[:, 1], return_inverse=True)
    return _StripArcs(
        strip, np.stack([corner, across], axis=1), np.stack([key // most, key % most], axis=1), which.reshape(-1), ends
    )


def bevel_plan(shape: Topology, cut: Flags, points: Flags, segments: int) -> BevelPlan:
    """Plan the bevel of the ``cut (E,)`` edges and the cutting off of ``points (P,)``, which have no cut edges.

    Cut edges must have two faces that wind alike, and every point concerned a single fan of faces.
    """
    replaced = _corner_points(shape, cut, points)
    strips = _strip_arcs(shape, cut, replaced)
    half, which, corner = len(strips.edge), strips.which, strips.corner[:, 0]
    tail = np.where(shape.edges[strips.edge, 0] == shape.corner_point[corner], 0, 1)
    arc_at = np.full(2 * shape.edge_count, -1, np.int32)
    arc_at[2 * strips.edge + tail], arc_at[2 * strips.edge + 1 - tail] = which[:half], which[half:]
    arc_edge, arc_point = np.zeros(len(strips.arcs), np.int64), np.zeros(len(strips.arcs), np.int64)
    arc_edge[which] = np.tile(strips.edge, 2)
    arc_point[which] = np.concatenate([shape.corner_point[corner], shape.corner_point[shape.corner_next[corner]]])
    fans = shape.point_fans
    back = shape.corner_edge[shape.corner_previous]
    first_inner = shape.point_count + len(replaced.inner) + len(replaced.slid)
    arcs = strips.arcs.astype(np.int32).reshape(-1, 2)
    rings = _rings(
        np.flatnonzero(replaced.concerned & (np.diff(fans.start) > 0)).astype(np.int32),
        _Around(fans.start, fans.corner, fans.closed, replaced.before, replaced.after, back),
        _Arcs(cut, shape.edges, arc_at, arcs, first_inner, segments - 1),
    )
    runs_back = strips.ends[:, 0] != arcs[which, 0] if half else np.zeros(0, bool)
    return BevelPlan(
        replaced.before,
        replaced.after,
        replaced.inner.astype(np.int32),
        replaced.slid.astype(np.int32),
        arcs,
        np.bincount(which, minlength=len(arcs)),
        arc_edge,
        arc_point,
        strips.edge,
        strips.corner,
        np.stack([which[:half], which[half:]], axis=1),
        np.stack([runs_back[:half], runs_back[half:]], axis=1),
        rings.start,
        rings.point,
        rings.owner,
        rings.meets,
        fans.corner[fans.start[rings.owner]] if len(rings.owner) else np.zeros(0, np.int32),
    )
