"""Smooth subdivision by the rules of Catmull and Clark, and of Loop."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, as_readonly, ragged_index
from reticula.core.diagnostics import note, warn
from reticula.core.errors import LimitError, ParameterError
from reticula.core.geometry import Attribute, Geo, Kind, SourceMap, Topology, carry
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.mesh.source_maps import Blend
from reticula.core.geometry.remesh.face_split import split_plan
from reticula.core.geometry.remesh.subdivision import CatmullClark, CornerQuads, Flat, Loop, Reordered, creases
from reticula.core.jit import parallel_kernel, prange
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, Integer, PerElement, Selection
from reticula.core.words import with_article

__all__ = ["smooth_subdivide"]

MOST_FACES = 16_000_000
SHARE = "_share"
HELD = 1e6
"""A sharpness that no number of levels wears off."""


@parallel_kernel
def _quads(
    point_count: int, edge_count: int, face_start: Indices, corner_point: Indices, corner_edge: Indices
) -> tuple[Indices, Indices]:
    """Corners of the new quads and the old face of each: one quad per old corner, in corner order."""
    corners = np.empty(4 * len(corner_point), np.int32)
    face = np.empty(len(corner_point), np.int32)
    for f in prange(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        for c in range(first, last):
            corners[4 * c] = corner_point[c]
            corners[4 * c + 1] = point_count + corner_edge[c]
            corners[4 * c + 2] = point_count + edge_count + f
            corners[4 * c + 3] = point_count + corner_edge[c - 1 if c > first else last - 1]
            face[c] = f
    return corners, face


@parallel_kernel
def _quarters(point_count: int, corner_point: Indices, corner_edge: Indices) -> Indices:
    """Corners of the four triangles that each triangle becomes: one at each corner, then the middle one."""
    corners = np.empty(4 * len(corner_point), np.int32)
    for f in prange(len(corner_point) // 3):
        for k in range(3):
            c, before = 3 * f + k, 3 * f + (k + 2) % 3
            corners[12 * f + 3 * k] = corner_point[c]
            corners[12 * f + 3 * k + 1] = point_count + corner_edge[c]
            corners[12 * f + 3 * k + 2] = point_count + corner_edge[before]
            corners[12 * f + 9 + k] = point_count + corner_edge[c]
    return corners


@dataclass(frozen=True, eq=False)
class _Level:
    """One level of subdivision of a topology: what to make, and how values of each kind pass into it."""

    topology: Topology
    point: SourceMap
    flat: Blend
    face: SourceMap
    corner: SourceMap | Callable[[], SourceMap]
    edge: Callable[[], SourceMap]
    child: Flags | None = None


def _level(shape: Topology, loop: bool, edge_sharp: Floats, point_sharp: Floats) -> _Level:
    rules = creases(shape, edge_sharp, point_sharp)
    every = np.arange(shape.corner_count, dtype=np.int32)
    source = [np.arange(shape.point_count, dtype=np.int32), shape.edges[:, 0]]
    if loop:
        corners = _quarters(shape.point_count, shape.corner_point, shape.corner_edge)
        face = np.repeat(np.arange(shape.face_count, dtype=np.int32), 4)
        topology = shape.with_faces(
            shape.point_count + shape.edge_count, 3 * np.arange(len(face) + 1, dtype=np.int32), corners
        )
        blend: Loop | CatmullClark = Loop(shape, rules)
        three = every.reshape(-1, 3)
        main = np.concatenate([np.repeat(three, 3, axis=1), three], axis=1).reshape(-1)
    else:
        corners, face = _quads(
            shape.point_count, shape.edge_count, shape.face_start, shape.corner_point, shape.corner_edge
        )
        count = shape.point_count + shape.edge_count + shape.face_count
        topology = shape.with_faces(count, 4 * np.arange(len(face) + 1, dtype=np.int32), corners)
        source.append(shape.corner_point[shape.face_start[:-1]])
        blend = CatmullClark(shape, rules)
        main = np.repeat(every, 4)
    return _Level(
        topology,
        SourceMap(as_readonly(np.concatenate(source)), blend),
        Flat(shape, not loop),
        SourceMap(as_readonly(face)),
        SourceMap(as_readonly(main), CornerQuads(shape.face_start, loop)),
        lambda: shape.memoise(("subdivided edges", loop), lambda: SourceMap(_edge_index(shape, topology))),
    )


def _part_level(shape: Topology, chosen: Flags, loop: bool, edge_sharp: Floats, point_sharp: Floats) -> _Level:
    """The same for some faces only: they are smoothed as a mesh of their own whose seam to the others stays put."""
    split = split_plan(shape, chosen, "triangles" if loop else "quads")
    corner, start = ragged_index(shape.face_start, np.flatnonzero(chosen))
    alone = Topology(shape.point_count, start, shape.corner_point[corner])
    old = np.zeros(alone.edge_count, np.int64)
    old[alone.corner_edge] = shape.corner_edge[corner]
    held = np.zeros(shape.point_count, bool)
    held[shape.corner_point[chosen[shape.corner_face]]] = True
    seam = np.zeros(shape.point_count, bool)
    seam[shape.corner_point[~chosen[shape.corner_face]]] = True
    sharp = edge_sharp[old] if len(edge_sharp) == shape.edge_count else np.zeros(alone.edge_count)
    rules = creases(alone, sharp, np.where(held & seam, HELD, point_sharp))
    blend: Loop | CatmullClark = Loop(alone, rules) if loop else CatmullClark(alone, rules)
    middles = shape.point_count + np.argsort(old)
    rest = np.arange(shape.point_count + alone.edge_count, split.topology.point_count)
    index = np.concatenate([np.arange(shape.point_count), middles, rest])
    assert split.point.weights is not None
    return _Level(
        split.topology,
        SourceMap(split.point.index, Reordered(blend, index)),
        split.point.weights,
        split.face,
        split.corner,
        split.edge,
        split.child,
    )


def _edge_index(shape: Topology, topology: Topology) -> Indices:
    """Both halves of an old edge come from it; the new edges across the faces have no source."""
    index = np.full(topology.edge_count, -1, np.int32)
    low, high = topology.edges.min(axis=1), topology.edges.max(axis=1)
    half = (low < shape.point_count) & (high < shape.point_count + shape.edge_count)
    index[half] = high[half] - shape.point_count
    return index


@operator(
    "smooth_subdivide",
    family="topology",
    keywords=("subdivision", "catmull", "clark", "loop", "round", "refine", "crease"),
    sections={
        "creases": ("crease", "corner_crease", "weight"),
    },
    carries=(
        "Carries all. Point values are blended by the same rule as positions, corner values (uv) inside their own "
        "face; faces copy their source face, half edges their whole edge. Flags, integers and text are copied. "
        "Sharpness of edges and points goes down by 1 per level."
    ),
    example="""
        frame = extrude(box(), where="abs(normal.y) > 0.5", inset=0.25, distance=-0.3)
        smooth_subdivide(frame, levels=3)
    """,
    related=("split_faces", "smooth", "bevel"),
    parameters=(
        Selection.each("face", "faces to subdivide; empty means all. The border to the others stays where it is"),
        Integer(
            "levels",
            1,
            "how often to subdivide; each level makes about four times the faces",
            soft=(1, 4),
            low=0,
            high=8,
        ),
        Choice(
            "scheme",
            "catmull-clark",
            "the rules",
            options={
                "catmull-clark": "for any faces; makes quads",
                "loop": "for triangles; other faces are cut first",
            },
        ),
        Choice(
            "corners",
            "round",
            "points with a single face at an open border",
            options={
                "round": "follow the smooth border curve",
                "keep": "stay where they are, so that a sheet keeps its corners",
            },
        ),
        AttributeName(
            "crease",
            "crease",
            "edge attribute: how many levels an edge stays sharp; parts of a level count",
            optional=True,
        ),
        AttributeName(
            "corner_crease",
            "corner_crease",
            "point attribute: how many levels a point stays where it is",
            optional=True,
        ),
        PerElement(
            "weight", 1.0, "how far points follow the smooth shape; 0 keeps the flat one", on="point", soft=(0.0, 1.0)
        ),
    ),
)
def smooth_subdivide(
    geo: Geo, *, where: Flags, levels: int, scheme: str, corners: str, crease: str, corner_crease: str, weight: Floats
) -> Geo:
    """Cut every face into smaller ones and smooth the shape towards a continuous surface.

    Catmull & Clark, "Recursively generated B-spline surfaces on arbitrary topological meshes", Computer-Aided Design
    10(6), 1978; Loop, "Smooth subdivision surfaces based on triangles", 1987, with Warren's weights. Open borders
    become cubic B-splines of their own (weights 1/8, 3/4, 1/8). Semi-sharp creases and corners after DeRose, Kass &
    Truong, SIGGRAPH 1998: sharpness wears off by 1 per level, and what is left of it is on the result. Edges with more
    than two faces are treated as borders. Loose points and curves are left as they are. On a part of a mesh, faces
    beside it receive the new points of the border as corners, so that it stays watertight; neither they nor the border
    move.
    """
    if not where.any():
        empty = not geo.topology.face_count
        warn("There are no faces to subdivide." if empty else "No face is marked, so nothing was subdivided.")
        return geo
    chosen = None if where.all() else where
    if scheme == "loop" and geo.topology.face_size[where].max() > 3:
        note("Faces with more than three corners were cut into triangles first.")
        sizes = np.where(where, geo.topology.face_size - 2, 1)
        geo = triangulate_faces(geo, where)
        where = np.repeat(where, sizes)
        chosen = None if chosen is None else where
    shape = geo.topology
    each = 4 if scheme == "loop" else shape.face_size[where]
    expected = int(np.sum(each * where if scheme == "loop" else each)) * 4 ** max(levels - 1, 0)
    if expected > MOST_FACES:
        raise LimitError(
            f"{levels} levels would make {expected:,} faces; {MOST_FACES:,} is the most. "
            "Take fewer levels, or start from fewer faces."
        )
    edge_sharp, point_sharp = _sharpness(geo, "edge", crease), _sharpness(geo, "point", corner_crease)
    if corners == "keep":
        single = (np.diff(shape.point_corners[0]) == 1) & shape.border_points
        point_sharp = np.where(single, HELD, point_sharp)
    flat = _points_alone(geo, np.clip(weight, 0.0, 1.0)) if (weight != 1.0).any() else None
    for _ in range(levels):
        level = _planned(geo.topology, chosen, scheme == "loop", edge_sharp, point_sharp)
        geo, edge_sharp, point_sharp = _once(geo, level, chosen, edge_sharp, point_sharp)
        if flat is not None:
            flat = carry(flat, level.topology, {"point": SourceMap(level.point.index, level.flat)})
        chosen = level.child
    if flat is not None:
        geo = _towards(flat, geo)
    if levels:
        geo = _worn(geo, "edge", crease, edge_sharp)
        geo = _worn(geo, "point", corner_crease, np.where(point_sharp >= HELD / 2, 0.0, point_sharp))
    if levels:
        note(f"Subdivided to {geo.topology.face_count:,} faces.")
    return geo


def _planned(shape: Topology, chosen: Flags | None, loop: bool, edge_sharp: Floats, point_sharp: Floats) -> _Level:
    marks = [
        values.tobytes() if values is not None and values.any() else b"" for values in (chosen, edge_sharp, point_sharp)
    ]
    if chosen is None:
        return shape.memoise(("smooth subdivide", loop, *marks), lambda: _level(shape, loop, edge_sharp, point_sharp))
    key = ("smooth subdivide a part", loop, *marks)
    return shape.memoise(key, lambda: _part_level(shape, chosen, loop, edge_sharp, point_sharp))


def _once(
    geo: Geo, level: _Level, chosen: Flags | None, edge_sharp: Floats, point_sharp: Floats
) -> tuple[Geo, Floats, Floats]:
    """One level: the finer geometry, and what is left of the sharpness; what is not subdivided keeps its own."""
    shape = geo.topology
    creased = bool(edge_sharp.any())
    made = carry(
        geo, level.topology, {"point": level.point, "face": level.face, "corner": level.corner, "edge": level.edge}
    )
    added = level.topology.point_count - shape.point_count
    wears = np.ones(shape.point_count, bool)
    if chosen is not None:
        wears[:] = False
        wears[shape.corner_point[chosen[shape.corner_face]]] = True
    points = np.concatenate([np.where(wears, np.maximum(point_sharp - 1.0, 0.0), point_sharp), np.zeros(added)])
    if not creased:
        return made, np.zeros(1), points
    index = level.edge().index
    halved = (level.topology.edges >= shape.point_count).any(axis=1)
    edges = np.where(index >= 0, np.maximum(edge_sharp[index] - halved, 0.0), 0.0)
    return made, edges, points


def _points_alone(geo: Geo, weight: Floats) -> Geo:
    """The points with their numbers, and the weight of each as :data:`SHARE`."""
    alone = Geo(geo.topology, {"point": geo.attributes["point"]})
    return alone.with_attribute("point", SHARE, weight)


def _towards(flat: Geo, smooth: Geo) -> Geo:
    """Blend all numbers of points from the flat shape to the smooth one, by the weight of each."""
    share = flat.attribute("point", SHARE)
    made = smooth
    for name, attribute in smooth.attributes["point"].items():
        if attribute.start is None and attribute.values.dtype.kind == "f" and flat.has("point", name):
            before = flat.attribute("point", name)
            weight = share.reshape(-1, *(1,) * (before.ndim - 1))
            values = before + weight * (attribute.values - before)
            made = made.with_attribute("point", name, Attribute(attribute.type, values, None, attribute.default))
    return made


def _worn(geo: Geo, kind: Kind, name: str, left: Floats) -> Geo:
    """Write what is left of the sharpness, so that another call goes on where this one ended."""
    if not name or not geo.has(kind, name) or geo.find(kind, name).type == "flag":
        return geo
    found = geo.find(kind, name)
    count = geo.topology.count(kind)
    values = np.broadcast_to(left, (count,)) if len(left) == 1 else left
    values = np.ceil(values) if found.type == "integer" else values
    return geo.with_attribute(kind, name, Attribute.of(values, found.type, default=found.default))


def _sharpness(geo: Geo, kind: Kind, name: str) -> Floats:
    """The sharpness that an attribute gives, 0 without one. A single 0 stands for no sharp edge at all."""
    none = np.zeros(1 if kind == "edge" else geo.topology.count(kind))
    if not name or not geo.has(kind, name):
        default = {"edge": "crease", "point": "corner_crease"}[kind]
        if name not in ("", default):
            warn(f"There is no {kind} attribute '{name}', so nothing is kept sharp by it.")
        return none
    found: Attribute = geo.find(kind, name)
    if not found.info.is_single or found.info.dtype is np.str_:
        raise ParameterError(
            "crease" if kind == "edge" else "corner_crease",
            f"takes a number per {kind}, but '{name}' is {with_article(found.type)}",
        )
    values = found.values * HELD if found.type == "flag" else found.values.astype(np.float64)
    return np.maximum(values, 0.0) if values.any() else none
