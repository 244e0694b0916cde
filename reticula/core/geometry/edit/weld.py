"""Points made one, and what becomes of the faces and curves through them."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Indices, following_in_rows, ragged_index
from reticula.core.equal_rows import unique_rows
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.mesh.carry import Map, carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edges_along, kept
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import kernel

__all__ = ["cluster_by_distance", "weld_points"]


@kernel
def _welded_faces(
    label: Indices, points: int, face_start: Indices, corner_point: Indices
) -> tuple[Indices, Indices, Indices]:
    """Starts, old corners and old faces of the faces that are left once points are replaced by their labels.

    Corners whose next one has the same label go. A face that comes back to a point is cut there into several; what
    has fewer than three corners goes.
    """
    count = len(corner_point)
    start = np.empty(count + 1, np.int32)
    corner = np.empty(count, np.int32)
    face = np.empty(count, np.int32)
    slot = np.full(points, -1, np.int32)
    longest = 0
    for f in range(len(face_start) - 1):
        longest = max(longest, face_start[f + 1] - face_start[f])
    stack = np.empty(longest + 1, np.int32)
    faces = at = 0
    start[0] = 0
    for f in range(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        top = 0
        for c in range(first, last):
            following = c + 1 if c + 1 < last else first
            own = label[corner_point[c]]
            if own == label[corner_point[following]]:
                continue
            if slot[own] >= 0:
                begin = slot[own]
                if top - begin >= 3:
                    for k in range(begin, top):
                        corner[at] = stack[k]
                        at += 1
                    face[faces] = f
                    faces += 1
                    start[faces] = at
                for k in range(begin, top):
                    slot[label[corner_point[stack[k]]]] = -1
                top = begin
            slot[own] = top
            stack[top] = c
            top += 1
        if top >= 3:
            for k in range(top):
                corner[at] = stack[k]
                at += 1
            face[faces] = f
            faces += 1
            start[faces] = at
        for k in range(top):
            slot[label[corner_point[stack[k]]]] = -1
    return start[: faces + 1].copy(), corner[:at].copy(), face[:faces].copy()


@kernel
def _clusters(start: Indices, near: Indices, chosen: Indices, count: int) -> Indices:
    """Each point in order that is not taken yet takes all near it that are free: the leader of each point."""
    leader = np.full(count, -1, np.int32)
    for i in range(len(chosen)):
        p = chosen[i]
        if leader[p] >= 0:
            continue
        leader[p] = p
        for k in range(start[i], start[i + 1]):
            q = chosen[near[k]]
            if leader[q] < 0:
                leader[q] = p
    for p in range(count):
        if leader[p] < 0:
            leader[p] = p
    return leader


def cluster_by_distance(positions: AnyArray, chosen: AnyArray, radius: float) -> Indices:
    """Return for each point ``(P,)`` the point it is welded to: the first in order, of those ``chosen``, within
    ``radius`` m.
    """
    from scipy.spatial import cKDTree

    chosen = np.asarray(chosen, np.int32)
    if not len(chosen):
        return np.arange(len(positions), dtype=np.int32)
    if radius == 0.0:
        first, back = unique_rows(np.ascontiguousarray(positions[chosen] + 0.0).view(np.int64))
        leader = np.arange(len(positions), dtype=np.int32)
        leader[chosen] = chosen[first[back]]
        return leader
    pairs = cKDTree(positions[chosen]).query_pairs(radius, output_type="ndarray")
    both = np.concatenate([pairs, pairs[:, ::-1]]).astype(np.int32)
    start, order = group_by(np.ascontiguousarray(both[:, 0]), len(chosen))
    return _clusters(start, both[order, 1], chosen, len(positions))


def weld_points(geo: Geo, leader: AnyArray, *, average: bool = True) -> Geo:
    """Return the geometry with each point replaced by its ``leader (P,)``, leaders leading themselves.

    Numbers and vectors of a merged point are the mean of its points, or the leader's own. Faces lose repeated corners;
    those left with fewer than three, and curves left with fewer than two points, go.
    """
    shape = geo.topology
    own = np.flatnonzero(leader == np.arange(shape.point_count))
    if len(own) == shape.point_count:
        return geo
    number = np.full(shape.point_count, -1, np.int32)
    number[own] = np.arange(len(own))
    label = number[leader]
    start, corner, face = _welded_faces(label, len(own), shape.face_start, shape.corner_point)
    along = label[shape.curve_point]
    owner = np.repeat(np.arange(shape.curve_count), np.diff(shape.curve_start))
    following = following_in_rows(shape.curve_start)
    stays = along != along[following] if len(along) else np.zeros(0, bool)
    ends = shape.curve_start[1:][~shape.curve_closed] - 1
    stays[ends] = True
    sizes = np.bincount(owner[stays], minlength=shape.curve_count)
    curves = np.flatnonzero(sizes >= 2)
    filtered = np.concatenate([[0], np.cumsum(sizes)]).astype(np.int32)
    used, curve_start = ragged_index(filtered, curves)
    topology = Topology(
        len(own),
        start,
        label[shape.corner_point[corner]],
        curve_start,
        along[stays][used],
        shape.curve_closed[curves] & (sizes[curves] >= 3),
        shape.instance_count,
    )
    weights = None
    if average:
        rows, members = group_by(label, len(own))
        weights = Weights.means(rows, members)
    maps: dict[Kind, Map] = {
        "point": SourceMap(own.astype(np.int32), weights),
        "face": kept(face),
        "corner": kept(corner),
        "curve": kept(curves),
    }
    if geo.attributes["edge"]:
        maps["edge"] = edges_along(topology, shape.corner_edge[corner])
    return carry(geo, topology, maps)
