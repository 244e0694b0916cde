"""Meshes put together from the triangles that a boolean of solids leaves, with values from the faces they lie in."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Ints, as_readonly, ragged_index, starts_from_sizes
from reticula.core.geometry import Attribute, Geo, SourceMap, Topology, Weights, carry, edges_along, kept
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.source_maps import Later
from reticula.core.geometry.planar.barycentric import barycentric
from reticula.core.jit import parallel_kernel, prange
from reticula.core.rows import row_crosses, row_dots, rows_at

__all__ = ["TracedTriangles", "assemble"]


class TracedTriangles(NamedTuple):
    """Triangles that lie in faces of a source: ``points (P, 3)``, seen from a centre, and ``tri (T, 3)`` over them;
    ``corner (T, 3)``, the source corners between which each lies, ``face (T,)``, in ascending order, and ``part (T,)``,
    which of the inputs that face is of.
    """

    points: Floats
    tri: Ints
    corner: Ints
    face: Ints
    part: Ints


class _Location(NamedTuple):
    """Where the corners of triangles lie in their source triangles: ``weight (T, 3, 3)``, whether just on a source
    corner ``exact (T, 3)``, the ``nearest (T, 3)`` source corner and ``which (T, 3)`` of the three it is, and whether
    the triangle faces against its source ``turned (T,)``.
    """

    weight: Floats
    exact: Flags
    nearest: Ints
    which: Ints
    turned: Flags


class _Polygons(NamedTuple):
    """Faces of the result over their corners: ``start (F+1,)``, ``ring (C,)`` into the points of the triangles,
    ``face (F,)`` in the source; for each corner its main source corner ``main (C,)``, whether it is just there
    ``exact (C,)``, and the blend ``column (C, 3)``, ``value (C, 3)``.
    """

    start: AnyArray
    ring: AnyArray
    face: Ints
    main: Ints
    exact: Flags
    column: Ints
    value: Floats


def assemble(source: Geo, parts: Sequence[Geo], cut: TracedTriangles, center: Floats) -> tuple[Geo, AnyArray]:
    """Return the mesh of the triangles, with all values of ``source``, and the source face of each of its faces.

    ``source`` is made of ``parts``. Points that nothing moved keep their positions to the bit; faces all of whose
    triangles are as they were become polygons again. A point in faces of several parts has the value of the first part
    that has the attribute.
    """
    location = _locate(source, cut, center)
    positions = cut.points + center
    exact = location.exact
    positions[cut.tri[exact]] = source.positions[source.topology.corner_point[location.nearest[exact]]]
    reversed_faces = np.bincount(cut.face, location.turned, minlength=source.topology.face_count) > 0
    faces = _polygons(source.topology, cut, location, reversed_faces)
    used = _in_source_order(np.unique(faces.ring), source.topology, cut, location)
    local = np.full(len(cut.points), -1, np.int64)
    local[used] = np.arange(len(used))
    topology = Topology(len(used), faces.start, local[faces.ring])
    made = carry(
        source,
        topology,
        {
            "point": _point_map(source.topology, cut, location, used, range(len(parts))),
            "face": kept(faces.face),
            "corner": SourceMap(
                as_readonly(faces.main.astype(np.int32)), Later(lambda: Weights.rows(faces.column, faces.value))
            ),
            "curve": kept(np.zeros(0)),
            "edge": edges_along(topology, lambda: _corner_edges(source.topology, topology, faces)),
            "instance": kept(np.zeros(0)),
        },
        positions=positions[used],
    )
    origin = made.sources["face"].index
    made = _with_own_values(made, source, parts, lambda order: _point_map(source.topology, cut, location, used, order))
    back: dict[Kind, Flags] = {
        "face": reversed_faces[origin],
        "corner": reversed_faces[source.topology.corner_face[faces.main]],
    }
    return _with_turned_normals(made, back), origin


def _locate(source: Geo, cut: TracedTriangles, center: Floats) -> _Location:
    """Return where the corners of the triangles lie in the triangles of ``source`` that they are part of."""
    places = rows_at(source.positions, source.topology.corner_point[cut.corner]) - center
    made = rows_at(cut.points, cut.tri)
    weight = barycentric(places, made.reshape(-1, 3)).reshape(-1, 3, 3)
    exact, which = _at_corners(places, made, weight)
    nearest = np.take_along_axis(cut.corner, which, axis=1)
    before = row_crosses(places[:, 1] - places[:, 0], places[:, 2] - places[:, 0])
    after = row_crosses(made[:, 1] - made[:, 0], made[:, 2] - made[:, 0])
    return _Location(weight, exact, nearest, which, row_dots(before, after) < 0)


@parallel_kernel
def _at_corners(places: Floats, made: Floats, weight: Floats) -> tuple[Flags, Ints]:
    """Which corners stand just on a corner of the source triangle, and which of the three they are nearest to; the
    former get ``weight (T, 3, 3)`` of that alone.
    """
    exact, which = np.zeros((len(places), 3), np.bool_), np.zeros((len(places), 3), np.int64)
    for t in prange(len(places)):
        for k in range(3):
            for j in range(2, -1, -1):
                if (
                    made[t, k, 0] == places[t, j, 0]
                    and made[t, k, 1] == places[t, j, 1]
                    and made[t, k, 2] == places[t, j, 2]
                ):
                    exact[t, k], which[t, k] = True, j
            for j in range(3):
                if exact[t, k]:
                    weight[t, k, j] = 1.0 if j == which[t, k] else 0.0
                elif weight[t, k, j] > weight[t, k, which[t, k]]:
                    which[t, k] = j
    return exact, which


def _in_source_order(used: Ints, shape: Topology, cut: TracedTriangles, location: _Location) -> Ints:
    """Return the ``used`` points with those of the source in front, in its order."""
    key = np.arange(shape.point_count, shape.point_count + len(cut.points))
    key[cut.tri[location.exact]] = shape.corner_point[location.nearest[location.exact]]
    return used[np.argsort(key[used])]


def _polygons(shape: Topology, cut: TracedTriangles, location: _Location, reversed_faces: Flags) -> _Polygons:
    """Return the source faces that nothing cut, as they were, and the triangles of all others."""
    as_it_was = location.exact.all(axis=1) & (np.sort(location.which, axis=1) == [0, 1, 2]).all(axis=1)
    have = np.bincount(cut.face, minlength=shape.face_count)
    whole = (have == shape.face_size - 2) & (np.bincount(cut.face, as_it_was, minlength=shape.face_count) == have)
    whole_faces, single = np.flatnonzero(whole & (have > 0)), ~whole[cut.face]
    corners, begin = _corners_of(shape, whole_faces, reversed_faces)
    point_of = np.full(shape.point_count, -1, np.int64)
    point_of[shape.corner_point[location.nearest[location.exact]]] = cut.tri[location.exact]
    start = starts_from_sizes(np.concatenate([np.diff(begin), np.full(int(single.sum()), 3)]))
    face = np.concatenate([whole_faces, cut.face[single]])
    order = np.argsort(face, kind="stable")
    pick, new_start = ragged_index(start, order)
    count = len(corners)

    def both(of_whole: AnyArray, of_single: AnyArray) -> AnyArray:
        return np.concatenate([of_whole, of_single.reshape(-1, *of_whole.shape[1:])])[pick]

    return _Polygons(
        start=new_start,
        ring=both(point_of[shape.corner_point[corners]], cut.tri[single]),
        face=face[order],
        main=both(corners, location.nearest[single]),
        exact=both(np.ones(count, bool), location.exact[single]),
        column=both(np.repeat(corners[:, None], 3, axis=1), np.repeat(cut.corner[single], 3, axis=0)),
        value=both(np.tile([1.0, 0.0, 0.0], (count, 1)), location.weight[single]),
    )


def _corners_of(shape: Topology, faces: Ints, reversed_faces: Flags) -> tuple[AnyArray, AnyArray]:
    """Return the corners of some faces in order, those of reversed ones the other way round, and starts ``(F+1,)``."""
    flat, begin = ragged_index(shape.face_start, faces)
    sizes = np.diff(begin)
    size = np.repeat(sizes, sizes)
    step = np.arange(len(flat)) - np.repeat(begin[:-1], sizes)
    back = reversed_faces[shape.corner_face[flat]]
    return flat - step + np.where(back, (-step) % np.maximum(size, 1), step), begin


def _point_map(
    shape: Topology, cut: TracedTriangles, location: _Location, used: Ints, order: Sequence[int]
) -> SourceMap:
    """Return where the ``used`` points come from: blends of the source points of a triangle that they lie in.

    Where triangles of several parts meet, the part counts that comes first in ``order``.
    """
    chosen = np.full(len(cut.points), -1, np.int64)
    for part in reversed(order):
        rows = np.flatnonzero(cut.part == part)
        chosen[cut.tri[rows]] = 3 * rows[:, None] + np.arange(3)
    chosen = chosen[used]
    place = shape.corner_point[cut.corner[chosen // 3]].astype(np.int64)
    share = location.weight.reshape(-1, 3)[chosen]
    main = np.take_along_axis(place, share.argmax(axis=1)[:, None], axis=1)[:, 0] if len(used) else np.zeros(0)
    return SourceMap(as_readonly(main.astype(np.int32)), Later(lambda: Weights.rows(place, share)))


def _with_own_values(
    made: Geo, source: Geo, parts: Sequence[Geo], point_map: Callable[[Sequence[int]], SourceMap]
) -> Geo:
    """Return the geometry with point attributes that only some parts have taken from those parts where they meet."""
    maps: dict[tuple[int, ...], SourceMap] = {}
    for name, attribute in source.attributes["point"].items():
        have = [part for part, one in enumerate(parts) if one.has("point", name)]
        lack = [part for part in range(len(parts)) if part not in have]
        if not have or not lack or have[-1] < lack[0]:
            continue
        order = (*have, *lack)
        if order not in maps:
            maps[order] = point_map(order)
        made = made.with_attribute("point", name, maps[order].attribute(name, attribute))
    return made


def _corner_edges(shape: Topology, topology: Topology, faces: _Polygons) -> Ints:
    """Return the source edge from each new corner to the next ``(C,)``, -1 where there is none."""
    edge = np.full(topology.corner_count, -1)
    if not topology.corner_count:
        return edge
    a, b = faces.main, faces.main[topology.corner_next]
    exact = faces.exact & faces.exact[topology.corner_next]
    ahead, behind = exact & (shape.corner_next[a] == b), exact & (shape.corner_previous[a] == b)
    edge[ahead] = shape.corner_edge[a[ahead]]
    edge[behind] = shape.corner_edge[b[behind]]
    return edge


def _with_turned_normals(geo: Geo, back: Mapping[Kind, Flags]) -> Geo:
    """Return the geometry with the stored normals of reversed faces, ``back`` per kind, turned round."""
    for kind, mask in back.items():
        if geo.has(kind, "normal") and geo.find(kind, "normal").type == "vec3":
            old = geo.find(kind, "normal")
            values = Attribute("vec3", as_readonly(np.where(mask[:, None], -old.values, old.values)), None, old.default)
            geo = geo.with_attribute(kind, "normal", values)
    return geo
