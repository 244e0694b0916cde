"""Faces that lie side by side put together as one polygon each."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, as_rows, ragged_index
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.seams import corner_seams, equal_values, joined_elements
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import edges_along, kept
from reticula.core.geometry.planar.boundary_loops import segment_loops
from reticula.core.rows import unit

__all__ = ["equal_across", "flat_across", "merge_across", "without_straight_points"]

STRAIGHT = 1e-7
"""Sine of the angle up to which two edges continue each other."""


def merge_across(geo: Geo, dissolve: Flags) -> tuple[Geo, int]:
    """Return the geometry without the ``dissolve (E,)`` edges, the faces on both sides of each put together.

    Only edges between exactly two faces that wind alike count. Faces that would have a hole, or touch themselves in a
    point, stay apart; returns how many groups did. A merged face stands in the place of its first one and has its
    values; points that no face uses any more are gone.
    """
    shape = geo.topology
    inner = dissolve[shape.corner_edge] & (shape.corner_across >= 0)
    crossed = np.flatnonzero(inner)
    group = joined_elements(
        shape.face_count, shape.corner_face[crossed], shape.corner_face[shape.corner_across[crossed]]
    )
    rim = np.flatnonzero(~inner)
    owner = group[shape.corner_face[rim]]
    key = np.concatenate(
        [
            owner * np.int64(shape.point_count) + shape.corner_point[rim],
            owner * np.int64(shape.point_count) + shape.corner_point[shape.corner_next[rim]],
        ]
    )
    distinct, local = np.unique(key, return_inverse=True)
    tail, head = local.reshape(2, -1)
    start, item, _ = segment_loops(tail, head, len(distinct))
    loops = np.bincount(owner[item[start[:-1]]], minlength=shape.face_count)
    lost = np.bincount(owner, minlength=shape.face_count) != np.bincount(
        np.repeat(owner[item[start[:-1]]], np.diff(start)), minlength=shape.face_count
    )
    members = np.bincount(group, minlength=shape.face_count)
    whole = (loops == 1) & ~lost & (members > 1)
    apart = int(((members > 1) & ~whole).sum())
    if not whole.any():
        return geo, apart
    loop_of = np.full(shape.face_count, -1)
    loop_of[owner[item[start[:-1]]]] = np.arange(len(start) - 1)
    stays = ~whole[group] | (group == np.arange(shape.face_count))
    faces = np.flatnonzero(stays)
    merged = whole[group[faces]]
    sizes = np.where(merged, np.diff(start)[loop_of[group[faces]]], shape.face_size[faces])
    from_loops, _ = ragged_index(start, np.where(merged, loop_of[group[faces]], -1))
    from_faces, _ = ragged_index(shape.face_start, np.where(merged, -1, faces))
    corner = np.empty(int(sizes.sum()), np.int64)
    of_loop = np.repeat(merged, sizes)
    corner[of_loop], corner[~of_loop] = rim[item[from_loops]], from_faces
    topology = shape.with_faces(shape.point_count, np.concatenate([[0], np.cumsum(sizes)]), shape.corner_point[corner])
    made = carry(
        geo,
        topology,
        {"face": kept(faces), "corner": kept(corner), "edge": edges_along(topology, lambda: shape.corner_edge[corner])},
    )
    unused = np.ones(shape.point_count, bool)
    unused[topology.corner_point] = unused[topology.curve_point] = False
    gone = unused & shape.used_points
    return (subset(made, points=~gone) if gone.any() else made), apart


def without_straight_points(geo: Geo, points: Flags) -> Geo:
    """Return the geometry without those of ``points (P,)`` that only stand in the middle of a straight edge.

    That is, where two edges meet that continue each other, and nothing else does. Their faces lose a corner; the edge
    that is left has the values of the first half.
    """
    shape = geo.topology
    degree = np.bincount(shape.edges.reshape(-1), minlength=shape.point_count)
    able = points & (degree == 2)
    able[shape.curve_point] = False
    corner = np.flatnonzero(able[shape.corner_point])
    here = geo.positions[shape.corner_point[corner]]
    ahead = unit(geo.positions[shape.corner_point[shape.corner_next[corner]]] - here)
    behind = unit(geo.positions[shape.corner_point[shape.corner_previous[corner]]] - here)
    bent = (np.linalg.norm(np.cross(ahead, behind), axis=1) > STRAIGHT) | (np.einsum("ij,ij->i", ahead, behind) >= 0)
    able[shape.corner_point[corner[bent]]] = False
    left = np.bincount(shape.corner_face[~able[shape.corner_point]], minlength=shape.face_count)
    able[shape.corner_point[(left < 3)[shape.corner_face]]] = False
    if not able.any():
        return geo
    kept_corner = np.flatnonzero(~able[shape.corner_point])
    sizes = np.bincount(shape.corner_face[kept_corner], minlength=shape.face_count)
    topology = shape.with_faces(
        shape.point_count, np.concatenate([[0], np.cumsum(sizes)]), shape.corner_point[kept_corner]
    )
    made = carry(
        geo,
        topology,
        {"corner": kept(kept_corner), "edge": edges_along(topology, lambda: shape.corner_edge[kept_corner])},
    )
    return subset(made, points=~able)


def flat_across(geo: Geo, normals: AnyArray, tolerance: float) -> Flags:
    """Whether both faces of an edge look the same way, up to ``tolerance`` rad ``(E,)``; by ``normals (F, 3)``."""
    shape = geo.topology
    out = np.zeros(shape.edge_count, bool)
    corner = np.flatnonzero(shape.corner_across >= 0)
    a, b = normals[shape.corner_face[corner]], normals[shape.corner_face[shape.corner_across[corner]]]
    angle = np.arctan2(np.linalg.norm(np.cross(a, b), axis=1), np.einsum("ij,ij->i", a, b))
    flat = (angle <= tolerance) & a.any(axis=1) & b.any(axis=1)
    out[shape.corner_edge[corner[flat]]] = True
    return out


def equal_across(geo: Geo) -> Flags:
    """Whether all values are the same on both sides of an edge ``(E,)``: those of the faces, and of the corners at its
    ends. An edge with a value of its own that is not 0 or empty is not crossed.
    """
    shape = geo.topology
    out = (shape.edge_face_count == 2) & ~corner_seams(geo)
    corner = np.flatnonzero(shape.corner_across >= 0)
    face, other = shape.corner_face[corner], shape.corner_face[shape.corner_across[corner]]
    for attribute in geo.attributes["face"].values():
        out[shape.corner_edge[corner[~equal_values(attribute, face, other)]]] = False
    for attribute in geo.attributes["edge"].values():
        if attribute.start is None and attribute.values.dtype.kind in "fib":
            out &= ~(as_rows(attribute.values) != 0).any(axis=1)
        elif attribute.start is None:
            out &= attribute.values == ""
    return out
