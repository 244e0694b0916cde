"""What fill puts over open borders and into closed curves."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Flags, Floats, following_in_rows, ragged_index, starts_from_sizes
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, Topology, measure
from reticula.core.geometry.edit.subset import any_of_row
from reticula.core.geometry.measure.seams import joined_elements
from reticula.core.geometry.planar.boundary_loops import border_loops, loop_normals
from reticula.core.geometry.planar.divided_outlines import divided_outlines
from reticula.core.geometry.planar.many_loops import triangulate_loops
from reticula.core.geometry.planar.outline_regions import outline_regions
from reticula.core.geometry.planar.region_fill import Filling, Inside, fill_region, project_to_plane

__all__ = ["FillHow", "Fillings", "border_fillings", "curve_fillings"]

FLAT = 1e-4
"""How far a place may lie off a plane, as a share of the size; how far planes may be turned, in radians."""


class FillHow(NamedTuple):
    """With what to fill (polygon, triangles, even), how many edges lie across, by which rule curves enclose something,
    and whether loose points inside are used.
    """

    using: str
    across: float
    rule: str
    use_points: bool


class Fillings(NamedTuple):
    """What was made, and the face ``(F,)`` each new one copies, -1 for none."""

    parts: list[Filling]
    source: AnyArray


class _Region(NamedTuple):
    """``rings``: point numbers of the outline, counter-clockwise seen against the ``normal (3,)``, then of holes."""

    rings: list[AnyArray]
    normal: Floats


class _Loose:
    """Loose points, asked for by nearness to a loop."""

    def __init__(self, geo: Geo, wanted: bool) -> None:
        self.positions = geo.positions
        self.points = np.flatnonzero(~geo.topology.used_points) if wanted else np.zeros(0, np.int64)
        self.tree = scipy.spatial.cKDTree(geo.positions[self.points]) if len(self.points) else None

    def near(self, loop: Floats) -> AnyArray:
        if self.tree is None:
            return self.points
        center = 0.5 * (loop.min(axis=0) + loop.max(axis=0))
        reach = float(np.linalg.norm(loop - center, axis=1).max())
        return np.sort(self.points[self.tree.query_ball_point(center, reach * (1 + FLAT))])


def _filled(geo: Geo, regions: list[_Region], places: Floats, how: FillHow) -> tuple[list[Filling], int]:
    """Fill each region; ``places`` are the positions of all points and, after them, of those added before.

    Returns a filling for each, and how many could not be laid flat without crossing themselves: these are one polygon.
    """
    count, crossed, first_new = geo.topology.point_count, 0, len(places)
    loose = _Loose(geo, how.use_points and how.using != "polygon")
    near = [loose.near(places[region.rings[0]]) for region in regions]
    simple = [
        n
        for n, region in enumerate(regions)
        if how.using == "triangles" and len(region.rings) == 1 and not len(near[n])
    ]
    at_once = dict(zip(simple, _cut_at_once([regions[n] for n in simple], places), strict=True))
    made: list[Filling] = []
    for n, (rings, normal) in enumerate(regions):
        part = at_once.get(n)
        if part is None:
            try:
                part = fill_region(places, rings, normal, how.using, Inside(how.across, near[n]), first_new)
            except GeometryError:
                part, crossed = fill_region(places, rings[:1], normal, "polygon", Inside(), first_new), crossed + 1
        made.append(part)
        first_new += len(part.added)
    used = np.concatenate([part.point for part in made]) if len(loose.points) and made else np.zeros(0, np.int32)
    taken = len(np.intersect1d(loose.points, used[used < count]))
    if taken:
        note(f"Used {taken:,} loose points inside.")
    return made, crossed


def _cut_at_once(regions: list[_Region], places: Floats) -> list[Filling | None]:
    """Cut regions of one outline into triangles; None for those that cross themselves."""
    if not regions:
        return []
    normals = np.stack([region.normal for region in regions])
    made = triangulate_loops(places, [region.rings[0] for region in regions], normals)
    start = np.searchsorted(made.loop, np.arange(len(regions) + 1))
    point, none = made.point.astype(np.int32), np.zeros((0, 3))
    return [
        Filling(3 * np.arange(b - a + 1, dtype=np.int32), point[a:b].reshape(-1), none) if done else None
        for a, b, done in zip(start, start[1:], made.done, strict=False)
    ]


def border_fillings(geo: Geo, where: Flags, how: FillHow) -> Fillings:
    """Return faces over the border loops of which some edge is marked ``where (E,)``. Outer borders of flat sheets are
    left open: a face over one would lie on the sheet itself.
    """
    shape = geo.topology
    start, corner = border_loops(shape)
    marked = np.flatnonzero(any_of_row(start, where[shape.corner_edge[corner]]))
    if not len(marked):
        note("There is no open border to fill.")
    marked = marked[~_around_flat_sheets(geo, start, corner, marked)]
    flat, start = ragged_index(start, marked)
    corner = corner[flat]
    beside = shape.corner_face[corner[start[:-1]]] if len(marked) else np.zeros(0, np.int64)
    step = np.arange(len(corner)) - np.repeat(start[:-1], np.diff(start))
    point = shape.corner_point[corner][np.repeat(start[1:] - 1, np.diff(start)) - step]
    if how.using == "polygon":
        return Fillings([Filling(start, point, np.zeros((0, 3)))] * bool(len(marked)), beside)
    normals = loop_normals(geo.positions, start, point)
    loops = [point[first:last] for first, last in zip(start, start[1:], strict=False)]
    regions = [_Region([loop], normal) for loop, normal in zip(loops, normals, strict=True)]
    parts, crossed = _filled(geo, regions, geo.positions, how)
    coarse = [_is_coarse(geo.positions[loop], normal, how.across) for loop, normal in zip(loops, normals, strict=True)]
    if how.using == "even" and any(coarse):
        note(
            f"{sum(coarse):,} borders have edges longer than {how.across:g} triangles across ask for; those beside "
            "them are as large as these edges. For smaller ones, divide them first."
        )
    if crossed:
        warn(f"{crossed:,} borders cross themselves when laid flat and were closed with one polygon each.")
    return Fillings(parts, np.repeat(beside, [len(part.start) - 1 for part in parts]))


def _is_coarse(loop: Floats, normal: Floats, across: float) -> bool:
    """Whether most of a border's length is in edges more than twice as long as triangles of this many across."""
    edges = np.linalg.norm(np.roll(loop, -1, axis=0) - loop, axis=1)
    wanted = float(np.sqrt(np.linalg.norm(normal))) / max(across, 1.0)
    return bool(edges[edges > 2 * wanted].sum() > 0.5 * edges.sum())


def _around_flat_sheets(geo: Geo, start: AnyArray, corner: AnyArray, loops: AnyArray) -> Flags:
    """Which of some border loops run in a plane around faces of that plane, and not around a hole in them ``(L,)``."""
    if not len(loops):
        return np.zeros(0, bool)
    shape = geo.topology
    flat, start = ragged_index(start, loops)
    corner = corner[flat]
    point = shape.corner_point[corner]
    along = loop_normals(geo.positions, start, point)
    along /= np.maximum(np.linalg.norm(along, axis=1, keepdims=True), 1e-300)
    loop = np.repeat(np.arange(len(loops)), np.diff(start))
    from_first = geo.positions[point] - geo.positions[point[start[:-1]]][loop]
    size = np.maximum.reduceat(np.linalg.norm(from_first, axis=1), start[:-1])
    off = np.abs(np.einsum("ij,ij->i", from_first, along[loop])) > FLAT * size[loop]
    off |= np.einsum("ij,ij->i", measure.face_normals(geo)[shape.corner_face[corner]], along[loop]) < 1 - FLAT
    around = ~np.logical_or.reduceat(off, start[:-1])
    if around.all():
        warn(
            "Nothing is open but the outer border of flat sheets: faces over it would lie on the sheet itself. "
            "For a solid, extrude the sheet and keep its base."
        )
    elif around.any():
        note(f"{int(around.sum()):,} outer borders of flat sheets were left open.")
    return np.asarray(around)


def curve_fillings(geo: Geo, where: Flags, how: FillHow) -> Fillings:
    """Return faces for what the closed curves among ``where (K,)`` enclose, plane by plane.

    The first part has no faces: its points are where outlines cross and, for an even mesh, those that divide long
    edges of outlines.
    """
    shape = geo.topology
    chosen = np.flatnonzero(where & shape.curve_closed & (np.diff(shape.curve_start) >= 3))
    if int(where.sum()) > len(chosen):
        warn(f"{int(where.sum()) - len(chosen):,} curves are open or have two points and were not filled.")
    if not len(chosen):
        warn("There is no closed curve to fill.")
        return Fillings([], np.zeros(0, np.int64))
    loops = [shape.curve_point[shape.curve_start[k] : shape.curve_start[k + 1]] for k in chosen]
    regions, places = _regions(geo, loops, how.rule)
    if how.using == "even":
        regions, places = _with_divided_edges(regions, places, how.across, shape)
    added = Filling(np.zeros(1, np.int32), np.zeros(0, np.int32), places[shape.point_count :])
    parts, crossed = _filled(geo, regions, places, how)
    if crossed:
        warn(f"{crossed:,} outlines cross themselves and were filled with one polygon each.")
    parts = [added, *_running_as_beside(parts, shape)]
    return Fillings(parts, np.full(sum(len(part.start) - 1 for part in parts), -1, np.int64))


def _regions(geo: Geo, loops: list[AnyArray], rule: str) -> tuple[list[_Region], Floats]:
    """Return the regions of loops, plane by plane, and the positions with the places appended where outlines cross."""
    start = starts_from_sizes(np.array([len(loop) for loop in loops]))
    normals = loop_normals(geo.positions, start, np.concatenate(loops))
    places = [geo.positions]
    count = len(geo.positions)
    regions: list[_Region] = []
    for members in _planes(geo, loops, normals):
        normal = normals[members[int(np.linalg.norm(normals[members], axis=1).argmax())]]
        points = np.concatenate([loops[m] for m in members])
        center = geo.positions[points].mean(axis=0)
        flat, axes = project_to_plane(geo.positions[points] - center, normal)
        up = np.cross(axes[0], axes[1])
        height = float(((geo.positions[points] - center) @ up).mean())
        found = outline_regions(np.split(flat, np.cumsum([len(loops[m]) for m in members])[:-1]), rule)
        number = np.concatenate([points, count + np.arange(len(found.added))])
        count += len(found.added)
        places.append(center + found.added @ axes + height * up)
        regions += [_Region([number[ring] for ring in rings], up) for rings in found.regions]
    return regions, np.concatenate(places)


def _planes(geo: Geo, loops: list[AnyArray], normals: Floats) -> list[AnyArray]:
    """Group loops that lie in one plane, whichever way they run, in the order of their first ones."""
    size = max(float(np.linalg.norm(geo.bounds[1] - geo.bounds[0])), 1e-300)
    length = np.linalg.norm(normals, axis=1)
    normals = normals.copy()
    for k in np.flatnonzero(length <= 1e-9 * size * size):
        _, axes = project_to_plane(geo.positions[loops[k]] - geo.positions[loops[k]].mean(axis=0), np.zeros(3))
        normals[k] = np.cross(axes[0], axes[1])
    unit = normals / np.linalg.norm(normals, axis=1, keepdims=True)
    first = geo.positions[[loop[0] for loop in loops]] - geo.bounds.mean(axis=0)
    plane = np.concatenate([unit, np.einsum("ij,ij->i", first, unit)[:, None] / size], axis=1)
    # A plane has two normals: what is near one of them is the same plane. Rounding first keeps the pairs few.
    plane, same = np.unique(np.round(plane / (0.1 * FLAT)), axis=0, return_inverse=True)
    pairs = scipy.spatial.cKDTree(np.concatenate([plane, -plane])).query_pairs(10.0, output_type="ndarray") % len(plane)
    code = joined_elements(len(plane), pairs[:, 0], pairs[:, 1])[same.reshape(-1)]
    order = np.argsort(code, kind="stable")
    groups = np.split(order, np.flatnonzero(np.diff(code[order])) + 1)
    return sorted(groups, key=lambda group: int(group[0]))


def _with_divided_edges(
    regions: list[_Region], places: Floats, across: float, shape: Topology
) -> tuple[list[_Region], Floats]:
    """Divide outline edges that are too long for the triangles of their region; those of faces stay whole."""
    whole = np.sort(np.concatenate(_directed(shape)))
    added: list[Floats] = []
    count, divided = len(places), []
    for rings, normal in regions:
        flat = [project_to_plane(places[ring] - places[rings[0][0]], normal)[0] for ring in rings]
        kept = [_among(whole, ring, np.roll(ring, -1), shape.point_count) for ring in rings]
        made = []
        for ring, cuts in zip(rings, divided_outlines(flat, kept, across), strict=True):
            number = ring[cuts.edge]
            new = cuts.share > 0
            share, tail, head = cuts.share[new, None], number[new], np.roll(ring, -1)[cuts.edge[new]]
            added.append((1 - share) * places[tail] + share * places[head])
            number[new] = count + np.arange(len(tail))
            count += len(tail)
            made.append(number)
        divided.append(_Region(made, normal))
    return divided, np.concatenate([places, *added])


def _directed(shape: Topology) -> tuple[AnyArray, AnyArray]:
    """Return a key of each side of a face as that runs, and of the same sides run backwards."""
    tail = shape.corner_point.astype(np.int64)
    head = tail[shape.corner_next]
    return tail * shape.point_count + head, head * shape.point_count + tail


def _among(keys: AnyArray, tail: AnyArray, head: AnyArray, count: int) -> Flags:
    """Which sides from ``tail (N,)`` to ``head (N,)`` are among the sorted keys; added points are at no face."""
    if not len(keys):
        return np.zeros(len(tail), bool)
    key = tail.astype(np.int64) * count + head
    found = keys[np.minimum(np.searchsorted(keys, key), len(keys) - 1)] == key
    return np.asarray(found & (tail < count) & (head < count))


def _running_as_beside(parts: list[Filling], shape: Topology) -> list[Filling]:
    """Turn fillings over of which more sides run as those of the faces beside them than against them."""
    if not shape.face_count or not parts:
        return parts
    ahead, behind = (np.sort(keys) for keys in _directed(shape))
    tail = np.concatenate([part.point for part in parts])
    head = np.concatenate([part.point[following_in_rows(part.start)] for part in parts])
    owner = np.repeat(np.arange(len(parts)), [len(part.point) for part in parts])
    votes = _among(behind, tail, head, shape.point_count) * 1.0 - _among(ahead, tail, head, shape.point_count)
    against = np.bincount(owner, votes, minlength=len(parts)) < 0
    return [_turned(part) if turn else part for part, turn in zip(parts, against, strict=True)]


def _turned(filling: Filling) -> Filling:
    start = filling.start
    ends = np.repeat(start[:-1] + start[1:] - 1, np.diff(start))
    return Filling(start, filling.point[ends - np.arange(len(filling.point))], filling.added)
