"""Points inside a polygon that let its triangles be well shaped: as dense at the border as its own edges are."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import scipy
import shapely

from reticula.core.arrays import AnyArray, Flags, Floats, Indices
from reticula.core.geometry.planar.delaunay import polygon_of, triangulate_polygon

__all__ = ["graded_points"]

WANTED = 28.0
"""Angle in degrees below which a triangle is made better."""
SOUND = 20.7
"""Least angle in degrees at which nothing more is done; the bound that Ruppert's paper proves."""
ROUNDS = 24
GROWTH = 1.7
"""By how much places may get closer together per metre away from a long border edge."""
OFF_CENTRE = 0.5 / np.tan(np.radians(0.5 * (WANTED + 2.0)))
"""How far a new point lies at most from the middle of the side it is made for, as a share of its length."""
CLOSEST = 0.42
"""How close a new point may come to a border edge, as a share of its length."""


def graded_points(flat: Floats, loops: Sequence[AnyArray], inner: Floats, held: int = 0) -> tuple[Floats, Indices]:
    """Return points inside the polygon of ``loops`` over ``flat (N, 2)``: ``inner (M, 2)`` without those that crowd its
    border edges, and more where triangles would be slivers, and the Delaunay triangles ``(T, 3)`` of ``flat`` and them.
    The first ``held`` of them stay in any case.

    Circumcentres of bad triangles are put in until none is left that can be mended without splitting the border
    (Ruppert, "A Delaunay refinement algorithm for quality 2-dimensional mesh generation", J. Algorithms 18(3), 1995;
    Shewchuk, "Delaunay refinement algorithms for triangular mesh generation", Computational Geometry 22, 2002).
    """
    polygon = polygon_of(flat[loops[0]], [flat[loop] for loop in loops[1:]])
    shapely.prepare(polygon)
    tail = np.concatenate(list(loops))
    head = np.concatenate([np.roll(loop, -1) for loop in loops])
    ends = np.stack([flat[tail], flat[head]], axis=1)
    edges = shapely.STRtree(shapely.linestrings(ends))
    length = np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1)
    points = _thinned(inner, held, ends, edges, length)
    most = 40 * (len(flat) + len(inner)) + 400
    tri = triangulate_polygon(flat, loops, points)
    for _ in range(ROUNDS):
        place = np.concatenate([flat, points])[tri]
        angle, center, radius = _shapes(place)
        if angle.min(initial=90.0) >= SOUND:
            break
        bad = np.flatnonzero(angle < WANTED)
        bad = bad[shapely.contains_xy(polygon, center[bad, 0], center[bad, 1])]
        bad = bad[~_crowds(center[bad], ends, edges, length)]
        if not len(bad) or len(points) > most:
            break
        order = bad[np.argsort(angle[bad], kind="stable")]
        chosen = _apart(center[order], radius[order])
        points = np.concatenate([points, center[order[chosen]]])
        tri = triangulate_polygon(flat, loops, points)
    return points, tri


def _thinned(inner: Floats, held: int, ends: Floats, edges: shapely.STRtree, length: Floats) -> Floats:
    """Leave points out near border edges that are longer than they are apart: a place as far from an edge as that is
    long may have any size, one beside it that of the edge.
    """
    if len(inner) - held < 2:
        return inner[(np.arange(len(inner)) < held) | ~_crowds(inner, ends, edges, length)]
    loose = inner[held:]
    apart = float(np.median(np.asarray(scipy.spatial.cKDTree(loose).query(loose, k=2)[0])[:, 1]))
    size = np.full(len(loose), apart)
    long = np.flatnonzero(length > 1.2 * apart)
    if len(long):
        one, edge = shapely.STRtree(shapely.linestrings(ends[long])).query(
            shapely.points(loose), predicate="dwithin", distance=float(length.max())
        )
        off = _distance(loose[one], ends[long[edge]], length[long[edge]])
        np.maximum.at(size, one, length[long[edge]] - GROWTH * off)
    order = np.argsort(-size, kind="stable")
    order = order[~_crowds(loose[order], ends, edges, length)]
    if len(order) and size[order].max() > 1.2 * apart:
        order = order[_apart(loose[order], size[order] * np.where(size[order] > 1.05 * apart, 1.3, 0.9))]
    return np.concatenate([inner[:held], loose[np.sort(order)]])


def _distance(places: Floats, ends: Floats, length: Floats) -> Floats:
    """The distance of each place to its own edge ``(N,)``."""
    a, way = ends[:, 0], ends[:, 1] - ends[:, 0]
    along = np.einsum("ij,ij->i", places - a, way) / np.maximum(length**2, 1e-300)
    return np.linalg.norm(a + np.clip(along, 0.0, 1.0)[:, None] * way - places, axis=1)


def _crowds(places: Floats, ends: Floats, edges: shapely.STRtree, length: Floats) -> Flags:
    """Whether a place lies too close to a border edge for its length ``(N,)``."""
    out = np.zeros(len(places), bool)
    if len(places):
        one, edge = edges.query(shapely.points(places), predicate="dwithin", distance=CLOSEST * float(length.max()))
        out[one[_distance(places[one], ends[edge], length[edge]) < CLOSEST * length[edge]]] = True
    return out


def _shapes(corner: Floats) -> tuple[Floats, Floats, Floats]:
    """The least angle in degrees ``(T,)`` of triangles ``(T, 3, 2)``, where a point mends each ``(T, 2)``, and how far
    that is from the ends of the shortest side ``(T,)``.

    The place is the circumcentre, or nearer to the shortest side if the triangle over it would still have the wanted
    angle there (off-centre; Üngör, "Off-centers: a new type of Steiner points", LATIN 2004).
    """
    sides = np.roll(corner, -1, axis=1) - corner
    square = np.einsum("tki,tki->tk", sides, sides)
    row, k = np.arange(len(corner)), square.argmin(axis=1)
    a, b, c = corner[row, k], corner[row, (k + 1) % 3], corner[row, (k + 2) % 3]
    u, v, shortest = b - a, c - a, np.sqrt(square[row, k])
    twice = 2.0 * (u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0])
    uu, vv = np.einsum("ij,ij->i", u, u), np.einsum("ij,ij->i", v, v)
    safe = np.where(np.abs(twice) > 1e-300, twice, np.inf)
    center = a + np.stack([v[:, 1] * uu - u[:, 1] * vv, u[:, 0] * vv - v[:, 0] * uu], axis=1) / safe[:, None]
    radius = np.linalg.norm(center - a, axis=1)
    sine = np.where(radius > 0, np.clip(shortest / np.maximum(2.0 * radius, 1e-300), 0.0, 1.0), 0.0)
    middle = 0.5 * (a + b)
    away = np.linalg.norm(center - middle, axis=1)
    most = OFF_CENTRE * shortest
    share = np.where(away > most, most / np.maximum(away, 1e-300), 1.0)
    place = middle + share[:, None] * (center - middle)
    return np.degrees(np.arcsin(sine)), place, np.linalg.norm(place - a, axis=1)


def _apart(places: Floats, radius: Floats) -> AnyArray:
    """Which places to take, in order of importance, so that none lies in the circle of one before it."""
    pairs = scipy.spatial.cKDTree(places).query_pairs(float(radius.max(initial=0.0)), output_type="ndarray")
    first, second = pairs.min(axis=1), pairs.max(axis=1)
    near = np.linalg.norm(places[first] - places[second], axis=1) < 0.7 * np.minimum(radius[first], radius[second])
    first, second = first[near], second[near]
    taken, done = np.zeros(len(places), bool), np.zeros(len(places), bool)
    while not done.all():
        waits = np.zeros(len(places), bool)
        waits[second[~done[first]]] = True
        now = ~done & ~waits
        taken[now], done[now] = True, True
        done[second[taken[first] & ~taken[second]]] = True
    return np.flatnonzero(taken)
