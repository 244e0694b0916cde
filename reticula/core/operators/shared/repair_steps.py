"""The steps of repairing a mesh, each by itself: what it mends, and how much of it there was."""

from __future__ import annotations

from functools import partial
from typing import NamedTuple

import numpy as np
import scipy

from reticula.core.arrays import Flags, Ints
from reticula.core.geometry import Geo, Topology, measure
from reticula.core.geometry.edit.crowded_edges import pair_corners
from reticula.core.geometry.edit.double_faces import find_double_faces
from reticula.core.geometry.edit.edge_middles import with_middles
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.edit.hanging_points import with_hanging_points
from reticula.core.geometry.edit.split_points import split_between_fans
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.geometry.measure.components import face_components
from reticula.core.geometry.measure.triangles import largest_triangle_middles
from reticula.core.geometry.planar.boundary_loops import border_loops
from reticula.core.operators.shared.solids.crossing_cuts import cut_at_crossings
from reticula.core.operators.shared.solids.filled import with_fillings
from reticula.core.operators.shared.solids.fillings import FillHow, border_fillings
from reticula.core.spatial.own_crossings import own_crossing_segments
from reticula.core.spatial.winding import winding_numbers

__all__ = ["fill_small_holes", "part_crowded", "resolve_crossings", "without_doubles"]

MARK = " was"
"""Holds the old numbers while crossings are resolved; no other attribute's name begins with a blank."""
STITCH = 1e-8
"""Share of the size within which a point lies on an edge."""
FRAMES = (1.0, 1.0 / 3.0, 5.0 / 7.0, 1.1, 0.123)
"""Sizes at which crossings are resolved, one after the other, until what was closed is closed again."""
EXACT = 100
"""Up to this many places, winding numbers are summed up over all triangles."""
BESIDE = 1e-7
"""Share of the size at which the sides of a face are looked at."""


def without_doubles(geo: Geo, tolerance: float, *, keep_closed: bool = False) -> tuple[Geo, int, int]:
    """Weld points within ``tolerance`` in m and drop faces that lie on the points of others; how many of each.

    Of faces that run alike the first stays. Of two that run against each other both go where they are a wall between
    solids, else the first stays. ``keep_closed`` leaves those where solids with a face in common would be torn.
    """
    points = np.arange(geo.topology.point_count)
    made = weld_points(geo, cluster_by_distance(geo.positions, points, tolerance), average=False)
    found = find_double_faces(made.topology)
    gone = found.copies | found.walls | found.backs
    if (
        keep_closed
        and gone.any()
        and _torn_edges(subset(made, ~gone).topology).sum() > _torn_edges(made.topology).sum()
    ):
        gone = found.walls
    welded = geo.topology.point_count - made.topology.point_count
    return (subset(made, ~gone) if gone.any() else made), welded, int(gone.sum())


class Resolved(NamedTuple):
    """A mesh without crossings: how many faces were ``cut``, how many parts of faces were ``dropped``, how many of the
    cut ones belong to open parts, where nothing could be dropped, and at how many edges what was closed is ``torn``.
    """

    geo: Geo
    cut: int
    dropped: int
    in_open: int
    torn: int


def resolve_crossings(geo: Geo, tolerance: float) -> Resolved:
    """Cut faces where they cross others of the mesh; of closed parts that cross, keep the outer surface.

    A piece of a face is kept where one side of it lies inside (winding number above 0) and the other outside, and looks
    outwards then (Jacobson, Kavan & Sorkine-Hornung 2013; Zhou, Grinspun, Zorin & Jacobson, "Mesh arrangements for
    solid geometry", SIGGRAPH 2016, there with exact numbers, here with double ones and snapping to 1e-9 of the size).
    What does not close again, where planes nearly coincide, is tried at other sizes, where rounding is another.
    """
    best: tuple[int, Resolved] | None = None
    for frame in FRAMES:
        made = _resolved_in(geo, tolerance, frame)
        torn = made.torn
        if best is None or torn < best[0]:
            best = torn, made
        if not torn:
            break
    assert best is not None
    return best[1]


def _resolved_in(geo: Geo, tolerance: float, frame: float) -> Resolved:
    """Resolve crossings of the mesh about its middle, ``frame`` times as large: other numbers are rounded there."""
    given, center = geo.positions, geo.bounds.mean(axis=0)
    size = frame * float(np.linalg.norm(geo.bounds[1] - geo.bounds[0]))
    local = geo.with_positions((given - center) * frame)
    count = geo.topology.face_count
    marked = local.with_attribute("face", MARK, np.arange(count)).with_attribute(
        "point", MARK, np.arange(geo.topology.point_count)
    )
    cut = cut_at_crossings(marked, partial(own_crossing_segments, local, size=size), size)
    if cut is marked:
        return Resolved(geo, 0, 0, 0, 0)
    near = max(tolerance * frame, STITCH * size)
    cut = _stitched(cut, near)
    source = cut.attribute("face", MARK)
    pieces = np.bincount(source, minlength=count)
    open_part, crossed_part = _parts(local, pieces > 1, cut, near)
    resolved = (crossed_part & ~open_part)[source]
    keep = np.ones(len(source), bool)
    if resolved.any():
        patch = _patches(cut.topology)
        outside, inside = _sides(subset(local, crossed_part & ~open_part), cut, patch, size)
        keep = ~resolved | (outside != inside)[patch]
        turned = resolved & (outside & ~inside)[patch]
        cut = flipped(cut, turned, np.zeros(cut.topology.curve_count, bool)) if turned.any() else cut
    made, _, _ = without_doubles(subset(cut, keep) if not keep.all() else cut, tolerance * frame)
    old = made.attribute("point", MARK)
    positions = made.positions / frame + center
    same = (made.positions == local.positions[old]).all(axis=1)
    positions[same] = given[old[same]]
    torn = int(
        _torn_edges(made.topology)[_edges_of((crossed_part & ~open_part)[made.attribute("face", MARK)], made)].sum()
    )
    made = made.without_attribute("face", MARK).without_attribute("point", MARK).with_positions(positions)
    in_open = int(((pieces > 1) & open_part).sum())
    return Resolved(made, int((pieces > 1).sum()), int((~keep).sum()), in_open, torn)


def _edges_of(faces: Flags, geo: Geo) -> Ints:
    """The edges of some faces."""
    return np.unique(geo.topology.corner_edge[faces[geo.topology.corner_face]]).astype(np.int64)


def _torn_edges(shape: Topology) -> Flags:
    """The edges along which not as many faces run one way as the other ``(E,)``: what is closed has none."""
    forward = np.where(shape.corner_point < shape.corner_point[shape.corner_next], 1, -1)
    return np.bincount(shape.corner_edge, forward, minlength=shape.edge_count) != 0


def _stitched(cut: Geo, near: float) -> Geo:
    """Let cut faces and those beside them share all points along their edges."""
    source = cut.attribute("face", MARK)
    many = np.bincount(source)[source] > 1
    points = np.zeros(cut.topology.point_count, bool)
    points[cut.topology.corner_point[many[cut.topology.corner_face]]] = True
    return with_hanging_points(cut, points, near)[0]


def _parts(geo: Geo, cut: Flags, made: Geo, near: float) -> tuple[Flags, Flags]:
    """Which faces belong to a part that is not closed, and to one of which some face was ``cut (F,)``, or that has an
    edge within ``near`` m in common with a face that was: that one's cut lies along it. ``made`` is the mesh after it.
    """
    shape, part = geo.topology, face_components(geo)
    torn = _torn_edges(shape)
    is_open, crossed = (np.zeros(int(part.max()) + 1, bool) for _ in range(2))
    is_open[part[shape.corner_face[torn[shape.corner_edge]]]] = True
    crossed[part[cut]] = True
    crossed[_parts_along(made, part[made.attribute("face", MARK)], cut[made.attribute("face", MARK)], near)] = True
    return is_open[part], crossed[part]


def _parts_along(made: Geo, part: Ints, cut: Flags, near: float) -> Ints:
    """The numbers of all parts, ``part (F,)`` of each face, with an edge where a face that was ``cut (F,)`` has one."""
    shape = made.topology
    place = cluster_by_distance(made.positions, np.arange(shape.point_count), near).astype(np.int64)
    ends = np.sort(np.stack([place[shape.corner_point], place[shape.corner_point[shape.corner_next]]]), axis=0)
    edge = np.unique(ends[0] * shape.point_count + ends[1], return_inverse=True)[1].reshape(-1)
    beside = np.zeros(int(edge.max(initial=-1)) + 1, bool)
    beside[edge[cut[shape.corner_face]]] = True
    return np.unique(part[shape.corner_face[beside[edge]]])


def _patches(shape: Topology) -> Ints:
    """The patch of each face ``(F,)``: those that hang together across edges of two faces that look alike."""
    start, corner = shape.edge_corners
    two = np.flatnonzero(np.diff(start) == 2)
    a, b = corner[start[two]], corner[start[two] + 1]
    alike = shape.corner_point[a] != shape.corner_point[b]
    ends = shape.corner_face[a[alike]], shape.corner_face[b[alike]]
    count = shape.face_count
    graph = scipy.sparse.coo_array((np.ones(len(ends[0]), np.int8), ends), shape=(count, count))
    return np.asarray(scipy.sparse.csgraph.connected_components(graph, directed=False)[1], np.int64)


def _sides(solid: Geo, cut: Geo, patch: Ints, size: float) -> tuple[Flags, Flags]:
    """Whether the outer and the inner side of each patch lie in the solid ``(N,), (N,)``: asked at its largest face."""
    area = measure.face_areas(cut)
    chosen = np.lexsort([area, patch])[np.cumsum(np.bincount(patch)) - 1]
    normal = measure.face_normals(cut)[chosen]
    step = np.minimum(BESIDE * size, 0.001 * np.sqrt(area[chosen]))[:, None]
    place = largest_triangle_middles(cut)[chosen]
    return (
        winding_numbers(solid, place + step * normal, exact=len(chosen) < EXACT) > 0.5,
        winding_numbers(solid, place - step * normal, exact=len(chosen) < EXACT) > 0.5,
    )


class Parted(NamedTuple):
    """A mesh without crowded places: ``edges`` with more than two faces, points ``added``, faces ``dropped``."""

    geo: Geo
    edges: int
    added: int
    dropped: int


def part_crowded(geo: Geo, drop: bool) -> Parted:
    """Part faces where more than two meet at an edge, or only a point is shared.

    What bounds the same solid at the edge stays together. ``drop`` leaves out parts that hang on by such an edge only
    and close nothing, as fins, unless they are the larger part of the surface.
    """
    shape = geo.topology
    partner = pair_corners(geo)
    crowded = (shape.edge_face_count > 2)[shape.corner_edge]
    made, added = split_between_fans(geo, partner)
    if (made.topology.edge_face_count > 2).any():
        made, more = with_middles(made, pair_corners(made))
        added += more
    dropped = 0
    if drop and crowded.any():
        part = face_components(made)
        area = np.bincount(part, measure.face_areas(made))
        hangs, loses = (np.zeros(len(area), bool) for _ in range(2))
        hangs[part[shape.corner_face[crowded & (partner < 0)]]] = True
        loses[hangs & (area < 0.5 * area.sum())] = True
        gone = loses[part]
        dropped = int(gone.sum())
        made = subset(made, ~gone) if dropped else made
    return Parted(made, int((shape.edge_face_count > 2).sum()), added, dropped)


def fill_small_holes(geo: Geo, longest: float) -> tuple[Geo, int, int]:
    """Close borders up to ``longest`` m around with triangles; how many, and how many longer ones there are.

    Outer borders of flat sheets stay open.
    """
    shape = geo.topology
    start, corner = border_loops(shape)
    if len(start) < 2:
        return geo, 0, 0
    ends = geo.positions[shape.edges[shape.corner_edge[corner]]]
    around = np.add.reduceat(np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1), start[:-1])
    small = around <= longest
    where = np.zeros(shape.edge_count, bool)
    where[shape.corner_edge[corner[np.repeat(small, np.diff(start))]]] = True
    if not small.any():
        return geo, 0, len(small)
    fillings, source = border_fillings(geo, where, FillHow("triangles", 0.0, "even-odd", False))
    made = with_fillings(geo, fillings, source, True) if fillings else geo
    return made, len(fillings), int((~small).sum())
