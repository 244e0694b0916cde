"""A mesh broken into the Voronoi cells of some centres.

Every new point is named by what it is the meeting of (an edge and two cells, a face and three, four cells), and its
place is worked out from that name alone. All faces and caps around it therefore agree on it to the bit, and on which
side of a further cell it lies, so that the pieces are watertight without any tolerance.
"""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices, Ints
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.voronoi.diagram import Diagram
from reticula.core.growing import copy_row, with_room
from reticula.core.jit import inline, inline_making, kernel

__all__ = ["Fragments", "fragments", "fragments_in"]

ON_POINT, ON_EDGE, ON_FACE, IN_SPACE = 0, 1, 2, 3


class Fragments(NamedTuple):
    """Parts of faces in cells, as ragged polygons ``start (M+1,)``.

    ``cell (M,)`` and ``face (M,)`` of each; per corner its ``name (N, 5)`` (what kind of meeting, and of what), its
    ``place (N, 3)``, the ``share (N, W)`` of each corner of its face, and ``beyond (N,)``, the cell on the other side
    of the edge that leaves it, or -1 where that lies on an edge of the mesh, which is then ``edge (N,)``.
    """

    start: Ints
    cell: Indices
    face: Indices
    name: Ints
    place: Floats
    share: Floats
    beyond: Indices
    edge: Indices


@inline
def _nearer(centers: Floats, a: int, b: int, x: float, y: float, z: float) -> float:
    """Negative where a place is nearer to a than to b; exactly the opposite with a and b swapped."""
    lo, hi = (a, b) if a < b else (b, a)
    s = 0.0
    s += (x - 0.5 * (centers[lo, 0] + centers[hi, 0])) * (centers[hi, 0] - centers[lo, 0])
    s += (y - 0.5 * (centers[lo, 1] + centers[hi, 1])) * (centers[hi, 1] - centers[lo, 1])
    s += (z - 0.5 * (centers[lo, 2] + centers[hi, 2])) * (centers[hi, 2] - centers[lo, 2])
    return s if a < b else -s


@inline
def _solve3(m: Floats, r: Floats, out: Floats) -> None:
    """Solve a 3 x 3 system by Cramer's rule."""
    d = (
        m[0, 0] * (m[1, 1] * m[2, 2] - m[1, 2] * m[2, 1])
        - m[0, 1] * (m[1, 0] * m[2, 2] - m[1, 2] * m[2, 0])
        + m[0, 2] * (m[1, 0] * m[2, 1] - m[1, 1] * m[2, 0])
    )
    if d == 0.0:
        return
    for k in range(3):
        i, j = (k + 1) % 3, (k + 2) % 3
        out[k] = (
            r[0] * (m[1, i] * m[2, j] - m[1, j] * m[2, i])
            + r[1] * (m[2, i] * m[0, j] - m[2, j] * m[0, i])
            + r[2] * (m[0, i] * m[1, j] - m[0, j] * m[1, i])
        ) / d


@inline
def _sort3(a: int, b: int, c: int) -> tuple[int, int, int]:
    if a > b:
        a, b = b, a
    if b > c:
        b, c = c, b
    if a > b:
        a, b = b, a
    return a, b, c


class _Mesh(NamedTuple):
    """The faces that are broken, flat and convex."""

    positions: Floats
    face_start: Indices
    corner_point: Indices
    corner_edge: Indices
    edges: Indices
    normals: Floats


class _Cells(NamedTuple):
    """The cells: ``centers (N, 3)``, and the neighbours of each as ``near_start`` and ``near``."""

    centers: Floats
    near_start: Indices
    near: Indices


class _Polygon(NamedTuple):
    """Room for one polygon while it is cut; per corner what :class:`Fragments` holds."""

    name: Ints
    place: Floats
    share: Floats
    beyond: Indices
    along: Indices


@inline_making
def _room_for_polygon(most: int, width: int) -> _Polygon:
    return _Polygon(
        np.empty((most, 5), np.int64),
        np.empty((most, 3)),
        np.empty((most, width)),
        np.empty(most, np.int32),
        np.empty(most, np.int32),
    )


@inline
def _set_name(name: Ints, k: int, kind: int, of: tuple[int, int, int, int]) -> None:
    name[k, 0], name[k, 1], name[k, 2], name[k, 3], name[k, 4] = kind, of[0], of[1], of[2], of[3]


@inline
def _copy_corner(source: _Polygon, k: int, target: _Polygon, at: int) -> None:
    copy_row(source.name, k, target.name, at)
    copy_row(source.place, k, target.place, at)
    copy_row(source.share, k, target.share, at)
    target.beyond[at], target.along[at] = source.beyond[k], source.along[k]


@inline
def _whole_face(mesh: _Mesh, f: int, out: _Polygon) -> int:
    """Write a face as it is; returns how many sides it has."""
    first, size = mesh.face_start[f], mesh.face_start[f + 1] - mesh.face_start[f]
    for k in range(size):
        p = mesh.corner_point[first + k]
        _set_name(out.name, k, ON_POINT, (p, -1, -1, -1))
        for w in range(out.share.shape[1]):
            out.share[k, w] = 1.0 if w == k else 0.0
        for w in range(3):
            out.place[k, w] = mesh.positions[p, w]
        out.beyond[k], out.along[k] = -1, mesh.corner_edge[first + k]
    return int(size)


@inline
def _sides_of_bisector(cells: _Cells, pair: tuple[int, int], polygon: _Polygon, sides: int, value: Floats) -> int:
    """Write on which side of the bisector of two cells each corner lies (negative: the first's); returns how many do.

    A corner that lies on it belongs to the cell with the lower number.
    """
    i, j = pair
    name, place = polygon.name, polygon.place
    inside = 0
    for k in range(sides):
        lead = name[k, 2] if name[k, 0] != ON_POINT else i
        value[k] = _nearer(cells.centers, lead, j, place[k, 0], place[k, 1], place[k, 2])
        if value[k] == 0.0:
            value[k] = -1e-300 if i < j else 1e-300
        if value[k] < 0.0:
            inside += 1
    return inside


@inline
def _meet_edge(mesh: _Mesh, cells: _Cells, e: int, pair: tuple[int, int], out: _Polygon, at: int) -> None:
    """Write the corner where the bisector of two cells meets an edge of the mesh."""
    i, j = pair
    lo, hi = (i, j) if i < j else (j, i)
    u, v = mesh.edges[e, 0], mesh.edges[e, 1]
    pos = mesh.positions
    su = _nearer(cells.centers, lo, hi, pos[u, 0], pos[u, 1], pos[u, 2])
    sv = _nearer(cells.centers, lo, hi, pos[v, 0], pos[v, 1], pos[v, 2])
    g = min(max(su / (su - sv), 0.0), 1.0) if su != sv else 0.5
    _set_name(out.name, at, ON_EDGE, (e, lo, hi, -1))
    for w in range(3):
        out.place[at, w] = pos[u, w] + g * (pos[v, w] - pos[u, w])


@inline_making
def _meet_in_face(mesh: _Mesh, cells: _Cells, f: int, three: tuple[int, int, int], guess: Floats) -> None:
    """Work out where three cells meet in a face, relative to its first point; where they hardly do, ``guess`` stays."""
    a, b, c = three
    o = mesh.corner_point[mesh.face_start[f]]
    pos, centers = mesh.positions, cells.centers
    m, r = np.empty((3, 3)), np.empty(3)
    r[0] = 0.0
    for w in range(3):
        m[0, w] = mesh.normals[f, w]
        m[1, w] = centers[b, w] - centers[a, w]
        m[2, w] = centers[c, w] - centers[a, w]
    r[1] = -_nearer(centers, a, b, pos[o, 0], pos[o, 1], pos[o, 2])
    r[2] = -_nearer(centers, a, c, pos[o, 0], pos[o, 1], pos[o, 2])
    _solve3(m, r, guess)


class _Step(NamedTuple):
    """One cut: face ``f`` by the bisector of the cells ``pair``; ``sides`` of the polygon, the side of each corner."""

    f: int
    pair: tuple[int, int]
    sides: int
    value: Floats


@inline_making
def _cut(mesh: _Mesh, cells: _Cells, step: _Step, source: _Polygon, out: _Polygon) -> int:
    """Keep the first cell's side of a polygon; returns how many sides that has.

    Sutherland & Hodgman, "Reentrant polygon clipping", CACM 17(1), 1974.
    """
    f, (i, j), sides, value = step
    o = mesh.corner_point[mesh.face_start[f]]
    x = np.empty(3)
    made = 0
    for k in range(sides):
        h = k + 1 if k + 1 < sides else 0
        if value[k] < 0.0:
            _copy_corner(source, k, out, made)
            made += 1
        if (value[k] < 0.0) == (value[h] < 0.0):
            continue
        t = value[k] / (value[k] - value[h])
        if source.beyond[k] < 0:
            _meet_edge(mesh, cells, source.along[k], (i, j), out, made)
        else:
            a, b, c = _sort3(i, j, source.beyond[k])
            for w in range(3):
                x[w] = source.place[k, w] + t * (source.place[h, w] - source.place[k, w]) - mesh.positions[o, w]
            _meet_in_face(mesh, cells, f, (a, b, c), x)
            _set_name(out.name, made, ON_FACE, (f, a, b, c))
            for w in range(3):
                out.place[made, w] = mesh.positions[o, w] + x[w]
        for w in range(out.share.shape[1]):
            out.share[made, w] = source.share[k, w] + t * (source.share[h, w] - source.share[k, w])
        if value[k] < 0.0:
            out.beyond[made], out.along[made] = j, -1
        else:
            out.beyond[made], out.along[made] = source.beyond[k], source.along[k]
        made += 1
    return made


@inline_making
def _part_in_cell(
    mesh: _Mesh, cells: _Cells, at: tuple[int, int], room: tuple[_Polygon, _Polygon], value: Floats
) -> int:
    """Cut face ``at[0]`` down to its part in cell ``at[1]``, in the first polygon of ``room``; returns its sides."""
    f, i = at
    polygon, other = room
    sides = _whole_face(mesh, f, polygon)
    for q in range(cells.near_start[i], cells.near_start[i + 1]):
        j = cells.near[q]
        inside = _sides_of_bisector(cells, (i, j), polygon, sides, value)
        if inside == sides:
            continue
        if inside == 0:
            return 0
        sides = _cut(mesh, cells, _Step(f, (i, j), sides, value), polygon, other)
        for k in range(sides):
            _copy_corner(other, k, polygon, k)
    return sides


@inline_making
def _longer(polygon: _Polygon, needed: int) -> _Polygon:
    """The same corners with room for as many as are ``needed``."""
    return _Polygon(
        with_room(polygon.name, needed),
        with_room(polygon.place, needed),
        with_room(polygon.share, needed),
        with_room(polygon.beyond, needed),
        with_room(polygon.along, needed),
    )


class _Found(NamedTuple):
    """Fragments so far: corners, ``start``, ``cell`` and ``face`` of each; how many rows and corners are ``used``."""

    corners: _Polygon
    start: Ints
    cell: Indices
    face: Indices
    used: Ints


@inline_making
def _nothing_found(width: int) -> _Found:
    start = np.zeros(256, np.int64)
    cell, face = np.empty(256, np.int32), np.empty(256, np.int32)
    return _Found(_room_for_polygon(1024, width), start, cell, face, np.zeros(2, np.int64))


@inline_making
def _with_fragment(found: _Found, polygon: _Polygon, sides: int, cell: int, face: int) -> _Found:
    """Add a fragment, with more room where there is none left."""
    corners, start, cells, faces, used = found
    count, at = used[0], used[1]
    corners = _longer(corners, at + sides)
    start, cells, faces = with_room(start, count + 2), with_room(cells, count + 1), with_room(faces, count + 1)
    for k in range(sides):
        _copy_corner(polygon, k, corners, at + k)
    cells[count], faces[count] = cell, face
    start[count + 1] = at + sides
    used[0], used[1] = count + 1, at + sides
    return _Found(corners, start, cells, faces, used)


@inline_making
def _as_fragments(found: _Found) -> Fragments:
    corners, start, cell, face, used = found
    count, at = used[0], used[1]
    return Fragments(
        start[: count + 1].copy(),
        cell[:count].copy(),
        face[:count].copy(),
        corners.name[:at].copy(),
        corners.place[:at].copy(),
        corners.share[:at].copy(),
        corners.beyond[:at].copy(),
        corners.along[:at].copy(),
    )


@inline
def _most_sides(cells: _Cells, width: int) -> int:
    """How many sides a part of a face has at most."""
    most = width + 2
    for i in range(len(cells.near_start) - 1):
        most = max(most, width + 2 + cells.near_start[i + 1] - cells.near_start[i])
    return most


@kernel
def _break(mesh: _Mesh, cells: _Cells, home: Indices, width: int) -> Fragments:
    """Break every face, from the cell of its first point on, into its parts in the cells that it reaches."""
    found = _nothing_found(width)
    queue, seen = np.empty(len(cells.centers), np.int32), np.full(len(cells.centers), -1, np.int32)
    most = _most_sides(cells, width)
    polygon, other, value = _room_for_polygon(most, width), _room_for_polygon(most, width), np.empty(most)
    for f in range(len(mesh.face_start) - 1):
        waiting, done = 1, 0
        queue[0] = home[mesh.corner_point[mesh.face_start[f]]]
        seen[queue[0]] = f
        while done < waiting:
            i = queue[done]
            done += 1
            sides = _part_in_cell(mesh, cells, (f, i), (polygon, other), value)
            if sides < 3:
                continue
            found = _with_fragment(found, polygon, sides, i, f)
            for k in range(sides):
                j = polygon.beyond[k]
                if j >= 0 and seen[j] != f:
                    seen[j] = f
                    queue[waiting] = j
                    waiting += 1
    return _as_fragments(found)


@kernel
def _break_each(mesh: _Mesh, cells: _Cells, pairs: Indices, width: int) -> Fragments:
    """Break faces into their parts in cells, for ``pairs (M, 2)`` of a face and a cell."""
    found = _nothing_found(width)
    most = _most_sides(cells, width)
    polygon, other, value = _room_for_polygon(most, width), _room_for_polygon(most, width), np.empty(most)
    for k in range(len(pairs)):
        f, i = pairs[k, 0], pairs[k, 1]
        sides = _part_in_cell(mesh, cells, (f, i), (polygon, other), value)
        if sides >= 3:
            found = _with_fragment(found, polygon, sides, i, f)
    return _as_fragments(found)


def fragments(geo: Geo, diagram: Diagram, home: Any) -> Fragments:
    """Break the faces of ``geo``, which must be flat and convex, by the cells of a diagram.

    ``home (P,)`` is the nearest centre of each point. From its own cell on, a face spreads over the cells that it
    reaches, cut by the bisectors towards each cell's neighbours (Sutherland & Hodgman, CACM 17(1), 1974).
    """
    return _break(*_ready(geo, diagram), np.asarray(home, np.int32), int(geo.topology.face_size.max(initial=3)))


def fragments_in(geo: Geo, diagram: Diagram, pairs: Any) -> Fragments:
    """Break faces into their parts in given cells only, which may overlap: ``pairs (M, 2)`` of a face and a cell."""
    return _break_each(*_ready(geo, diagram), np.asarray(pairs, np.int32), int(geo.topology.face_size.max(initial=3)))


def _ready(geo: Geo, diagram: Diagram) -> tuple[_Mesh, _Cells]:
    shape = geo.topology
    mesh = _Mesh(geo.positions, shape.face_start, shape.corner_point, shape.corner_edge, shape.edges, face_normals(geo))
    return mesh, _Cells(diagram.centers, diagram.near_start, diagram.near)
