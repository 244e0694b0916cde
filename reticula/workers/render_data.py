"""Looks that are drawn: the mesh and what the view puts on it, as named buffers."""

from __future__ import annotations

import numpy as np

from reticula.contract.answers import (
    Drawn,
    EdgesLook,
    GroupsLook,
    MeshLook,
    NormalsLook,
    PlacedMesh,
    PlaceLook,
    UvLook,
)
from reticula.contract.queries import EdgesQuery, GroupsQuery, NormalsQuery
from reticula.core.arrays import Floats
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, Kind, triangles
from reticula.core.geometry.edit.placement import place_of, to_world
from reticula.core.geometry.measure.areas import face_centers, face_normals, point_normals
from reticula.core.geometry.measure.curvature import edge_angles
from reticula.core.geometry.validation import checks
from reticula.core.words import with_article
from reticula.workers.buffers import Buffers
from reticula.workers.placed_shapes import SURFACE, placed_shapes, sources

__all__ = ["corner_uv", "edge_kinds", "flat", "groups", "mesh", "place", "strokes"]

MOST_GROUPS = 32
"""Groups that are told apart in one picture: one bit each."""


def mesh(geo: Geo, buffers: Buffers) -> MeshLook:
    """What is needed to draw it where it stands."""
    geo = to_world(geo)
    return {"what": "mesh", **_drawn(geo, buffers), "instances": _instances(geo, buffers)}


def _drawn(geo: Geo, buffers: Buffers) -> Drawn:
    """Positions, triangles (as corners), edges, curves, loose points, normals."""
    shape = geo.topology
    cut = triangles(geo)
    loose = np.flatnonzero(~shape.used_points)
    return {
        "position": buffers.keep(geo.positions.astype("<f4")),
        "normal": buffers.keep(point_normals(geo).astype("<f4")),
        "corner_point": buffers.keep(shape.corner_point.astype("<u4")),
        "triangle_corner": buffers.keep(cut.corner.astype("<u4")),
        "triangle_face": buffers.keep(cut.face.astype("<u4")),
        "edge": buffers.keep(shape.edges.astype("<u4")),
        "segment": buffers.keep(shape.curve_segments[0].astype("<u4")),
        "loose_point": buffers.keep(loose.astype("<u4")),
        "bounds": geo.bounds.tolist(),
    }


def _instances(geo: Geo, buffers: Buffers) -> list[PlacedMesh]:
    """Per shape that is placed: what is needed to draw it once, and a matrix (column by column) for each copy."""
    return [
        {
            "mesh": _drawn(shape, buffers),
            "matrix": buffers.keep(
                np.ascontiguousarray(geo.attribute("instance", "transform")[members].transpose(0, 2, 1)).astype("<f4")
            ),
            "number": buffers.keep(members.astype("<u4")),
        }
        for shape, members in placed_shapes(geo)
    ]


def flat(geo: Geo, buffers: Buffers) -> MeshLook:
    """The faces laid out by their uv: a mesh with one point per corner, at u to the right and v up.

    ``own_point`` and ``own_edge`` say which point and edge of the geometry a point and an edge of the layout are.
    """
    uv = _uv(geo)
    shape = geo.topology
    cut = triangles(geo)
    place = np.concatenate([uv, np.zeros((len(uv), 1))], axis=1)
    around = np.stack([np.arange(shape.corner_count), shape.corner_next], axis=1)
    bounds = np.stack(
        [np.minimum(place.min(axis=0, initial=0.0), 0.0), np.maximum(place.max(axis=0, initial=1.0), 1.0)]
    )
    bounds[:, 2] = 0.0
    return {
        "what": "flat",
        "position": buffers.keep(place.astype("<f4")),
        "normal": buffers.keep(np.tile(np.array([0.0, 0.0, 1.0], "<f4"), (len(uv), 1))),
        "corner_point": buffers.keep(np.arange(shape.corner_count).astype("<u4")),
        "triangle_corner": buffers.keep(cut.corner.astype("<u4")),
        "triangle_face": buffers.keep(cut.face.astype("<u4")),
        "edge": buffers.keep(around.astype("<u4")),
        "segment": buffers.keep(np.zeros((0, 2), "<u4")),
        "loose_point": buffers.keep(np.zeros(0, "<u4")),
        "own_point": buffers.keep(shape.corner_point.astype("<u4")),
        "own_edge": buffers.keep(shape.corner_edge.astype("<u4")),
        "instances": [],
        "bounds": bounds.tolist(),
    }


def _uv(geo: Geo) -> Floats:
    found = checks.corner_uv(geo)
    if found is None:
        raise GeometryError(
            "there is no uv here (a vec2 of each corner or point); a set attribute card can make it, "
            "for example from position"
        )
    return found


def corner_uv(geo: Geo, buffers: Buffers) -> UvLook:
    """Where each corner lies on the uv sheet, for a checker on the surface; ``parts`` as for attributes."""
    drawn = sources(geo)
    found = [checks.corner_uv(one) for one in drawn]
    uv = np.concatenate([one for one in found if one is not None]) if any(map(_has_rows, found)) else _uv(geo)
    look: UvLook = {
        "what": "uv",
        "values": buffers.keep(uv.astype("<f4")),
        "low": uv.min(axis=0, initial=np.inf).tolist() if len(uv) else [0, 0],
        "high": uv.max(axis=0, initial=-np.inf).tolist() if len(uv) else [0, 0],
    }
    return {**look, "parts": [0 if one is None else len(one) for one in found]} if len(drawn) > 1 else look


def _has_rows(uv: Floats | None) -> bool:
    return uv is not None and len(uv) > 0


def place(geo: Geo) -> PlaceLook:
    """The matrix from the geometry's own space to the world, row by row."""
    return {"what": "place", "matrix": place_of(geo).reshape(-1).tolist()}


def strokes(geo: Geo, query: NormalsQuery, buffers: Buffers) -> NormalsLook:
    """Where strokes begin and which way they go: normals, or a vector attribute ``name``, of points or faces."""
    name = query.name or "normal"
    geo = to_world(geo)
    on_faces = query.kind == "face"
    kind: Kind = "face" if on_faces else "point"
    begin = face_centers(geo) if on_faces else geo.positions
    if name == "normal" and not geo.has(kind, name):
        direction = face_normals(geo) if on_faces else point_normals(geo)
    else:
        found = geo.find(kind, name)
        if found.type != "vec3":
            raise GeometryError(f"'{name}' is {with_article(found.type)}; strokes show a vec3")
        direction = found.values
    return {
        "what": "normals",
        "begin": buffers.keep(begin.astype("<f4")),
        "direction": buffers.keep(direction.astype("<f4")),
    }


def edge_kinds(geo: Geo, query: EdgesQuery, buffers: Buffers) -> EdgesLook:
    """Which edges are open borders (1), creases (2) or crowded (3, more than two faces); 0 for the others.

    Creases are the edges whose ``crease`` is above 0; without that attribute, those where faces meet at more than
    ``angle`` degrees.
    """
    geo = to_world(geo)
    shape = geo.topology
    uses = shape.edge_face_count
    kinds = np.zeros(shape.edge_count, np.uint8)
    told = geo.has("edge", "crease")
    if told:
        kinds[np.asarray(geo.attribute("edge", "crease"), float) > 0] = 2
    else:
        kinds[np.abs(edge_angles(geo)) > query.angle] = 2
    kinds[uses == 1] = 1
    kinds[uses > 2] = 3
    border, crease, crowded = np.bincount(kinds, minlength=4)[1:]
    return {
        "what": "edges",
        "kinds": buffers.keep(kinds),
        "border": int(border),
        "crease": int(crease),
        "crowded": int(crowded),
        "creases_are": "edges with a crease" if told else f"faces meet at more than {query.angle:g}°",
    }


def groups(geo: Geo, query: GroupsQuery, buffers: Buffers) -> GroupsLook:
    """All groups of a kind: their names, how many they hold, and for each element a bit per group it is in.

    The elements of shapes that stand as instances follow those of the geometry; ``parts`` says how many are whose.
    """
    kind = query.kind
    drawn = sources(geo) if kind in SURFACE else [geo]
    names = list(dict.fromkeys(name for one in drawn for name in one.groups(kind)))
    told = names[:MOST_GROUPS]
    bits = [np.zeros(one.topology.count(kind), "<u4") for one in drawn]
    members = dict.fromkeys(told, 0)
    for one, made in zip(drawn, bits, strict=True):
        there = set(one.groups(kind))
        for number, name in enumerate(told):
            if name in there:
                chosen = one.group(kind, name)
                made |= chosen.astype("<u4") << np.uint32(number)
                members[name] += int(chosen.sum())
    look: GroupsLook = {
        "what": "groups",
        "kind": kind,
        "values": buffers.keep(np.concatenate(bits)),
        "total": sum(map(len, bits)),
        "groups": [{"name": name, "members": members[name]} for name in told],
        "left_out": len(names) - len(told),
    }
    return {**look, "parts": [len(made) for made in bits]} if len(drawn) > 1 else look
