"""Break into cells: a solid or a sheet in pieces around given centres."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.edit.merge_faces import equal_across, flat_across, merge_across
from reticula.core.geometry.edit.short_edges import without_short_edges
from reticula.core.geometry.edit.split_points import split_along_edges
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.areas import corner_turns, face_normals, face_planarity
from reticula.core.geometry.voronoi.cell_caps import caps_of
from reticula.core.geometry.voronoi.cells import Fragments, fragments, fragments_in
from reticula.core.geometry.voronoi.diagram import Diagram, diagram_of
from reticula.core.geometry.voronoi.loose_cells import LooseCells, loose_cells, select_neighbours
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, GroupName, Integer, Number, Toggle
from reticula.core.operators.shared.solids.cell_assembly import WAS, CellNames, assemble_cells
from reticula.core.spatial.cell_reach import faces_reaching_cells
from reticula.core.spatial.inside import inside
from reticula.core.spatial.solids import layers_apart, solid_of_faces

__all__ = ["break_into_cells"]

MOST_CORNERS = 8
CELL_KINDS: tuple[Kind, ...] = ("point", "face")
FLAT = 1e-8
"""Angle, in rad, up to which faces lie in one plane."""
NUDGES = (1e-9, 1e-7, 1e-6)
"""By how much, as a share of the size, centres are moved so that no five cells meet in one place."""
SHORT = 1e-6
"""Edges of pieces shorter than this share of the size come from such places, and are drawn together."""


@operator(
    "break_into_cells",
    family="solids",
    inputs=(Input("geo", "solid or sheet to break"), Input("centers", "its points are the centres of the cells")),
    keywords=("voronoi", "shatter", "fragments", "crack", "pieces", "split", "partition"),
    brings={"points in one place": None, "open borders": ("make", "sheets")},
    sections={
        "neighbours": ("first_cells", "most_neighbours", "neighbour_reach"),
        "names": ("cell_name", "inner_group"),
    },
    carries=(
        "Carries all of the first input: parts of a face copy it, values of points and corners are "
        "interpolated where it is cut. "
        "Inner faces get defaults, inner points the values of the nearest point. Curves and loose "
        "points are left out, which is said."
    ),
    example="""
        block = box(size=[0.9, 0.5, 0.6])
        seeds = scatter_in_volume(block, total=18, seed=3)
        cells = break_into_cells(block, seeds)
        pull_apart(cells, part="cell", amount=0.2)
    """,
    related=("pull_apart", "boolean", "slice", "scatter_in_volume"),
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
        AttributeName(
            "cell_name",
            "cell",
            "point and face attribute that receives the number of the centre; with _name behind it, a stable number",
            new=True,
        ),
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
    are moved by less than a millionth of the size so that no five cells meet in one place, and edges that short are
    drawn together. With fewer neighbours than touch a cell, every piece is cut by those alone, and pieces overlap: that
    is a look, and no way to save time, since all neighbours take no longer than a few, which leave more to be made.
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
    names = CellNames(numbers, first_cells, cell_name, inner_group)
    limits = _Limits(most_neighbours, neighbour_reach)
    made = _pieces(near, where, limits, names, solid)
    made = without_short_edges(made, made.attribute("point", WAS) >= 0, SHORT * _size(near))
    made = _put_back(made, geo, middle)
    if merge_flat:
        flat = flat_across(made, face_normals(made), FLAT) & equal_across(made)
        made, _ = merge_across(made, flat)
    made = _with_stable_names(made, cell_name, centers)
    inner = int(made.group("face", inner_group).sum())
    note(f"{len(np.unique(made.attribute('face', cell_name))):,} pieces, {inner:,} inner faces.")
    return made


def _with_stable_names(made: Geo, cell_name: str, centers: Geo) -> Geo:
    """Say of each cell also what its centre is called, which stays when centres are counted anew."""
    names = (centers.identity("point") >> np.uint64(1)).astype(np.int64)
    for kind in CELL_KINDS:
        made = made.with_attribute(kind, f"{cell_name}_name", names[made.attribute(kind, cell_name)], "integer")
    return made


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
    return where + np.random.default_rng(attempt).uniform(-1, 1, where.shape) * (NUDGES[attempt] * _size(geo))


def _size(geo: Geo) -> float:
    return max(float(np.linalg.norm(geo.bounds[1] - geo.bounds[0])), 1e-300)


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
        home = scipy.spatial.cKDTree(division.diagram.centers[: division.diagram.count]).query(part.positions)[1]
        return fragments(part, division.diagram, home)
    pairs = faces_reaching_cells(part, division.diagram, division.loose.owner)
    return fragments_in(part, division.diagram, pairs)


def _pieces(geo: Geo, where: Floats, limits: _Limits, names: CellNames, solid: bool) -> Geo:
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
    made = [assemble_cells(part, pieces, cap, centers, names) for (part, pieces), cap in zip(found, caps, strict=True)]
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
    turn = corner_turns(geo)
    hollow = (
        np.bincount(shape.corner_face, turn < -1e-12 * np.abs(turn).max(initial=0.0), minlength=shape.face_count) > 0
    )
    bent = face_planarity(geo) > 1e-9
    chosen = (bent | hollow | (shape.face_size > MOST_CORNERS)) & (shape.face_size > 3)
    if chosen.any():
        note(f"{int(chosen.sum()):,} faces that are bent, hollow or large were cut into triangles first.")
    return triangulate_faces(geo, chosen)
