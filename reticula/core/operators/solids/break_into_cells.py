"""Break into cells: a solid or a sheet in pieces around given centres."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from scipy.spatial import cKDTree

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly, ragged_index, starts_from_sizes, unique_rows
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edges_along, kept
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.level_cut import triangulate_faces
from reticula.core.geometry.edit.merge_faces import equal_across, flat_across, merge_across
from reticula.core.geometry.edit.split_points import split_along_edges
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.geometry.measure.areas import edge_lengths, face_normals, face_planarity
from reticula.core.geometry.planar.boundary_loops import loop_normals
from reticula.core.geometry.planar.region_fill import Inside, fill_region, nest_loops, project_to_plane
from reticula.core.geometry.voronoi.cell_caps import Caps, caps_of
from reticula.core.geometry.voronoi.cells import ON_POINT, Fragments, fragments, fragments_in
from reticula.core.geometry.voronoi.diagram import Diagram, diagram_of
from reticula.core.geometry.voronoi.loose_cells import LooseCells, loose_cells, select_neighbours
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, GroupName, Integer, Number, Toggle
from reticula.core.spatial.cell_reach import faces_reaching_cells
from reticula.core.spatial.inside import inside
from reticula.core.spatial.solids import layers_apart, solid_of_faces

__all__ = ["break_into_cells"]

MOST_CORNERS = 8
WAS = "_was"
"""Point attribute: which point of the mesh a point was, or -1."""
FLAT = 1e-8
"""Angle, in rad, up to which faces lie in one plane."""
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
        Toggle("merge_flat", True, "faces of a piece that lie in one plane and carry equal values become one face"),
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
    merge_flat: bool,
    inner_group: str,
) -> Geo:
    """Break a solid or sheet into the parts that lie nearest to each centre (Voronoi cells).

    Only neighbouring cells are compared. Faces that are not flat, or not convex, are cut into triangles first. Pieces
    share no points; solids are watertight to the last edge. Solids that overlap, or lie in each other and both look
    outwards, are broken each by itself; one that looks inwards is a hollow. Centres in the same place count once; all
    are moved by less than a millionth of the size so that no five cells meet in one place. With fewer neighbours than
    touch a cell, every piece is cut by those alone, and pieces overlap.
    """
    if not len(centers.positions):
        raise GeometryError("there are no centres; give a geometry with points")
    if not geo.topology.face_count:
        warn("There are no faces to break.")
        return geo
    solid = make == "solids"
    geo = _convex(split_along_edges(geo, geo.topology.edge_face_count > 2))
    if solid and geo.topology.border_edges.any():
        warn("The mesh is open, so that it has no inside: the pieces are sheets. Close it with fill first.")
        solid = False
    _tell_left_out(geo)
    _, first = np.unique(centers.positions, axis=0, return_index=True)
    numbers = np.sort(first)
    if len(numbers) < len(centers.positions):
        note(f"{len(centers.positions) - len(numbers):,} centres lie on others and have no cell of their own.")
    middle = geo.bounds.mean(axis=0)
    near = geo.with_positions(geo.positions - middle).with_attribute("point", WAS, np.arange(geo.topology.point_count))
    where = centers.positions[numbers] - middle
    names = _Names(numbers, first_cells, cell_name, inner_group)
    limits = _Limits(most_neighbours, neighbour_reach)
    made = _put_back(_pieces(near, where, limits, names, solid), geo, middle)
    if merge_flat:
        flat = flat_across(made, face_normals(made), FLAT) & equal_across(made)
        made, _ = merge_across(made, flat)
    inner = int(made.group("face", inner_group).sum())
    note(f"{len(np.unique(made.attribute('face', cell_name))):,} pieces, {inner:,} inner faces.")
    return made


class _Names(NamedTuple):
    """The numbers of the centres ``numbers (N,)``, how many of them count (0: all), and what results are called."""

    numbers: AnyArray
    first_cells: int
    cell: str
    inner: str


def _tell_left_out(geo: Geo) -> None:
    shape = geo.topology
    loose = int((~shape.used_points).sum())
    lost = [f"{shape.curve_count:,} curves"] * bool(shape.curve_count)
    lost += [f"{shape.instance_count:,} instances"] * bool(shape.instance_count)
    lost += [f"{loose:,} loose points"] * bool(loose)
    if lost:
        warn(f"{' and '.join(lost)} were left out.")


def _nudged(geo: Geo, where: Floats, attempt: int) -> Floats:
    """Centres moved by a little, more with each attempt, so that no five cells meet in one place."""
    size = max(float(np.linalg.norm(geo.bounds[1] - geo.bounds[0])), 1e-300)
    return where + np.random.default_rng(attempt).uniform(-1, 1, where.shape) * (NUDGES[attempt] * size)


class _Limits(NamedTuple):
    """By how many neighbours, and how far away, a piece is cut at most; 0 for all."""

    most: int
    reach: float


class _Division(NamedTuple):
    """Cells to break a mesh into: their ``diagram``, for limited neighbours which cells of it are ``loose``, and the
    number of the centre that each cell stands for.
    """

    diagram: Diagram
    loose: LooseCells | None
    numbers: AnyArray


def _division(geo: Geo, where: Floats, numbers: AnyArray, limits: _Limits) -> tuple[_Division, int]:
    """The cells of centres ``where (N, 3)``, and how many pairs of neighbours the limits leave out."""
    diagram = diagram_of(where, *geo.bounds)
    counts = select_neighbours(diagram, limits.most, limits.reach)
    if counts.all():
        return _Division(diagram, None, numbers), 0
    loose = loose_cells(diagram, counts, *geo.bounds)
    return _Division(loose.diagram, loose, numbers[loose.center]), int((~counts).sum()) // 2


def _broken(part: Geo, division: _Division) -> Fragments:
    """The parts of a mesh's faces in the cells."""
    if division.loose is None:
        home = cKDTree(division.diagram.centers[: division.diagram.count]).query(part.positions)[1]
        return fragments(part, division.diagram, home)
    pairs = faces_reaching_cells(part, division.diagram, division.loose.owner)
    return fragments_in(part, division.diagram, pairs)


def _pieces(geo: Geo, where: Floats, limits: _Limits, names: _Names, solid: bool) -> Geo:
    """Break into cells; solids whose bounds touch are broken one layer after the other."""
    layers = layers_apart(geo, solid_of_faces(geo)) if solid else np.zeros(geo.topology.face_count, np.int64)
    count = int(layers.max(initial=0)) + 1
    parts = [subset(geo, layers == n, loose=False) if count > 1 else geo for n in range(count)]
    broken = left = 0
    for attempt in range(len(NUDGES)):
        division, left = _division(geo, _nudged(geo, where, attempt), names.numbers, limits)
        diagram, owners = division.diagram, division.loose.owner if division.loose else None
        found = [(part, _broken(part, division)) for part in parts]
        caps = [
            caps_of(diagram, pieces, inside(part, diagram.vertex), owners) if solid else None for part, pieces in found
        ]
        broken = sum(one.broken for one in caps if one)
        if not broken:
            break
    if broken:
        warn(
            f"{broken:,} inner outlines do not close: the mesh crosses itself there, or centres lie too close together."
        )
    if left:
        warn(f"About {left:,} pairs of neighbours were left out, so pieces may overlap.")
    names = names._replace(numbers=division.numbers)
    centers = diagram.centers[: diagram.count]
    made = [_assembled(part, pieces, cap, centers, names) for (part, pieces), cap in zip(found, caps, strict=True)]
    return concatenate(made)


def _put_back(made: Geo, geo: Geo, middle: Floats) -> Geo:
    """Return the pieces where the mesh was; points that were there before stay to the bit."""
    known = made.attribute("point", WAS)
    old = np.where(known[:, None] >= 0, geo.positions[np.maximum(known, 0)], made.positions + middle)
    return made.without_attribute("point", WAS).with_positions(old)


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
                filling = fill_region(caps.place, loops, outward[group[0]], "polygon", Inside(), len(caps.place))
                made_sizes.append(np.diff(filling.start).astype(np.int64))
                made_corners.append(filling.point)
                made_cells.append(np.full(len(filling.start) - 1, caps.cell[group[0]]))
            except GeometryError:
                made_sizes.append(np.array([len(loop) for loop in loops]))
                made_corners.append(np.concatenate(loops))
                made_cells.append(np.full(len(loops), caps.cell[group[0]]))
    return np.concatenate(made_sizes), np.concatenate(made_corners), np.concatenate(made_cells)


class _Corners(NamedTuple):
    """Faces of the pieces over their corners: ``start (F+1,)``, the ``cell (F,)`` and ``face (F,)`` in the mesh (-1 for
    inner faces) of each; per corner its row ``pick (C,)`` among ``name (N, 5)`` and ``place (N, 3)``; ``first (P,)``
    and ``point (C,)``: the corner that stands for each point, and the point of each corner.
    """

    start: AnyArray
    cell: AnyArray
    face: AnyArray
    pick: AnyArray
    name: AnyArray
    place: Floats
    first: AnyArray
    point: AnyArray


def _corners(parts: Fragments, caps: Caps | None, centers: Floats, names: _Names) -> _Corners:
    """Put fragments and inner faces together, sorted by cell; corners of one name in one cell are one point."""
    sizes, cells, face = np.diff(parts.start), parts.cell.astype(np.int64), parts.face.astype(np.int64)
    name, place = parts.name, parts.place
    if caps is not None and len(caps.cell):
        cap_sizes, cap_corners, cap_cells = _oriented(caps, centers)
        sizes, cells = np.concatenate([sizes, cap_sizes]), np.concatenate([cells, cap_cells])
        face = np.concatenate([face, np.full(len(cap_sizes), -1)])
        name = np.concatenate([name, caps.name[cap_corners]])
        place = np.concatenate([place, caps.place[cap_corners]])
    order = np.argsort(cells, kind="stable")
    if names.first_cells:
        order = order[names.numbers[cells[order]] < names.first_cells]
    pick, start = ragged_index(starts_from_sizes(sizes), order)
    own = np.repeat(cells[order], np.diff(start))
    first, point = unique_rows(np.concatenate([own[:, None], name[pick]], axis=1))
    return _Corners(start, cells[order], face[order], pick, name, place, first, point)


def _assembled(geo: Geo, parts: Fragments, caps: Caps | None, centers: Floats, names: _Names) -> Geo:
    """Return the pieces as a mesh with all values; :data:`WAS` names the point that each point was."""
    shape = geo.topology
    made = _corners(parts, caps, centers, names)
    topology = Topology(len(made.first), made.start, made.point)
    share, column = _shares(geo, parts, len(made.name))
    on_surface = made.pick < len(parts.name)
    lead = np.maximum(_surface_lead(made.pick, made.point, on_surface, len(made.first)), -1)
    at = np.maximum(lead, 0)
    point_columns, point_shares = shape.corner_point[column[at]].astype(np.int64), share[at].copy()
    spots = made.place[made.pick[made.first]]
    within = np.flatnonzero(lead < 0)
    if len(within):
        point_columns[within] = np.asarray(cKDTree(geo.positions).query(spots[within])[1])[:, None]
        point_shares[within] = 0.0
        point_shares[within, 0] = 1.0
    point_main = point_columns[np.arange(len(at)), point_shares.argmax(axis=1)]
    corner_main = np.where(on_surface, column[made.pick, np.argmax(share[made.pick], axis=1)], -1)
    corner_share = np.where(on_surface[:, None], share[made.pick], 0.0)
    edge = np.concatenate([parts.edge, np.full(len(made.name) - len(parts.edge), -1)])[made.pick]
    result = carry(
        geo,
        topology,
        {
            "point": SourceMap(as_readonly(point_main.astype(np.int32)), Weights.rows(point_columns, point_shares)),
            "face": kept(made.face),
            "corner": SourceMap(
                as_readonly(corner_main.astype(np.int32)), Weights.rows(column[made.pick], corner_share)
            ),
            "edge": edges_along(topology, edge),
            "curve": kept(np.zeros(0)),
            "instance": kept(np.zeros(0)),
        },
        positions=spots,
    )
    name = made.name[made.pick[made.first]]
    there = name[:, 0] == ON_POINT
    was = np.where(there, geo.attribute("point", WAS)[np.where(there, name[:, 1], 0)], -1)
    result = result.with_attribute("point", WAS, was)
    result = result.with_attribute("face", names.cell, names.numbers[made.cell], "integer")
    own = np.repeat(made.cell, np.diff(made.start))[made.first]
    result = result.with_attribute("point", names.cell, names.numbers[own], "integer")
    return _without_slivers(result.with_attribute("face", names.inner, made.face < 0), names.cell)


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
