"""Simplify: fewer faces, nearly the same shape."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, kept
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.geometry.measure.seams import corner_seams
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.remesh.quadric_simplification import Collapsed, Limits, TriangleMesh, collapse_edges
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Integer, Number, Selection, Toggle
from reticula.core.operators.topology.smooth import smoothed
from reticula.core.rows import nonzero_rows, rows_at
from reticula.core.spatial import surface_of
from reticula.core.spatial.deviation import deviation_within
from reticula.core.spatial.seam_sampling import sample_beside_seams

__all__ = ["simplify"]

BORDER_WEIGHT = 1000.0
TRIES = 12
"""How often less is collapsed until an error is held."""


@operator(
    "simplify",
    family="topology",
    keywords=("decimate", "reduce", "lod", "fewer", "quadric", "remesh", "light"),
    sections={
        "limits": ("error", "rounds", "smoothing"),
        "what stays": ("keep_borders", "keep"),
    },
    carries=(
        "Carries all. Points and corners take the values of the nearest place on the surface before, "
        "seams of uv respected; "
        "faces copy the face they are left of; edges that stay keep theirs. Welded: as weld does."
    ),
    example="""
        fine = displace(geodesic_sphere(frequency=40), amount=0.12)
        simplify(fine, share=0.06)
    """,
    related=("weld", "merge_faces", "triangulate"),
    parameters=(
        Choice(
            "method",
            "collapse",
            "how",
            options={
                "collapse": "edges are collapsed in order of the error this makes",
                "weld": "near points are welded again and again, with smoothing between",
            },
        ),
        Choice(
            "to",
            "share",
            "how far",
            options={
                "share": "a share of the triangles",
                "count": "a number of triangles",
                "error": "an error of the shape",
            },
            shown_when=("method", "collapse"),
        ),
        Number(
            "share", 0.5, "triangles left, as a share", soft=(0.0, 1.0), low=0.0, high=1.0, shown_when=("to", "share")
        ),
        Integer("count", 1000, "triangles left", soft=(10, 10_000), low=1, shown_when=("to", "count")),
        Number(
            "error",
            {"formula": "0.001 * extent"},
            "how far the surface may move away",
            unit="m",
            soft=(0.0, 0.1),
            low=0.0,
            step=0.0001,
            shown_when=("to", "error"),
        ),
        Number(
            "radius",
            {"formula": "0.05 * extent"},
            "final distance within which points are welded",
            unit="m",
            soft=(0.0, 0.5),
            low=0.0,
            shown_when=("method", "weld"),
        ),
        Number(
            "begin",
            0.25,
            "first distance, as a multiple of the final one",
            soft=(0.05, 2.0),
            low=0.01,
            shown_when=("method", "weld"),
        ),
        Integer("rounds", 4, "how often to weld", soft=(1, 10), low=1, high=100, shown_when=("method", "weld")),
        Number(
            "smoothing",
            0.3,
            "share of the way to the neighbours' middle between rounds",
            soft=(0.0, 1.0),
            low=0.0,
            high=1.0,
            shown_when=("method", "weld"),
        ),
        Toggle("keep_borders", True, "open borders keep their points"),
        Selection("keep", "False", "points that stay where they are", on="point"),
    ),
)
def simplify(
    geo: Geo,
    *,
    method: str,
    to: str,
    share: float,
    count: int,
    error: float,
    radius: float,
    begin: float,
    rounds: int,
    smoothing: float,
    keep_borders: bool,
    keep: Flags,
) -> Geo:
    """Make a mesh of fewer faces that stays close to the shape.

    Collapse: quadric error metrics (Garland & Heckbert, SIGGRAPH 1997); polygons become triangles first. The shape's
    topology stays: no collapse closes a hole or pinches the surface, so that a closed mesh stays closed. Seams of
    corner values (uv) stay seams: they are kept like borders, and values are read from the side of the seam on which a
    triangle lies. An error is a bound on the distance between both surfaces, decided both ways and
    everywhere.
    """
    shape = geo.topology
    if not shape.face_count:
        warn("There are no faces.")
        return geo
    fixed = keep | (shape.border_points if keep_borders else False)
    if method == "weld":
        return _welded(geo, fixed, radius, begin, rounds, smoothing)
    if (shape.face_size > 3).any():
        note("Faces with more than three corners were cut into triangles first.")
        geo = triangulate_faces(geo, np.ones(shape.face_count, bool))
        shape = geo.topology
    wanted = {"share": round(share * shape.face_count), "count": count, "error": 0}[to]
    many = shape.edge_face_count > 2
    fixed = fixed.copy()
    fixed[shape.edges[many].reshape(-1)] = True
    fixed[shape.curve_point] = True
    seams = _seams(geo)
    border = shape.border_edges | seams
    corners = shape.corner_point.reshape(-1, 3)
    mesh = TriangleMesh(corners, shape.edges, shape.corner_edge, *shape.point_corners, border, fixed)
    made = _collapsed(geo, mesh, seams, wanted, float(error) if to == "error" else None)
    left = made.topology.face_count
    if to != "error" and left > wanted:
        note(
            f"Stopped at {left:,} triangles: collapsing more would turn faces over, move kept points "
            "or change the topology."
        )
    crowded = int((made.topology.edge_face_count > 2).sum()) - int(many.sum())
    if crowded > 0:
        warn(f"{crowded:,} edges have more than two faces now that had two before.")
    note(f"{shape.face_count:,} triangles became {left:,}.")
    return made


def _seams(geo: Geo) -> Flags:
    """Edges across which corner values do not go on; where nearly all are, faces are coloured singly, and none is."""
    shape = geo.topology
    seams = corner_seams(geo)
    return seams if seams.sum() < 0.5 * max(int((~shape.border_edges).sum()), 1) else np.zeros(shape.edge_count, bool)


def _collapsed(geo: Geo, mesh: TriangleMesh, seams: Flags, wanted: int, error: float | None) -> Geo:
    """Collapse edges about the middle of the shape, at size 1. An error is a bound: it is measured, and where it does
    not hold less is collapsed.
    """
    middle = geo.bounds.mean(axis=0)
    size = max(float(np.linalg.norm(geo.bounds[1] - geo.bounds[0])), 1e-300)
    local = (geo.positions - middle) / size
    limit = np.inf if error is None else error / size
    for _ in range(TRIES):
        left = collapse_edges(local, mesh, Limits(wanted, limit, BORDER_WEIGHT))
        moved = nonzero_rows(left.position != local)
        places = np.where(moved[:, None], left.position * size + middle, geo.positions)
        made = _rebuilt(geo, left._replace(position=places), seams)
        if error is None or made is geo:
            return made
        away = deviation_within(geo, made, error)
        if away.held:
            note(f"The surface moved away by {away.farthest:.3g} m, and nowhere by more than {error:.3g} m.")
            return made
        limit *= max(0.9 * error / max(away.farthest, error), 0.05)
    return geo


def _rebuilt(geo: Geo, left: Collapsed, seams: Flags) -> Geo:
    shape = geo.topology
    pos, tri = left.position, left.triangle
    faces = np.flatnonzero(left.alive)
    if len(faces) == shape.face_count:
        return geo
    used = np.zeros(shape.point_count, bool)
    used[tri[faces].reshape(-1)] = True
    used[shape.curve_point] = True
    used |= ~shape.used_points
    points = np.flatnonzero(used)
    number = np.full(shape.point_count, -1)
    number[points] = np.arange(len(points))
    topology = Topology(
        len(points),
        3 * np.arange(len(faces) + 1),
        number[tri[faces].reshape(-1)],
        shape.curve_start,
        number[shape.curve_point],
        shape.curve_closed,
        shape.instance_count,
    )
    moved = pos[points]
    changed = np.flatnonzero(nonzero_rows(moved != rows_at(geo.positions, points)))
    blended = any(name != "position" for name in geo.attributes["point"])
    columns, values = np.repeat(points[:, None], 3, axis=1), np.tile([1.0, 0.0, 0.0], (len(points), 1))
    if blended and len(changed):
        near = surface_of(geo).closest(moved[changed])
        columns[changed] = shape.corner_point[triangles(geo).corner[near.triangle]]
        values[changed] = near.weight
    corner = (faces[:, None] * 3 + np.arange(3)).reshape(-1)
    corner_map = SourceMap(as_readonly(corner.astype(np.int32)))
    if geo.attributes["corner"]:
        at = moved[topology.corner_point]
        inward = np.repeat(at.reshape(-1, 3, 3).mean(axis=1), 3, axis=0) - at
        on_seam = np.zeros(shape.point_count, bool)
        on_seam[left.leader[shape.edges[seams]]] = True
        found, weight = sample_beside_seams(geo, seams, at, inward, on_seam[points][topology.corner_point])
        main = found[np.arange(len(found)), weight.argmax(axis=1)]
        corner_map = SourceMap(as_readonly(main.astype(np.int32)), Weights.rows(found, weight))
    old = np.full(topology.edge_count, -1)
    if geo.attributes["edge"]:
        old[topology.corner_edge] = shape.corner_edge[corner]
    return carry(
        geo,
        topology,
        {
            "point": SourceMap(as_readonly(points.astype(np.int32)), Weights.rows(columns, values)),
            "face": kept(faces),
            "corner": corner_map,
            "edge": kept(old),
        },
        positions=moved,
    )


def _welded(geo: Geo, fixed: Flags, radius: float, begin: float, rounds: int, smoothing: float) -> Geo:
    before = geo.topology
    mark = "_kept_by_simplify"
    geo = geo.with_attribute("point", mark, fixed)
    for number in range(rounds):
        reach = radius * (begin + (1.0 - begin) * (number / max(rounds - 1, 1))) if rounds > 1 else radius
        held = geo.group("point", mark)
        geo = weld_points(geo, cluster_by_distance(geo.positions, np.flatnonzero(~held), reach))
        if number < rounds - 1 and smoothing:
            held = geo.group("point", mark) | geo.topology.border_points
            geo = geo.with_positions(smoothed(geo, np.where(held, 0.0, smoothing), 1, keep_volume=False))
    shape = geo.topology
    if shape.point_count == before.point_count:
        warn(f"No two points lie within {radius:g} m, so nothing was welded.")
    note(f"{before.face_count:,} faces became {shape.face_count:,}.")
    return geo.without_attribute("point", mark)
