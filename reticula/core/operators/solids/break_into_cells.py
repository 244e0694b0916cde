"""Break into cells: a solid or a sheet in pieces around given centres."""

from __future__ import annotations

import numpy as np
from scipy.spatial import cKDTree

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly, ragged_index, unique_rows
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edges_along, kept
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.level_cut import triangulate_faces
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.geometry.measure.areas import edge_lengths, face_normals, face_planarity
from reticula.core.geometry.planar.boundary_loops import loop_normals
from reticula.core.geometry.planar.region_fill import fill_region, nest_loops, project_to_plane
from reticula.core.geometry.voronoi.cell_caps import Caps, caps_of
from reticula.core.geometry.voronoi.cells import Fragments, fragments
from reticula.core.geometry.voronoi.diagram import Diagram, diagram_of
from reticula.core.geometry.voronoi.loose_cells import loose_cells, select_neighbours
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, GroupName, Integer, Number
from reticula.core.spatial.inside import inside

__all__ = ["break_into_cells"]

MOST_CORNERS = 8
NUDGES = (1e-9, 1e-7, 1e-6)
"""By how much, as a share of the size, centres are moved so that no five cells meet in one place."""


@operator(
    "break_into_cells",
    family="solids",
    inputs=(Input("geo", "solid or sheet to break"), Input("centers", "its points are the centres of the cells")),
    keywords=("voronoi", "shatter", "fragments", "crack", "pieces", "split", "partition"),
    carries=(
        "Carries all of the first input: parts of a face copy it, values of points and corners are "
        "interpolated where it is cut. "
        "Inner faces get defaults, inner points the values of the nearest point. Curves and loose "
        "points are left out, which is said."
    ),
    parameters=(
        Choice(
            "make",
            "solids",
            "what the pieces are",
            options={
                "solids": "closed, with inner faces",
                "sheets": "parts of the surface alone",
            },
        ),
        Integer(
            "first_cells",
            0,
            "only the pieces of so many centres, from the first one on; 0 gives all",
            soft=(0, 100),
            low=0,
        ),
        Integer(
            "most_neighbours",
            0,
            "cut each piece by so many of the nearest neighbours only, so that pieces may overlap; 0 takes all",
            soft=(0, 20),
            low=0,
        ),
        Number(
            "neighbour_reach",
            0.0,
            "cut by neighbours whose centre is at most this far away only; 0 takes all",
            unit="m",
            soft=(0.0, 2.0),
            low=0.0,
        ),
        AttributeName("cell_name", "cell", "point and face attribute that receives the number of the centre", new=True),
        GroupName("inner_group", "inner", "face group that receives the inner faces", kind="face"),
    ),
)
def break_into_cells(
    geo: Geo,
    centers: Geo,
    *,
    make: str,
    first_cells: int,
    most_neighbours: int,
    neighbour_reach: float,
    cell_name: str,
    inner_group: str,
) -> Geo:
    """Break a solid or sheet into the parts that lie nearest to each centre (Voronoi cells).

    Only neighbouring cells are compared. Faces that are not flat, or not convex, are cut into triangles first. Pieces
    share no points; solids are watertight to the last edge. Centres in the same place count once; all are moved by
    less than a millionth of the size so that no five cells meet in one place. With fewer neighbours than touch a cell,
    every piece is cut by itself, which takes longer, and pieces overlap.
    """
    where = centers.positions
    if not len(where):
        raise GeometryError("there are no centres; give a geometry with points")
    if not geo.topology.face_count:
        warn("There are no faces to break.")
        return geo
    solid = make == "solids"
    if solid and geo.topology.border_edges.any():
        warn("The mesh is open, so that it has no inside: the pieces are sheets. Close it with fill first.")
        solid = False
    lost = [f"{geo.topology.curve_count:,} curves"] * bool(geo.topology.curve_count)
    lost += [f"{geo.topology.instance_count:,} instances"] * bool(geo.topology.instance_count)
    lost += [f"{int((~geo.topology.used_points).sum()):,} loose points"] * bool((~geo.topology.used_points).any())
    if lost:
        warn(f"{' and '.join(lost)} were left out.")
    geo = _convex(geo)
    _, first = np.unique(where, axis=0, return_index=True)
    numbers = np.sort(first)
    if len(numbers) < len(where):
        note(f"{len(where) - len(numbers):,} centres lie on others and have no cell of their own.")
    size = max(float(np.linalg.norm(geo.bounds[1] - geo.bounds[0])), 1e-12)
    caps: Caps | None = None
    for attempt, nudge in enumerate(NUDGES):
        moved = where[numbers] + np.random.default_rng(attempt).uniform(-nudge, nudge, (len(numbers), 3)) * size
        diagram = diagram_of(moved, *geo.bounds)
        counts = select_neighbours(diagram, most_neighbours, neighbour_reach)
        if not counts.all():
            return _loose(geo, diagram, counts, numbers, first_cells, solid, cell_name, inner_group)
        home = cKDTree(moved).query(geo.positions)[1]
        parts = fragments(geo, diagram, home)
        caps = caps_of(diagram, parts, inside(geo, diagram.vertex)) if solid else None
        if caps is None or not caps.broken:
            break
    else:
        warn(
            f"{caps.broken:,} inner outlines do not close, because the mesh crosses itself or is not closed there."
            if caps
            else ""
        )
    return _assembled(geo, parts, caps, moved, numbers, first_cells, cell_name, inner_group)


def _loose(
    geo: Geo,
    diagram: Diagram,
    counts: Flags,
    numbers: AnyArray,
    first_cells: int,
    solid: bool,
    cell_name: str,
    inner_group: str,
) -> Geo:
    """Pieces that are cut by some neighbours only."""
    alone = subset(geo, curves=np.zeros(geo.topology.curve_count, bool), loose=False)
    cells = np.flatnonzero((numbers < first_cells) | (first_cells == 0))
    parts = loose_cells(alone, diagram, counts, cells, cap=solid)
    pieces = []
    for cell, piece, inner in parts:
        piece = piece.with_attribute("face", inner_group, inner)
        for kind in ("face", "point"):
            own = np.full(piece.topology.count(kind), numbers[cell])  # type: ignore[arg-type]
            piece = piece.with_attribute(kind, cell_name, own, "integer")  # type: ignore[arg-type]
        pieces.append(piece)
    left = int((~counts).sum()) // 2
    warn(f"About {left:,} pairs of neighbours were left out, so pieces may overlap.")
    note(f"{len(pieces):,} pieces.")
    return concatenate(pieces)


def _convex(geo: Geo) -> Geo:
    """Cut what is not flat, not convex or has many corners into triangles."""
    shape = geo.topology
    if (shape.face_size == 3).all():
        return geo
    along = geo.positions[shape.corner_point[shape.corner_next]] - geo.positions[shape.corner_point]
    back = geo.positions[shape.corner_point[shape.corner_previous]] - geo.positions[shape.corner_point]
    turn = np.einsum("ij,ij->i", np.cross(along, back), face_normals(geo)[shape.corner_face])
    hollow = (
        np.bincount(shape.corner_face, turn < -1e-12 * np.abs(turn).max(initial=0.0), minlength=shape.face_count) > 0
    )
    bent = face_planarity(geo) > 1e-9
    chosen = (bent | hollow | (shape.face_size > MOST_CORNERS)) & (shape.face_size > 3)
    if chosen.any():
        note(f"{int(chosen.sum()):,} faces that are bent, hollow or large were cut into triangles first.")
    return triangulate_faces(geo, chosen)


def _oriented(caps: Caps, centers: Floats) -> tuple[AnyArray, AnyArray, AnyArray]:
    """Inner faces out of loops, looking out of their cell: sizes, corners (places in the loops' arrays) and cells."""
    corners = np.arange(len(caps.name))
    starts = caps.start.astype(np.int32)
    normals = loop_normals(caps.place, starts, corners.astype(np.int32))
    outward = centers[caps.beyond] - centers[caps.cell]
    wrong = np.einsum("ij,ij->i", normals, outward) < 0
    sizes = np.diff(caps.start)
    step = corners - np.repeat(caps.start[:-1], sizes)
    turned = np.repeat(caps.start[1:] - 1, sizes) - step
    corners = np.where(np.repeat(wrong, sizes), turned, corners)
    pair = caps.cell.astype(np.int64) * (len(centers) + 1) + caps.beyond
    _, inverse, counts = np.unique(pair, return_inverse=True, return_counts=True)
    inverse = inverse.reshape(-1)
    several = counts[inverse] > 1
    single = np.flatnonzero(~several)
    flat, _ = ragged_index(starts, single)
    made_sizes: list[AnyArray] = [sizes[single]]
    made_corners: list[AnyArray] = [corners[flat]]
    made_cells: list[AnyArray] = [caps.cell[single]]
    shared = np.flatnonzero(several)
    shared = shared[np.argsort(inverse[shared], kind="stable")]
    for group in np.split(shared, np.flatnonzero(np.diff(inverse[shared])) + 1) if len(shared) else []:
        rings = [corners[starts[n] : starts[n + 1]] for n in group]
        places = [project_to_plane(caps.place[ring], outward[group[0]])[0] for ring in rings]
        for region in nest_loops(places):
            loops = [rings[region[0]], *(rings[n][::-1] for n in region[1:])]
            try:
                filling = fill_region(caps.place, loops, outward[group[0]], "polygon", 1.0, len(caps.place))
                made_sizes.append(np.diff(filling.start).astype(np.int64))
                made_corners.append(filling.point)
                made_cells.append(np.full(len(filling.start) - 1, caps.cell[group[0]]))
            except GeometryError:
                made_sizes.append(np.array([len(loop) for loop in loops]))
                made_corners.append(np.concatenate(loops))
                made_cells.append(np.full(len(loops), caps.cell[group[0]]))
    return np.concatenate(made_sizes), np.concatenate(made_corners), np.concatenate(made_cells)


def _assembled(
    geo: Geo,
    parts: Fragments,
    caps: Caps | None,
    centers: Floats,
    numbers: AnyArray,
    first_cells: int,
    cell_name: str,
    inner_group: str,
) -> Geo:
    shape = geo.topology
    sizes, cells = np.diff(parts.start), parts.cell.astype(np.int64)
    names, places = parts.name, parts.place
    corner_cell = np.repeat(cells, sizes)
    outer = len(sizes)
    if caps is not None and len(caps.cell):
        cap_sizes, cap_corners, cap_cells = _oriented(caps, centers)
        sizes, cells = np.concatenate([sizes, cap_sizes]), np.concatenate([cells, cap_cells])
        names = np.concatenate([names, caps.name[cap_corners]])
        places = np.concatenate([places, caps.place[cap_corners]])
        corner_cell = np.concatenate([corner_cell, np.repeat(cap_cells, cap_sizes)])
    order = np.argsort(cells, kind="stable")
    if first_cells:
        order = order[numbers[cells[order]] < first_cells]
    starts = np.concatenate([[0], np.cumsum(sizes)])
    pick, face_start = ragged_index(starts.astype(np.int32), order)
    first, point = unique_rows(np.concatenate([corner_cell[pick, None], names[pick]], axis=1))
    topology = Topology(len(first), face_start, point)
    face_source = np.concatenate([parts.face, np.full(len(sizes) - outer, -1)])[order]
    share, column = _shares(geo, parts, len(names))
    on_surface = pick < len(parts.name)
    lead = _surface_lead(pick, point, on_surface, len(first))
    main = np.where(lead >= 0, column[np.maximum(lead, 0), np.argmax(share[np.maximum(lead, 0)], axis=1)], -1)
    point_columns = np.where(lead[:, None] >= 0, shape.corner_point[column[np.maximum(lead, 0)]], 0)
    point_shares = share[np.maximum(lead, 0)].copy()
    inside = np.flatnonzero(lead < 0)
    spots = places[pick[first]]
    point_main = np.where(main >= 0, shape.corner_point[np.maximum(main, 0)], 0)
    if len(inside):
        point_main[inside] = cKDTree(geo.positions).query(spots[inside])[1]
        point_columns[inside, 0] = point_main[inside]
        point_shares[inside] = 0.0
        point_shares[inside, 0] = 1.0
    corner_main = np.where(on_surface, column[pick, np.argmax(share[pick], axis=1)], -1)
    corner_share = np.where(on_surface[:, None], share[pick], 0.0)
    edge = np.concatenate([parts.edge, np.full(len(names) - len(parts.edge), -1)])[pick]
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(as_readonly(point_main.astype(np.int32)), Weights.rows(point_columns, point_shares)),
            "face": kept(face_source),
            "corner": SourceMap(as_readonly(corner_main.astype(np.int32)), Weights.rows(column[pick], corner_share)),
            "edge": edges_along(topology, edge),
            "curve": kept(np.zeros(0)),
            "instance": kept(np.zeros(0)),
        },
        positions=spots,
    )
    face_cell = numbers[cells[order]]
    made = made.with_attribute("face", cell_name, face_cell, "integer")
    made = made.with_attribute("point", cell_name, numbers[corner_cell[pick[first]]], "integer")
    made = _without_slivers(made.with_attribute("face", inner_group, face_source < 0), cell_name)
    inner = int(made.group("face", inner_group).sum())
    note(f"{len(np.unique(face_cell)):,} pieces, {inner:,} inner faces.")
    return made


def _without_slivers(made: Geo, cell_name: str) -> Geo:
    """Weld points of one piece that only the moving of centres keeps apart."""
    size = max(float(np.linalg.norm(made.bounds[1] - made.bounds[0])), 1e-12)
    reach = 4.0 * NUDGES[0] * size
    if not made.topology.edge_count or edge_lengths(made).min() > reach:
        return made
    apart = made.attribute("point", cell_name)[:, None] * size
    every = np.arange(made.topology.point_count)
    return weld_points(
        made, cluster_by_distance(np.concatenate([made.positions, apart], axis=1), every, reach), average=False
    )


def _shares(geo: Geo, parts: Fragments, total: int) -> tuple[Floats, AnyArray]:
    """Weights and face corners behind each corner of the fragments, ``(N, W)``; nothing for caps."""
    shape = geo.topology
    width = parts.share.shape[1]
    owner = np.repeat(parts.face, np.diff(parts.start))
    column = np.minimum(shape.face_start[owner][:, None] + np.arange(width), shape.face_start[owner + 1][:, None] - 1)
    share = np.zeros((total, width))
    columns = np.zeros((total, width), np.int64)
    share[: len(parts.share)], columns[: len(column)] = parts.share, column
    return share, columns


def _surface_lead(pick: AnyArray, point: AnyArray, on_surface: Flags, count: int) -> AnyArray:
    """For each new point a corner of a fragment that stands there, or -1 inside."""
    lead = np.full(count, -1, np.int64)
    rows = np.flatnonzero(on_surface)[::-1]
    lead[point[rows]] = pick[rows]
    return lead
