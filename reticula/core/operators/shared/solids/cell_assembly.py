"""Fragments and inner faces of cells put together into one mesh, with all values."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly, ragged_index, starts_from_sizes
from reticula.core.equal_rows import unique_rows
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edges_along, kept
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.geometry.measure.areas import edge_lengths
from reticula.core.geometry.mesh.source_maps import Later
from reticula.core.geometry.planar.boundary_loops import loop_normals
from reticula.core.geometry.planar.region_fill import Inside, fill_region, nest_loops, project_to_plane
from reticula.core.geometry.voronoi.cell_caps import Caps
from reticula.core.geometry.voronoi.cells import ON_POINT, Fragments
from reticula.core.rows import rows_at

__all__ = ["WAS", "CellNames", "assemble_cells"]

WAS = "_was"
"""Point attribute: which point of the mesh a point was, or -1."""
SLIVER = 4e-9
"""Share of the size below which points of one piece are kept apart by the moving of centres only."""


class CellNames(NamedTuple):
    """The numbers of the centres ``numbers (N,)``, how many of them count (0: all), and what results are called."""

    numbers: AnyArray
    first_cells: int
    cell: str
    inner: str


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


def _corners(parts: Fragments, caps: Caps | None, centers: Floats, names: CellNames) -> _Corners:
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
    first, point = unique_rows(np.concatenate([own[:, None], rows_at(name, pick)], axis=1))
    return _Corners(start, cells[order], face[order], pick, name, place, first, point)


def assemble_cells(geo: Geo, parts: Fragments, caps: Caps | None, centers: Floats, names: CellNames) -> Geo:
    """Return the pieces as a mesh with all values; :data:`WAS` names the point that each point was."""
    shape = geo.topology
    made = _corners(parts, caps, centers, names)
    topology = Topology(len(made.first), made.start, made.point)
    share, column = _shares(geo, parts, len(made.name))
    on_surface = made.pick < len(parts.name)
    lead = np.maximum(_surface_lead(made.pick, made.point, on_surface, len(made.first)), -1)
    at = np.maximum(lead, 0)
    point_columns, point_shares = rows_at(shape.corner_point, rows_at(column, at)).astype(np.int64), rows_at(share, at)
    first = made.pick[made.first]
    spots = rows_at(made.place, first)
    within = np.flatnonzero(lead < 0)
    if len(within):
        point_columns[within] = np.asarray(scipy.spatial.cKDTree(geo.positions).query(spots[within])[1])[:, None]
        point_shares[within] = 0.0
        point_shares[within, 0] = 1.0
    point_main = point_columns[np.arange(len(at)), point_shares.argmax(axis=1)]
    heaviest = np.full(len(made.name), -1, np.int32)
    heaviest[: len(parts.name)] = column[np.arange(len(parts.name)), parts.share.argmax(axis=1)]

    def blend() -> Weights:
        return Weights.rows(rows_at(column, made.pick), rows_at(share, made.pick))

    def old_edges() -> AnyArray:
        return rows_at(np.concatenate([parts.edge, np.full(len(made.name) - len(parts.edge), -1)]), made.pick)

    result = carry(
        geo,
        topology,
        {
            "point": SourceMap(
                as_readonly(point_main.astype(np.int32)), Later(lambda: Weights.rows(point_columns, point_shares))
            ),
            "face": kept(made.face),
            "corner": SourceMap(as_readonly(rows_at(heaviest, made.pick)), Later(blend)),
            "edge": edges_along(topology, old_edges),
            "curve": kept(np.zeros(0)),
            "instance": kept(np.zeros(0)),
        },
        positions=spots,
    )
    name = rows_at(made.name, first)
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
    reach = SLIVER * size
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
