"""Smooth subdivision by Catmull and Clark's rules."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import Floats, Indices, frozen
from reticula.core.compiled import kernel
from reticula.core.errors import LimitError
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry
from reticula.core.notes import note, warn
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import Choice, Integer

__all__ = ["smooth_subdivide"]

MOST_FACES = 16_000_000


@kernel
def _stencil(
    point_count: int, held: Indices, face_start: Indices, corner_point: Indices, edges: Indices,
    edge_start: Indices, edge_corner: Indices, corner_face: Indices,
    point_corner_start: Indices, point_corner: Indices, point_edge_start: Indices, point_edge: Indices,
) -> tuple[Indices, Indices, Floats]:  # fmt: skip
    """Weights of the new points over the old: first the old points, then one per edge, then one per face."""
    faces, edge_count = len(face_start) - 1, len(edges)
    rows = point_count + edge_count + faces
    room = len(corner_point) + 2 * edge_count
    for e in range(edge_count):
        for k in range(edge_start[e], edge_start[e + 1]):
            f = corner_face[edge_corner[k]]
            room += face_start[f + 1] - face_start[f]
    for p in range(point_count):
        room += 1 + point_edge_start[p + 1] - point_edge_start[p]
        for k in range(point_corner_start[p], point_corner_start[p + 1]):
            f = corner_face[point_corner[k]]
            room += face_start[f + 1] - face_start[f]
    start = np.zeros(rows + 1, np.int32)
    column = np.empty(room, np.int32)
    value = np.empty(room, np.float64)
    slot = np.full(point_count, -1, np.int32)
    at = 0
    for p in range(point_count):
        row = at
        corners = point_corner_start[p + 1] - point_corner_start[p]
        spokes = point_edge_start[p + 1] - point_edge_start[p]
        creased = 0
        for k in range(point_edge_start[p], point_edge_start[p + 1]):
            e = point_edge[k]
            if edge_start[e + 1] - edge_start[e] != 2:
                creased += 1
        column[at], value[at] = p, 1.0
        slot[p] = at
        at += 1
        if held[p] or corners == 0:
            pass
        elif creased == 2:
            value[row] = 0.75
            for k in range(point_edge_start[p], point_edge_start[p + 1]):
                e = point_edge[k]
                if edge_start[e + 1] - edge_start[e] != 2:
                    other = edges[e, 0] + edges[e, 1] - p
                    if slot[other] < row:
                        slot[other] = at
                        column[at], value[at] = other, 0.0
                        at += 1
                    value[slot[other]] += 0.125
        elif creased == 0 and corners == spokes:
            n = float(corners)
            value[row] = (n - 2.0) / n
            for k in range(point_edge_start[p], point_edge_start[p + 1]):
                other = edges[point_edge[k], 0] + edges[point_edge[k], 1] - p
                if slot[other] < row:
                    slot[other] = at
                    column[at], value[at] = other, 0.0
                    at += 1
                value[slot[other]] += 1.0 / (n * n)
            for k in range(point_corner_start[p], point_corner_start[p + 1]):
                f = corner_face[point_corner[k]]
                size = face_start[f + 1] - face_start[f]
                for c in range(face_start[f], face_start[f + 1]):
                    other = corner_point[c]
                    if slot[other] < row:
                        slot[other] = at
                        column[at], value[at] = other, 0.0
                        at += 1
                    value[slot[other]] += 1.0 / (n * n * size)
        start[p + 1] = at
    for e in range(edge_count):
        row = at
        for side in range(2):
            p = edges[e, side]
            if slot[p] < row:
                slot[p] = at
                column[at], value[at] = p, 0.0
                at += 1
            value[slot[p]] += 0.5
        if edge_start[e + 1] - edge_start[e] == 2:
            for i in range(row, at):
                value[i] *= 0.5
            for k in range(edge_start[e], edge_start[e + 1]):
                f = corner_face[edge_corner[k]]
                size = face_start[f + 1] - face_start[f]
                for c in range(face_start[f], face_start[f + 1]):
                    p = corner_point[c]
                    if slot[p] < row:
                        slot[p] = at
                        column[at], value[at] = p, 0.0
                        at += 1
                    value[slot[p]] += 0.25 / size
        start[point_count + e + 1] = at
    for f in range(faces):
        row = at
        size = face_start[f + 1] - face_start[f]
        for c in range(face_start[f], face_start[f + 1]):
            p = corner_point[c]
            if slot[p] < row:
                slot[p] = at
                column[at], value[at] = p, 0.0
                at += 1
            value[slot[p]] += 1.0 / size
        start[point_count + edge_count + f + 1] = at
    return start, column[:at].copy(), value[:at].copy()


@kernel
def _quads(
    point_count: int, edge_count: int, face_start: Indices, corner_point: Indices, corner_edge: Indices
) -> tuple[Indices, Indices]:
    """Corners of the new quads and the old face of each: one quad per old corner, in corner order."""
    corners = np.empty(4 * len(corner_point), np.int32)
    face = np.empty(len(corner_point), np.int32)
    for f in range(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        for c in range(first, last):
            before = c - 1 if c > first else last - 1
            corners[4 * c] = corner_point[c]
            corners[4 * c + 1] = point_count + corner_edge[c]
            corners[4 * c + 2] = point_count + edge_count + f
            corners[4 * c + 3] = point_count + corner_edge[before]
            face[c] = f
    return corners, face


@dataclass(frozen=True, eq=False)
class _Level:
    """One level of subdivision of a topology: what to make, and how values of each kind pass into it."""

    topology: Topology
    point: SourceMap
    face: SourceMap
    corner: Callable[[], SourceMap]
    edge: Callable[[], SourceMap]


def _level(shape: Topology, corners: str) -> _Level:
    edge_start, edge_corner = shape.edge_corners
    point_start, point_corner = shape.point_corners
    spoke_start, spoke = shape.point_edges
    held = np.zeros(shape.point_count, np.int32)
    if corners == "keep":
        held[(np.diff(point_start) == 1) & shape.border_points] = 1
    start, column, value = _stencil(
        shape.point_count, held, shape.face_start, shape.corner_point, shape.edges, edge_start, edge_corner,
        shape.corner_face, point_start, point_corner, spoke_start, spoke,
    )  # fmt: skip
    quads, face = _quads(shape.point_count, shape.edge_count, shape.face_start, shape.corner_point, shape.corner_edge)
    count = shape.point_count + shape.edge_count + shape.face_count
    first = shape.corner_point[shape.face_start[:-1]]
    source = np.concatenate([np.arange(shape.point_count, dtype=np.int32), shape.edges[:, 0], first])
    topology = Topology(
        count, 4 * np.arange(len(face) + 1), quads, shape.curve_start, shape.curve_point, shape.curve_closed
    )
    return _Level(
        topology,
        SourceMap(frozen(source), Weights(start, column, value)),
        SourceMap(frozen(face)),
        lambda: shape.memoise("subdivided corners", lambda: _corner_map(shape)),
        lambda: shape.memoise("subdivided edges", lambda: _edge_map(shape, topology)),
    )


def _corner_map(shape: Topology) -> SourceMap:
    """Corner values are interpolated inside their own face, so that seams of uv stay seams."""
    own = np.arange(shape.corner_count, dtype=np.int32)
    size = shape.face_size[shape.corner_face]
    counts = np.stack([np.ones_like(size), np.full_like(size, 2), size, np.full_like(size, 2)], axis=1).reshape(-1)
    start = np.zeros(len(counts) + 1, np.int32)
    np.cumsum(counts, out=start[1:])
    column, value = np.empty(start[-1], np.int32), np.empty(start[-1])
    at = start[:-1].reshape(-1, 4)
    column[at[:, 0]], value[at[:, 0]] = own, 1.0
    for quad_corner, other in ((1, shape.corner_next), (3, shape.corner_previous)):
        column[at[:, quad_corner]], column[at[:, quad_corner] + 1] = own, other
        value[at[:, quad_corner]] = value[at[:, quad_corner] + 1] = 0.5
    step = np.arange(size.sum()) - np.repeat(np.cumsum(size) - size, size)
    place = np.repeat(at[:, 2], size) + step
    column[place] = np.repeat(shape.face_start[shape.corner_face], size) + step
    value[place] = np.repeat(1.0 / size, size)
    return SourceMap(np.repeat(own, 4), Weights(start, column, value))


def _edge_map(shape: Topology, topology: Topology) -> SourceMap:
    """Both halves of an old edge copy it; the new edges across the faces have no source."""
    index = np.full(topology.edge_count, -1, np.int32)
    low, high = topology.edges.min(axis=1), topology.edges.max(axis=1)
    half = (low < shape.point_count) & (high < shape.point_count + shape.edge_count)
    index[half] = high[half] - shape.point_count
    return SourceMap(index)


@operator(
    "smooth_subdivide",
    family="topology",
    keywords=("subdivision", "catmull", "clark", "round", "refine"),
    carries=(
        "Carries all. Point values are blended with the same weights as positions, corner values (uv) inside their own "
        "face; faces copy their source face, half edges their whole edge. Flags, integers and text are copied."
    ),
    parameters=(
        Integer("levels", 1, "how often to subdivide; each level makes about four times the faces", soft=(1, 4), low=0, high=8),
        Choice("corners", "round", "points with a single face at an open border", options={
            "round": "follow the smooth border curve", "keep": "stay where they are, so that a sheet keeps its corners",
        }),
    ),
)  # fmt: skip
def smooth_subdivide(geo: Geo, *, levels: int, corners: str) -> Geo:
    """Cut every face into quads and smooth the shape towards a continuous surface.

    Catmull & Clark, "Recursively generated B-spline surfaces on arbitrary topological meshes", Computer-Aided Design
    10(6), 1978. Open borders become cubic B-splines of their own (weights 1/8, 3/4, 1/8); edges with more than two
    faces are treated as borders, and points where borders meet stay. The weights are worked out once per topology
    and applied to every point attribute. Loose points and curves are left as they are.
    """
    shape = geo.topology
    expected = shape.corner_count * 4 ** max(levels - 1, 0)
    if expected > MOST_FACES:
        raise LimitError(
            f"{levels} levels would make {expected:,} faces; {MOST_FACES:,} is the most. "
            "Take fewer levels, or start from fewer faces."
        )
    if not shape.face_count:
        warn("There are no faces to subdivide.")
        return geo
    for _ in range(levels):
        shape = geo.topology
        level = shape.memoise(("smooth subdivide", corners), lambda shape=shape: _level(shape, corners))  # type: ignore[misc]
        maps = {"point": level.point, "face": level.face, "corner": level.corner, "edge": level.edge}
        geo = carry(geo, level.topology, maps)  # type: ignore[arg-type]
    if levels:
        note(f"Subdivided to {geo.topology.face_count:,} faces.")
    return geo
