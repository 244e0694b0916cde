"""Panels: a surface divided into rows and columns with gaps between them."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Ints, as_readonly, starts_from_sizes
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, kept
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.split_points import split_along_edges
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.value_cut import cut_at_levels
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, Integer, Number, Selection
from reticula.core.operators.shared.panel_grid import chart_of, parted_at_seams
from reticula.core.spatial.surface import surface_of

__all__ = ["panels"]

U, V = "_u", "_v"
OUTSIDE = 1e-9
"""A place this far outside the surface, as a share of its range, still lies on it."""


@operator(
    "panels",
    family="topology",
    keywords=("tiles", "divide", "rows", "columns", "facade", "plates", "gap", "shingles", "grid"),
    brings={"open borders": None},
    sections={
        "gaps": ("gap_in", "gap", "gap_width"),
        "names": ("divisions", "panel"),
    },
    carries="Carries all. Cut faces interpolate; panels laid on the surface have the values of the places they lie at.",
    example="""
        hull = grid(size=[1.4, 0.8], cells=[1, 1])
        tiles = panels(hull, columns=6, rows=4, gap=0.12)
        extrude(tiles, distance=0.05, keep_base=True)
    """,
    related=("inset", "extrude", "group_by_pattern"),
    parameters=(
        Selection.each("face", "faces to divide; empty means all. The others stay as they are"),
        Choice(
            "using",
            "surface",
            "what panels are made of",
            options={
                "surface": "of the faces of the surface, cut where panels end",
                "sheet": "of new even quads, laid on the surface by its coordinates",
            },
        ),
        Choice(
            "over",
            "uv",
            "which coordinates rows and columns follow",
            options={"uv": "the uv of the surface", "flat": "the surface laid flat along its mean normal"},
        ),
        Integer("columns", 4, "how many panels along the first coordinate", soft=(1, 20), low=1, high=200),
        Integer("rows", 4, "how many panels along the second", soft=(1, 20), low=1, high=200),
        Choice(
            "gap_in",
            "share",
            "how the gap is given",
            options={"share": "as a share of a panel", "metres": "in metres on the surface, as a mean over it"},
        ),
        Number(
            "gap",
            0.1,
            "width of the gaps, as a share of a panel's",
            soft=(0.0, 0.5),
            low=0.0,
            shown_when=("gap_in", "share"),
        ),
        Number(
            "gap_width", 0.01, "width of the gaps", unit="m", soft=(0.0, 0.1), low=0.0, shown_when=("gap_in", "metres")
        ),
        Integer(
            "divisions",
            1,
            "quads along each side of a panel",
            soft=(1, 10),
            low=1,
            high=200,
            shown_when=("using", "sheet"),
        ),
        AttributeName("panel", "panel", "face attribute that receives the number of the panel, row by row"),
    ),
)
def panels(
    geo: Geo,
    *,
    where: Flags,
    using: str,
    over: str,
    columns: int,
    rows: int,
    gap_in: str,
    gap: float,
    gap_width: float,
    divisions: int,
    panel: str,
) -> Geo:
    """Divide a surface into columns and rows of panels that share no points, with gaps between them.

    Coordinates run from the least to the largest of the marked faces. Panels end half a gap before the lines between
    them; at an outer border they go on to it, where the surface closes there is a gap as elsewhere. Cut from the
    surface, they are bounded by lines of the coordinates, which are taken as linear in each face. A panel laid on the
    surface needs places for all its points: others are left out, which is said; where the uv
    lies on itself, it takes the first face there. Faces not marked get the number -1.
    """
    if not where.any():
        warn("No face is marked, so nothing was divided.")
        return geo.with_attribute("face", panel, np.full(geo.topology.face_count, -1))
    chart = chart_of(geo, where, over)
    counts = np.array([columns, rows])
    halves = 0.5 * (gap / counts if gap_in == "share" else gap_width / np.maximum(chart.size, 1e-300))
    if (2.0 * halves * counts >= 1.0).any():
        warn("The gaps are as wide as the panels, so no panel is left.")
        halves = np.minimum(halves, 0.5 / counts)
    rest = subset(geo, ~where)
    stretches = [
        _stretches(int(count), float(half), bool(wraps))
        for count, half, wraps in zip(counts, halves, chart.wraps, strict=True)
    ]
    if using == "surface":
        made, number = _cut_out(geo, where, chart.at, stretches)
    else:
        made, number = _laid_on(geo, where, chart.at, stretches, divisions)
    made = made.with_attribute("face", panel, number)
    note(f"{len(np.unique(number)):,} panels of {columns:,} × {rows:,}, {len(number):,} faces.")
    if not rest.topology.face_count and not rest.topology.curve_count and not rest.topology.instance_count:
        return made
    rest = rest.with_attribute("face", panel, np.full(rest.topology.face_count, -1))
    return concatenate([made, rest])


def _stretches(count: int, half: float, wraps: bool) -> Floats:
    """Where each panel begins and ends along a coordinate from 0 to 1 ``(count, 2)``."""
    begin, end = np.arange(count) / count + half, np.arange(1, count + 1) / count - half
    if not wraps:
        begin[0], end[-1] = 0.0, 1.0
    return np.stack([begin, end], axis=1)


def _cut_out(geo: Geo, where: Flags, at: Floats, stretches: list[Floats]) -> tuple[Geo, Ints]:
    """Marked faces cut where panels begin and end, without the gaps, and the panel of each."""
    shape = geo.topology
    corner = where[shape.corner_face]
    made = subset(geo, where, np.zeros(shape.curve_count, bool), loose=False)
    made = parted_at_seams(made, at[corner])
    own = np.zeros((made.topology.point_count, 2))
    own[made.topology.corner_point] = at[corner]
    made = made.with_attribute("point", U, own[:, 0]).with_attribute("point", V, own[:, 1])
    for name, stretch in zip((U, V), stretches, strict=True):
        lines = np.unique(stretch)
        lines = lines[(lines > 0.0) & (lines < 1.0)]
        cut = cut_at_levels(made, made.attribute("point", name), lines.tolist(), 0.0)
        middle = 0.5 * (np.append(0.0, lines) + np.append(lines, 1.0))
        part = np.searchsorted(stretch[:, 0], middle, side="right") - 1
        part[(part >= 0) & (middle > stretch[np.maximum(part, 0), 1])] = -1
        made = cut.geo.with_attribute("face", name, part[cut.band])
    column, row = made.attribute("face", U), made.attribute("face", V)
    for kind in ("face", "point"):
        made = made.without_attribute(kind, U).without_attribute(kind, V)
    keep = (column >= 0) & (row >= 0)
    number = (row * len(stretches[0]) + column)[keep]
    return _parted(subset(made, keep, loose=False), number), number


def _parted(geo: Geo, number: Ints) -> Geo:
    """Panels share no points, also where there is no gap."""
    start, corner = geo.topology.edge_corners
    if not len(corner):
        return geo
    own = number[geo.topology.corner_face[corner]]
    return split_along_edges(geo, np.minimum.reduceat(own, start[:-1]) != np.maximum.reduceat(own, start[:-1]))


def _laid_on(geo: Geo, where: Flags, at: Floats, stretches: list[Floats], divisions: int) -> tuple[Geo, Ints]:
    """New even panels at the places of the surface with their coordinates, and the panel of each face."""
    shape = geo.topology
    corner = np.flatnonzero(where[shape.corner_face])
    sheet = surface_of(Geo.of(np.c_[at[corner], np.zeros(len(corner))], _faces_apart(shape.face_size[where])))
    side = divisions + 1
    grid = _grid(stretches, side)
    found = sheet.closest(np.c_[grid, np.zeros(len(grid))], OUTSIDE)
    whole = found.found.reshape(-1, side * side).all(axis=1)
    if not whole.all():
        note(f"{int((~whole).sum()):,} panels reach beyond the surface and were left out.")
    one = (np.arange(divisions)[:, None] * side + np.arange(divisions)).reshape(-1, 1)
    quad = one + np.array([0, 1, side + 1, side])
    if _looks_back(geo, where, at):
        quad = quad[:, ::-1]
    count = int(whole.sum())
    points = np.flatnonzero(np.repeat(whole, side * side))
    corners = (np.arange(count)[:, None, None] * side * side + quad).reshape(-1).astype(np.int32)
    topology = Topology(len(points), starts_from_sizes(np.full(count * len(quad), 4)), corners)
    columns, weight = corner[sheet.corner[found.triangle[points]]], found.weight[points]
    main = columns[np.arange(len(columns)), weight.argmax(axis=1)].astype(np.int32)
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(shape.corner_point[main], Weights.rows(shape.corner_point[columns], weight)),
            "face": kept(shape.corner_face[main[corners[::4]]]),
            "corner": SourceMap(as_readonly(main[corners]), Weights.rows(columns[corners], weight[corners])),
            "edge": kept(np.full(topology.edge_count, -1)),
        },
    )
    return made, np.repeat(np.flatnonzero(whole), len(quad))


def _faces_apart(sizes: AnyArray) -> Topology:
    """Faces of these sizes with points of their own."""
    count = int(sizes.sum())
    return Topology(count, starts_from_sizes(sizes), np.arange(count, dtype=np.int32))


def _grid(stretches: list[Floats], side: int) -> Floats:
    """The coordinates of all points, panel by panel, each row by row ``(columns * rows * side², 2)``."""
    share = np.linspace(0.0, 1.0, side)
    u, v = ((1.0 - share) * stretch[:, :1] + share * stretch[:, 1:] for stretch in stretches)
    both = np.stack(np.broadcast_arrays(u[None, :, None, :], v[:, None, :, None]), axis=4)
    return both.reshape(-1, 2)


def _looks_back(geo: Geo, where: Flags, at: Floats) -> bool:
    """Whether most of the surface runs clockwise over its coordinates."""
    shape = geo.topology
    ahead = at[shape.corner_next]
    turn = at[:, 0] * ahead[:, 1] - at[:, 1] * ahead[:, 0]
    return bool(turn[where[shape.corner_face]].sum() < 0.0)
