"""Flat sheets put together in their plane: united, subtracted, met."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Floats, Ints, as_readonly, following_in_rows, ragged_index, starts_from_sizes
from reticula.core.diagnostics import note
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edges_along, kept
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.areas import area_vectors, face_normals
from reticula.core.geometry.planar.overlay import Overlay, overlay_polygons, owned_rings
from reticula.core.geometry.planar.planar_loops import planar_loops
from reticula.core.geometry.planar.region_fill import Inside, fill_region, nest_oriented_loops, project_to_plane
from reticula.core.reports.concatenation import concatenate_and_tell
from reticula.core.spatial.face_sampling import sample_faces

__all__ = ["flat_normal", "flat_sheets"]

FLAT = 1e-9
"""How far from one plane sheets may be to be flat, as a share of their size."""


def flat_normal(parts: Sequence[Geo]) -> Floats | None:
    """Return the normal of the plane in which all of several open meshes lie, or None."""
    size = max(float(np.linalg.norm(part.bounds[1] - part.bounds[0])) for part in parts)
    normals = face_normals(parts[0])
    lead = normals[int(np.linalg.norm(normals, axis=1).argmax())] if len(normals) else np.zeros(3)
    if not lead.any():
        return None
    origin = parts[0].positions[parts[0].topology.corner_point[0]]
    for part in parts:
        used = part.positions[np.unique(part.topology.corner_point)]
        if not part.topology.border_edges.any() or np.abs((used - origin) @ lead).max(initial=0.0) > FLAT * size:
            return None
    return lead


class _Faces(NamedTuple):
    """Faces over the nodes of an overlay: ``start (F+1,)``, ``node (C,)``, and the ``source (F,)`` face of each."""

    start: AnyArray
    node: Ints
    source: Ints


def flat_sheets(parts: Sequence[Geo], normal: Floats, operation: str) -> tuple[Geo, AnyArray]:
    """Unite, subtract or intersect flat sheets in their plane; returns the result and the source of each face.

    All faces are laid over each other. Where several lie, the first one counts, also within one sheet. A face that
    nothing cuts stays as it is; one that is cut is the polygon that is left of it, or triangles where that has holes.
    Faces that meet share their points.
    """
    both = concatenate_and_tell(parts)
    shape = both.topology
    center = (both.bounds[0] + both.bounds[1]) / 2
    places, axes = project_to_plane(both.positions - center, normal)
    overlay = overlay_polygons(places, shape.face_start, shape.corner_point)
    owner = _owners(overlay, parts[0].topology.face_count, operation)
    corners = _node_corners(overlay, both)
    tail, head, own = owned_rings(overlay, owner, corners[:, :2])
    faces = _faces(overlay, tail, head, own, both, normal)
    height = float(((both.positions[shape.corner_point] - center) @ normal).mean()) if len(shape.corner_point) else 0.0
    made = _carried(both, overlay, faces, corners, center + overlay.place @ axes + height * normal)
    note(f"{made.topology.face_count:,} flat faces.")
    rest = subset(parts[0], np.zeros(parts[0].topology.face_count, bool))
    if rest.topology.point_count or rest.topology.instance_count:
        made = concatenate_and_tell([made, rest])
    return made, faces.source


def _owners(overlay: Overlay, first: int, operation: str) -> Ints:
    """Return the face that each cell belongs to, -1 where there is none; the first sheet has ``first`` faces."""
    cell, face = overlay.covered.T
    none = np.iinfo(np.int64).max
    lowest = np.full(overlay.cells, none)
    np.minimum.at(lowest, cell, face)
    others = np.zeros(overlay.cells, bool)
    others[cell[face >= first]] = True
    if operation == "difference":
        lowest[others | (lowest >= first)] = none
    if operation == "intersection":
        lowest[~others | (lowest >= first)] = none
    return np.where(lowest == none, -1, lowest)


def _node_corners(overlay: Overlay, geo: Geo) -> Ints:
    """Return face, node and corner of every corner that stands at a node ``(M, 3)``."""
    shape = geo.topology
    node_of = np.full(shape.point_count, -1)
    points, at = _at_nodes(geo, overlay)
    node_of[points] = at
    node = node_of[shape.corner_point]
    corner = np.flatnonzero(node >= 0)
    return np.stack([shape.corner_face[corner].astype(np.int64), node[corner], corner], axis=1)


def _at_nodes(geo: Geo, overlay: Overlay) -> tuple[AnyArray, AnyArray]:
    """Return the points that stand at a node, also those in whose place an earlier one does, and these nodes."""
    nodes = np.flatnonzero(overlay.point >= 0)
    if not len(nodes):
        return nodes, nodes
    used = np.unique(geo.topology.corner_point)
    size = max(float(np.ptp(overlay.place, axis=0).max(initial=0.0)), 1e-300)
    far, near = scipy.spatial.cKDTree(geo.positions[overlay.point[nodes]]).query(geo.positions[used])
    close = np.asarray(far) <= FLAT * size
    return used[close], nodes[np.asarray(near)[close]]


def _faces(overlay: Overlay, tail: Ints, head: Ints, own: Ints, geo: Geo, normal: Floats) -> _Faces:
    """Make faces of what is left of the sides of each owner, in the order of the owners and as they wind."""
    pair = own * len(overlay.place) + tail
    distinct, local = np.unique(np.concatenate([pair, own * len(overlay.place) + head]), return_inverse=True)
    local = local.reshape(2, -1)
    ends = np.stack([overlay.place[tail], overlay.place[head]], axis=1)
    start, item, _ = planar_loops(local[0], local[1], ends, len(distinct))
    owner = own[item[start[:-1]]]
    order = np.argsort(owner, kind="stable")
    nodes = tail[item]
    rows, first, counts = np.unique(owner[order], return_index=True, return_counts=True)
    single = counts == 1
    made_nodes: list[AnyArray] = []
    sizes: list[AnyArray] = []
    sources: list[AnyArray] = []
    flat, begin = ragged_index(start, order[first[single]])
    made_nodes.append(nodes[flat])
    sizes.append(np.diff(begin))
    sources.append(rows[single])
    lifted = np.concatenate([overlay.place, np.zeros((len(overlay.place), 1))], axis=1)
    for row in np.flatnonzero(~single):
        loops = [nodes[start[k] : start[k + 1]] for k in order[first[row] : first[row] + counts[row]]]
        for region in nest_oriented_loops([overlay.place[loop] for loop in loops]):
            filling = fill_region(lifted, [loops[k] for k in region], np.array([0.0, 0, 1]), "polygon", Inside(), 0)
            made_nodes.append(filling.point)
            sizes.append(np.diff(filling.start))
            sources.append(np.full(len(filling.start) - 1, rows[row]))
    size, source, node = np.concatenate(sizes), np.concatenate(sources), np.concatenate(made_nodes)
    order = np.argsort(source, kind="stable")
    pick, begin = ragged_index(starts_from_sizes(size), order)
    source = source[order]
    against = np.asarray(area_vectors(geo) @ normal)[source] < 0
    place = np.arange(len(pick))
    turned = np.repeat(begin[:-1] + begin[1:] - 1, np.diff(begin)) - place
    node = node[pick][np.where(np.repeat(against, np.diff(begin)), turned, place)]
    return _Faces(begin, node, source)


def _carried(both: Geo, overlay: Overlay, faces: _Faces, corners: Ints, spots: Floats) -> Geo:
    """Return the faces with all values: of the corner where a node is one, else blended inside the source face.

    A point of several faces takes those of the first.
    """
    shape = both.topology
    used, point = np.unique(faces.node, return_inverse=True)
    point = point.reshape(-1)
    old = overlay.point[used]
    rank = np.where(old >= 0, old, shape.point_count + used)
    order = np.argsort(rank, kind="stable")
    number = np.empty(len(used), np.int64)
    number[order] = np.arange(len(used))
    used, point = used[order], number[point]
    topology = Topology(len(used), faces.start, point)
    owner = np.repeat(faces.source, np.diff(faces.start))
    column, share = sample_faces(both, owner, spots[faces.node])
    exact = _own_corner(corners, owner, faces.node, len(overlay.place))
    column[exact >= 0] = exact[exact >= 0, None]
    share[exact >= 0] = [1.0, 0.0, 0.0]
    lead = np.full(len(used), len(owner))
    by_owner = np.argsort(owner, kind="stable")[::-1]
    lead[point[by_owner]] = by_owner
    stands = overlay.point[used]
    point_column, point_share = shape.corner_point[column[lead]].astype(np.int64), share[lead]
    main = column[np.arange(len(column)), share.argmax(axis=1)]
    point_main = point_column[np.arange(len(used)), point_share.argmax(axis=1)]
    positions = np.where(stands[:, None] >= 0, both.positions[np.maximum(stands, 0)], spots[used])
    return carry(
        both,
        topology,
        {
            "point": SourceMap(as_readonly(point_main.astype(np.int32)), Weights.rows(point_column, point_share)),
            "face": kept(faces.source),
            "corner": SourceMap(as_readonly(main.astype(np.int32)), Weights.rows(column, share)),
            "edge": edges_along(topology, _along(both, faces, owner, exact, spots)),
            "curve": kept(np.zeros(0)),
            "instance": kept(np.zeros(0)),
        },
        positions=positions,
    )


def _own_corner(corners: Ints, owner: AnyArray, node: AnyArray, count: int) -> AnyArray:
    """Return the corner of its own face that each new corner is, or -1."""
    key = corners[:, 0] * count + corners[:, 1]
    order = np.argsort(key)
    wanted = owner * count + node
    if not len(key):
        return np.full(len(owner), -1)
    at = np.minimum(np.searchsorted(key[order], wanted), len(key) - 1)
    return np.where(key[order][at] == wanted, corners[order[at], 2], -1)


def _along(geo: Geo, faces: _Faces, owner: AnyArray, exact: AnyArray, spots: Floats) -> AnyArray:
    """Return the source edge on which the edge after each new corner lies, or -1."""
    shape = geo.topology
    count = len(owner)
    middle = (spots[faces.node] + spots[faces.node[following_in_rows(faces.start)]]) / 2
    flat, start = ragged_index(shape.face_start, owner)
    rows = np.repeat(np.arange(count), np.diff(start))
    a = geo.positions[shape.corner_point[flat]]
    way = geo.positions[shape.corner_point[shape.corner_next[flat]]] - a
    share = np.einsum("ij,ij->i", middle[rows] - a, way) / np.maximum(np.einsum("ij,ij->i", way, way), 1e-300)
    off = np.linalg.norm(a + np.clip(share, 0, 1)[:, None] * way - middle[rows], axis=1)
    order = np.lexsort([off, rows])
    best = order[start[:-1]] if count else order
    size = max(float(np.linalg.norm(geo.bounds[1] - geo.bounds[0])), 1e-300)
    return np.where(off[best] <= 1e-9 * size, shape.corner_edge[flat[best]], -1)
