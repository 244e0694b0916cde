"""A mesh broken into the Voronoi cells of some centres.

Every new point is named by what it is the meeting of (an edge and two cells, a face and three, four cells), and its
place is worked out from that name alone. All faces and caps around it therefore agree on it to the bit, and on which
side of a further cell it lies, so that the pieces are watertight without any tolerance.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.arrays import Floats, Indices, Ints
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.voronoi.diagram import Diagram
from reticula.core.jit import inline, kernel

__all__ = ["Fragments", "fragments"]

ON_POINT, ON_EDGE, ON_FACE, IN_SPACE = 0, 1, 2, 3


@dataclass(frozen=True, eq=False)
class Fragments:
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


@kernel
def _break(
    positions: Floats,
    face_start: Indices,
    corner_point: Indices,
    corner_edge: Indices,
    edges: Indices,
    normals: Floats,
    centers: Floats,
    near_start: Indices,
    near: Indices,
    home: Indices,
    width: int,
) -> tuple[Ints, Indices, Indices, Ints, Floats, Floats, Indices, Indices]:
    room, rows = 1024, 256
    name, place, share = np.empty((room, 5), np.int64), np.empty((room, 3)), np.empty((room, width))
    beyond, along = np.empty(room, np.int32), np.empty(room, np.int32)
    start, cell, face = np.zeros(rows + 1, np.int64), np.empty(rows, np.int32), np.empty(rows, np.int32)
    at = count = 0
    queue = np.empty(len(centers), np.int32)
    seen = np.full(len(centers), -1, np.int32)
    most = width + 2
    for i in range(len(near_start) - 1):
        most = max(most, width + 2 + near_start[i + 1] - near_start[i])
    n1, p1, s1 = np.empty((most, 5), np.int64), np.empty((most, 3)), np.empty((most, width))
    b1, e1 = np.empty(most, np.int32), np.empty(most, np.int32)
    n2, p2, s2 = n1.copy(), p1.copy(), s1.copy()
    b2, e2 = b1.copy(), e1.copy()
    value = np.empty(most)
    m, r, x = np.empty((3, 3)), np.empty(3), np.empty(3)
    for f in range(len(face_start) - 1):
        first, size = face_start[f], face_start[f + 1] - face_start[f]
        waiting, done = 1, 0
        queue[0] = home[corner_point[first]]
        seen[queue[0]] = f
        while done < waiting:
            i = queue[done]
            done += 1
            sides = size
            for k in range(size):
                n1[k, 0], n1[k, 1], n1[k, 2], n1[k, 3], n1[k, 4] = ON_POINT, corner_point[first + k], -1, -1, -1
                for w in range(width):
                    s1[k, w] = 1.0 if w == k else 0.0
                for w in range(3):
                    p1[k, w] = positions[corner_point[first + k], w]
                b1[k], e1[k] = -1, corner_edge[first + k]
            for q in range(near_start[i], near_start[i + 1]):
                j = near[q]
                inside = 0
                for k in range(sides):
                    lead = n1[k, 2] if n1[k, 0] != ON_POINT else i
                    value[k] = _nearer(centers, lead, j, p1[k, 0], p1[k, 1], p1[k, 2])
                    if value[k] == 0.0:
                        value[k] = -1e-300 if i < j else 1e-300
                    if value[k] < 0.0:
                        inside += 1
                if inside == sides:
                    continue
                if inside == 0:
                    sides = 0
                    break
                made = 0
                for k in range(sides):
                    h = k + 1 if k + 1 < sides else 0
                    if value[k] < 0.0:
                        n2[made], p2[made], s2[made] = n1[k], p1[k], s1[k]
                        b2[made], e2[made] = b1[k], e1[k]
                        made += 1
                    if (value[k] < 0.0) != (value[h] < 0.0):
                        t = value[k] / (value[k] - value[h])
                        if b1[k] < 0:
                            e = e1[k]
                            u, v = edges[e, 0], edges[e, 1]
                            lo, hi = (i, j) if i < j else (j, i)
                            su = _nearer(centers, lo, hi, positions[u, 0], positions[u, 1], positions[u, 2])
                            sv = _nearer(centers, lo, hi, positions[v, 0], positions[v, 1], positions[v, 2])
                            g = min(max(su / (su - sv), 0.0), 1.0) if su != sv else 0.5
                            n2[made, 0], n2[made, 1], n2[made, 2], n2[made, 3], n2[made, 4] = ON_EDGE, e, lo, hi, -1
                            for w in range(3):
                                p2[made, w] = positions[u, w] + g * (positions[v, w] - positions[u, w])
                        else:
                            a, b, c = _sort3(i, j, b1[k])
                            o = corner_point[first]
                            r[0] = 0.0
                            for w in range(3):
                                m[0, w] = normals[f, w]
                                m[1, w] = centers[b, w] - centers[a, w]
                                m[2, w] = centers[c, w] - centers[a, w]
                            r[1] = -_nearer(centers, a, b, positions[o, 0], positions[o, 1], positions[o, 2])
                            r[2] = -_nearer(centers, a, c, positions[o, 0], positions[o, 1], positions[o, 2])
                            for w in range(3):
                                x[w] = p1[k, w] + t * (p1[h, w] - p1[k, w]) - positions[o, w]
                            _solve3(m, r, x)
                            n2[made, 0], n2[made, 1], n2[made, 2], n2[made, 3], n2[made, 4] = ON_FACE, f, a, b, c
                            for w in range(3):
                                p2[made, w] = positions[o, w] + x[w]
                        for w in range(width):
                            s2[made, w] = s1[k, w] + t * (s1[h, w] - s1[k, w])
                        if value[k] < 0.0:
                            b2[made], e2[made] = j, -1
                        else:
                            b2[made], e2[made] = b1[k], e1[k]
                        made += 1
                sides = made
                for k in range(sides):
                    n1[k], p1[k], s1[k], b1[k], e1[k] = n2[k], p2[k], s2[k], b2[k], e2[k]
            if sides < 3:
                continue
            if at + sides > room:
                room = 2 * room + sides
                bigger, larger, wider = np.empty((room, 5), np.int64), np.empty((room, 3)), np.empty((room, width))
                bigger[:at], larger[:at], wider[:at] = name[:at], place[:at], share[:at]
                name, place, share = bigger, larger, wider
                more, further = np.empty(room, np.int32), np.empty(room, np.int32)
                more[:at], further[:at] = beyond[:at], along[:at]
                beyond, along = more, further
            if count + 1 > rows:
                rows *= 2
                longer, c2, f2 = np.zeros(rows + 1, np.int64), np.empty(rows, np.int32), np.empty(rows, np.int32)
                longer[: count + 1], c2[:count], f2[:count] = start[: count + 1], cell[:count], face[:count]
                start, cell, face = longer, c2, f2
            for k in range(sides):
                name[at], place[at], share[at], beyond[at], along[at] = n1[k], p1[k], s1[k], b1[k], e1[k]
                at += 1
                j = b1[k]
                if j >= 0 and seen[j] != f:
                    seen[j] = f
                    queue[waiting] = j
                    waiting += 1
            cell[count], face[count] = i, f
            count += 1
            start[count] = at
    return (
        start[: count + 1].copy(),
        cell[:count].copy(),
        face[:count].copy(),
        name[:at].copy(),
        place[:at].copy(),
        share[:at].copy(),
        beyond[:at].copy(),
        along[:at].copy(),
    )


def fragments(geo: Geo, diagram: Diagram, home: Any) -> Fragments:
    """Break the faces of ``geo``, which must be flat and convex, by the cells of a diagram.

    ``home (P,)`` is the nearest centre of each point. From its own cell on, a face spreads over the cells that it
    reaches, cut by the bisectors towards each cell's neighbours (Sutherland & Hodgman, CACM 17(1), 1974).
    """
    shape = geo.topology
    width = int(shape.face_size.max(initial=3))
    return Fragments(
        *_break(
            geo.positions,
            shape.face_start,
            shape.corner_point,
            shape.corner_edge,
            shape.edges,
            face_normals(geo),
            diagram.centers,
            diagram.near_start,
            diagram.near,
            np.asarray(home, np.int32),
            width,
        )
    )
