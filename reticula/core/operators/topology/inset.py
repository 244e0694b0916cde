"""Inset: faces or regions of faces shrink inside a ring of new ones."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, ragged_index, starts_from_sizes
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, carry, edges_along, kept
from reticula.core.geometry.measure.areas import face_centers, face_normals, row_means
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.mesh.carry import Maps
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.geometry.planar.straight_skeleton import ShrunkFaces, shrink_faces
from reticula.core.geometry.remesh.extrusion import ExtrusionTopology, numbers_of, plan_extrusion
from reticula.core.geometry.remesh.offsets import Corners, border_offsets, corner_insets
from reticula.core.geometry.remesh.raised_faces import Rings, raise_faces, raise_points
from reticula.core.jit import parallel_kernel, prange
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, PerElement, Selection, Toggle
from reticula.core.operators.shared.held_moves import HeldMoves, hold_back
from reticula.core.rows import rows_at

__all__ = ["inset"]

SAFE = 0.9
"""A face that shrinks by itself, by at most this share of the way to its middle, stays like itself: it cannot cross
itself.
"""


@operator(
    "inset",
    family="topology",
    keywords=("shrink", "frame", "ring", "border", "panel"),
    sections={
        "limits": ("limit",),
        "names of groups": ("inner_group", "ring_group"),
    },
    carries=(
        "Carries all. Ring faces copy the face they surround; the inner corners keep the outer ones' "
        "values, uv too. Old edges "
        "keep theirs, new ones get the default."
    ),
    example="""
        block = geodesic_sphere(frequency=3)
        rings = inset(block, distance=0.03)
        extrude(rings, where="inner", distance=-0.05)
    """,
    related=("extrude", "bevel", "panels"),
    parameters=(
        Selection.each("face", "faces to shrink; empty means all"),
        Toggle("together", False, "shrink faces that touch as one region; off: each face by itself"),
        Choice(
            "by",
            "distance",
            "how far",
            options={
                "distance": "all edges at the border move inwards by as much",
                "fraction": "corners move towards the middle by a share of the way",
            },
        ),
        PerElement(
            "distance",
            {"formula": "0.02 * extent"},
            "width of the ring; negative goes outwards",
            unit="m",
            on="face",
            soft=(0.0, 0.5),
            shown_when=("by", "distance"),
        ),
        PerElement(
            "fraction",
            0.25,
            "share of the way to the middle",
            on="face",
            soft=(0.0, 1.0),
            shown_when=("by", "fraction"),
        ),
        Choice(
            "limit",
            "each face",
            "what happens where a face would cross itself",
            options={
                "each face": "each face, or region, stops just before by itself",
                "smallest": "all stop at the smallest such distance",
                "divide": "edges that are used up vanish and narrow faces come apart; faces one by one, by distance",
                "none": "do not stop",
            },
        ),
        GroupName("inner_group", "inner", "face group that receives the shrunk faces", kind="face"),
        GroupName("ring_group", "ring", "face group that receives the faces around them", kind="face"),
    ),
)
def inset(
    geo: Geo,
    *,
    where: Flags,
    together: bool,
    by: str,
    distance: Floats,
    fraction: Floats,
    limit: str,
    inner_group: str,
    ring_group: str,
) -> Geo:
    """Shrink faces inside themselves and close the gap with a ring of faces.

    By distance, every edge at the border moves inwards by as much, in the plane of its face. A face stops just before
    an edge of it would shrink to nothing or a corner would meet another edge; where it divides, it goes on past that
    (straight skeleton, Aichholzer & Aurenhammer 1996), until just before nothing is left of it. Shrunk faces keep their
    place in the order, rings follow, then the other parts of divided faces. Points, and faces that are not marked, stay
    as they were; so do the points inside a region that shrinks by distance. Outwards, faces lie over their neighbours.
    """
    if not where.any():
        warn("No face is marked, so nothing was shrunk.")
    raised = plan_extrusion(geo.topology, where, together)
    if by == "distance":
        moves = _offsets(geo, raised, together, distance)
    else:
        moves = _shares(geo, raised, together, fraction)
    parts = None
    if limit != "none":
        in_doubt = where if together or by == "distance" else where & ~(fraction <= SAFE)
        held = hold_back(geo, raised, moves, in_doubt, limit == "smallest")
        if limit == "divide" and by == "distance" and not together:
            parts, held = _divided(geo, held, distance)
        moves = held.moves
        if held.held:
            words = "regions" if together else "faces"
            note(f"{held.held:,} {words} held back before they would cross themselves.")
    made, ring = _ringed(geo, raised, moves) if parts is None else _divided_and_ringed(geo, raised, moves, parts)
    note(f"Shrunk {int(where.sum()):,} faces.")
    if parts is not None:
        past = int((parts.reached >= 0).sum())
        note(f"{past:,} of them went on past the point where an edge vanished or the face came apart.")
    inner = np.zeros(len(ring), bool)
    inner[: geo.topology.face_count] = where
    inner[geo.topology.face_count :] = ~ring[geo.topology.face_count :]
    made = made.with_attribute("face", inner_group, inner)
    return made.with_attribute("face", ring_group, ring)


def _offsets(geo: Geo, raised: ExtrusionTopology, together: bool, distance: Floats) -> Floats:
    """Moves of the raised points ``(R, 3)`` by which borders move inwards by ``distance (F,)``."""
    shape, normals = geo.topology, face_normals(geo)
    far = row_means(raised.start, rows_at(shape.corner_face, raised.corner), distance[:, None])
    if not together:
        return corner_insets(geo.positions, shape.face_start, shape.corner_point, normals)[raised.corner] * far
    corners = Corners(shape.corner_point, shape.corner_next, shape.corner_face)
    return border_offsets(raised.wall, raised.number, corners, geo.positions, normals, len(raised.source)) * far


def _shares(geo: Geo, raised: ExtrusionTopology, together: bool, fraction: Floats) -> Floats:
    """Moves of the raised points ``(R, 3)`` by a share of the way to the middle of their face or region."""
    shape = geo.topology
    if not together:
        return _towards(shape.corner_face, raised, face_centers(geo), geo.positions, fraction)
    start, order = group_by(raised.region, int(raised.region.max(initial=-1)) + 1)
    middle = row_means(start, raised.source[order], geo.positions)
    share = row_means(raised.start, rows_at(shape.corner_face, raised.corner), fraction[:, None])
    return (rows_at(middle, raised.region) - rows_at(geo.positions, raised.source)) * share


@parallel_kernel
def _towards(
    corner_face: Indices, raised: ExtrusionTopology, middle: Floats, positions: Floats, fraction: Floats
) -> Floats:
    """The same where every face shrinks by itself, towards its own ``middle (F, 3)``."""
    out = np.empty((len(raised.source), 3))
    for r in prange(len(out)):
        face = corner_face[raised.corner[raised.start[r]]]
        for k in range(3):
            out[r, k] = (middle[face, k] - positions[raised.source[r], k]) * fraction[face]
    return out


def _divided(geo: Geo, held: HeldMoves, distance: Floats) -> tuple[ShrunkFaces | None, HeldMoves]:
    """The parts of faces that go on past where they would cross themselves, and what is still held back."""
    shape = geo.topology
    faces = np.flatnonzero(held.crossing & (distance > 0.0)).astype(np.int32)
    if not len(faces):
        return None, held
    at = geo.positions[shape.corner_point]
    parts = shrink_faces(at, shape.face_start, face_normals(geo), faces, distance[faces])
    gone = int((parts.reached < distance[faces]).sum()) - int((parts.reached < 0).sum())
    if gone:
        note(f"{gone:,} faces stopped just before nothing was left of them.")
    return parts, held._replace(held=held.held - int((parts.reached >= 0).sum()))


class _Pieces(NamedTuple):
    """New faces: where each stands in the order and its size; per corner its point, source corner and old edge."""

    place: AnyArray
    size: AnyArray
    point: AnyArray
    corner: AnyArray
    edge: AnyArray


def _ringed(geo: Geo, raised: ExtrusionTopology, moves: Floats) -> tuple[Geo, AnyArray]:
    """Shrink faces in their place and put a ring around each; also which faces are of rings."""
    shape, fresh, wall = geo.topology, raised.fresh, raised.wall
    target = numbers_of(raised.source, fresh, shape.point_count)
    none = np.zeros(0, np.int32)
    faces = raise_faces(shape, raised, Rings(target, none, 0, 0, 1), none)
    source = np.concatenate([np.arange(shape.point_count, dtype=np.int32), raised.source[fresh]])
    positions = raise_points(geo.positions, raised.source, moves, target, len(source))
    topology = shape.with_faces(len(source), faces.face_start, faces.corner_point)

    def old_edges() -> AnyArray:
        inner = shape.corner_edge.copy()
        inner[wall] = -1
        rings = np.full((len(wall), 4), -1, np.int32)
        rings[:, 0] = shape.corner_edge[wall]
        return np.concatenate([inner, rings.reshape(-1)])

    maps: Maps = {
        "point": kept(source),
        "face": kept(faces.face_source),
        "corner": kept(faces.corner_source),
        "edge": edges_along(topology, old_edges),
    }
    return carry(geo, topology, maps, positions=positions), np.arange(topology.face_count) >= shape.face_count


def _divided_and_ringed(geo: Geo, raised: ExtrusionTopology, moves: Floats, parts: ShrunkFaces) -> tuple[Geo, AnyArray]:
    """Put unmarked faces, shrunk ones, rings and further parts together, in this order; also which are of rings."""
    shape = geo.topology
    divided = np.zeros(shape.face_count, bool)
    divided[shape.corner_face[parts.ring_corner]] = True
    fresh = raised.fresh & ~divided[shape.corner_face[raised.corner[raised.start[:-1]]]]
    wall = raised.wall[~divided[shape.corner_face[raised.wall]]]
    number = numbers_of(raised.source, fresh, shape.point_count)
    number = np.where(raised.number >= 0, number[raised.number], shape.corner_point)
    positions = geo.positions.copy()
    still = ~raised.fresh
    positions[raised.source[still]] += moves[still]
    first = shape.point_count + int(fresh.sum())
    placed = [positions, geo.positions[raised.source[fresh]] + moves[fresh], parts.place]
    source = [np.arange(shape.point_count, dtype=np.int32), raised.source[fresh], shape.corner_point[parts.source]]
    old = shape.corner_edge if geo.attributes["edge"] else np.full(shape.corner_count, -1, np.int32)
    pieces = [
        _own_corners(shape, old, number, raised.wall, divided),
        _quads(shape, old, number, wall),
        _rings(shape, old, parts, first),
        _loops(shape, parts, first),
    ]
    joined = _ordered(_Pieces(*(np.concatenate(column) for column in zip(*pieces, strict=True))))
    start = starts_from_sizes(joined.size)
    topology = shape.with_faces(sum(map(len, placed)), start, joined.point)
    made = carry(
        geo,
        topology,
        {
            "point": kept(np.concatenate(source)),
            "face": kept(shape.corner_face[joined.corner[start[:-1]]]),
            "corner": kept(joined.corner),
            "edge": edges_along(topology, joined.edge),
        },
        positions=np.concatenate(placed),
    )
    return made, (joined.place >= shape.face_count) & (joined.place < shape.face_count + shape.corner_count)


def _ordered(pieces: _Pieces) -> _Pieces:
    """The same faces by their place."""
    order = np.argsort(pieces.place, kind="stable")
    pick, _ = ragged_index(starts_from_sizes(pieces.size), order)
    return _Pieces(pieces.place[order], pieces.size[order], pieces.point[pick], pieces.corner[pick], pieces.edge[pick])


def _own_corners(shape: Topology, old: Indices, point: AnyArray, wall: Indices, divided: Flags) -> _Pieces:
    """Faces in their place, marked ones at their new points; what divides is left out."""
    edge = old.copy()
    edge[wall] = -1
    face, corner = np.arange(shape.face_count, dtype=np.int32), np.arange(shape.corner_count, dtype=np.int32)
    face, corner = face[~divided], corner[~divided[shape.corner_face]]
    return _Pieces(face, shape.face_size[face], point[corner], corner, edge[corner])


def _quads(shape: Topology, old: Indices, point: AnyArray, wall: AnyArray) -> _Pieces:
    """Rings of four-cornered faces, one at each wall."""
    ahead = shape.corner_next[wall]
    corner = np.stack([wall, ahead, ahead, wall], axis=1)
    points = np.stack([shape.corner_point[wall], shape.corner_point[ahead], point[ahead], point[wall]], axis=1)
    edge = np.full((len(wall), 4), -1, np.int32)
    edge[:, 0] = old[wall]
    sizes = np.full(len(wall), 4, np.int32)
    return _Pieces(shape.face_count + wall, sizes, points.reshape(-1), corner.reshape(-1), edge.reshape(-1))


def _rings(shape: Topology, old: Indices, parts: ShrunkFaces, first: int) -> _Pieces:
    """Rings around faces that divided: what each edge has swept."""
    point, corner = _found(shape, parts, parts.ring_point, first)
    edge = np.full(len(point), -1, np.int32)
    edge[parts.ring_start[:-1]] = old[parts.ring_corner]
    return _Pieces(shape.face_count + parts.ring_corner, np.diff(parts.ring_start), point, corner, edge)


def _loops(shape: Topology, parts: ShrunkFaces, first: int) -> _Pieces:
    """What is left of faces that divided: the first part in the face's place, further ones behind all."""
    rank = np.arange(len(parts.loop_face), dtype=np.int32)
    new = np.diff(parts.loop_face, prepend=-1) != 0
    place = np.where(new, parts.loop_face, shape.face_count + shape.corner_count + rank)
    point, corner = _found(shape, parts, parts.loop_point, first)
    return _Pieces(place, np.diff(parts.loop_start), point, corner, np.full(len(point), -1, np.int32))


def _found(shape: Topology, parts: ShrunkFaces, point: Indices, first: int) -> tuple[AnyArray, AnyArray]:
    """The points of divided faces, new ones counted from ``first`` on, and the corner each has its values from."""
    new = point >= 0
    corner = np.empty(len(point), np.int32)
    corner[new], corner[~new] = parts.source[point[new]], -1 - point[~new]
    return np.where(new, first + point, shape.corner_point[corner]), corner
