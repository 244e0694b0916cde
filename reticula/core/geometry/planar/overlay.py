"""Polygons of one plane laid over each other: the cells that they part it into, and which of them cover each cell."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import scipy
import shapely

from reticula.core.arrays import AnyArray, Floats, Ints, following_in_rows

__all__ = ["Overlay", "lay_lines", "overlay_polygons", "owned_rings"]

GRID = 1e-10
"""Places are rounded to this share of the size, so that ends meet (snap rounding)."""


class Overlay(NamedTuple):
    """The cells of an overlay.

    ``place (V, 2)`` are its nodes, ``point (V,)`` the first given point that each stands for, or -1 where edges cross.
    The sides of all cells run counter-clockwise around them, clockwise around holes: ``tail (S,)`` and ``head (S,)``
    are nodes, ``cell (S,)`` the cell on their left. ``inside (cells, 2)`` is a place in each, ``covered (K, 2)`` pairs
    cells with the polygons that cover them.
    """

    place: Floats
    point: Ints
    tail: Ints
    head: Ints
    cell: Ints
    cells: int
    inside: Floats
    covered: Ints


def overlay_polygons(places: Floats, start: AnyArray, point: AnyArray) -> Overlay:
    """Lay the polygons ``start (F+1,)``, ``point (C,)`` over the points ``places (P, 2)`` over each other.

    A polygon covers a cell if a place inside the cell lies in it.
    """
    made = lay_lines(places, np.stack([point, point[following_in_rows(start)]], axis=1))
    polygons = _polygons(places, start, point)
    covered = shapely.STRtree(polygons).query(shapely.points(made.inside), predicate="intersects").T
    return made._replace(covered=covered)


def lay_lines(places: Floats, ends: AnyArray) -> Overlay:
    """Lay the segments ``ends (E, 2)`` between points ``places (P, 2)`` over each other; nothing covers the cells.

    Edges are noded by GEOS with snap rounding (Hobby, "Practical segment intersection with finite precision output",
    Computational Geometry 13(4), 1999), so that every node is shared by all edges through it.
    """
    size = max(float(np.ptp(places, axis=0).max(initial=0.0)), 1e-300)
    grid = GRID * size
    used = np.unique(ends)
    ends = np.unique(np.sort(ends[ends[:, 0] != ends[:, 1]], axis=1), axis=0)
    noded = shapely.unary_union(shapely.linestrings(places[ends]), grid_size=grid)
    cells = shapely.get_parts(shapely.polygonize([noded]))
    rings, ring_cell = shapely.get_rings(shapely.orient_polygons(cells), return_index=True)
    flat, ring = shapely.get_coordinates(rings, return_index=True)
    step = np.flatnonzero(ring[1:] == ring[:-1])
    node_place, node = np.unique(flat, axis=0, return_inverse=True)
    node = node.reshape(-1)
    far, near = (
        scipy.spatial.cKDTree(places[used]).query(node_place) if len(used) else (np.zeros(0), np.zeros(0, np.int64))
    )
    stands_for = np.where(far <= 2.0 * grid, _first_in_place(places[used], used, 2.0 * grid)[near], -1)
    return Overlay(
        node_place,
        stands_for,
        node[step],
        node[step + 1],
        ring_cell[ring[step]],
        len(cells),
        shapely.get_coordinates(shapely.point_on_surface(cells)).reshape(-1, 2),
        np.zeros((0, 2), np.int64),
    )


def _first_in_place(places: Floats, names: AnyArray, reach: float) -> AnyArray:
    """Return for each place the lowest of the ``names`` of those within reach."""
    pairs = scipy.spatial.cKDTree(places).query_pairs(reach, output_type="ndarray")
    first = np.asarray(names).copy()
    np.minimum.at(first, pairs[:, 0], names[pairs[:, 1]])
    np.minimum.at(first, pairs[:, 1], names[pairs[:, 0]])
    return first


def _polygons(places: Floats, start: AnyArray, point: AnyArray) -> AnyArray:
    sizes = np.diff(start)
    rings = shapely.linearrings(places[point], indices=np.repeat(np.arange(len(sizes)), sizes))
    return shapely.polygons(rings)


def owned_rings(overlay: Overlay, owner: AnyArray, corner_of: AnyArray) -> tuple[Ints, Ints, Ints]:
    """Put the cells of each owner together; ``owner (cells,)`` is -1 for cells that belong to nobody.

    Returns what is left of the sides: ``tail``, ``head`` and ``owner`` of each. A node at which two sides are left that
    continue each other in a straight line is gone from both, unless an owner beside it has a corner there: ``corner_of
    (M, 2)`` pairs owners with the nodes at their corners.
    """
    own = owner[overlay.cell]
    keep = own >= 0
    tail, head, own = overlay.tail[keep], overlay.head[keep], own[keep]
    count = len(overlay.place)
    ahead = (own * count + tail) * count + head
    back = (own * count + head) * count + tail
    keep = ~np.isin(ahead, back)
    tail, head, own = tail[keep], head[keep], own[keep]
    ends = np.unique(np.sort(np.stack([tail, head], axis=1), axis=1), axis=0)
    degree = np.bincount(ends.reshape(-1), minlength=count)
    pinned = np.zeros(count, bool)
    corner_key = np.unique(corner_of[:, 0] * count + corner_of[:, 1])
    pinned[tail[np.isin(own * count + tail, corner_key)]] = True
    loose = (degree == 2) & ~pinned & _is_straight(overlay.place, ends)
    return _without_nodes(tail, head, own, loose)


def _is_straight(place: Floats, ends: Ints) -> AnyArray:
    """Whether each node lies on the line between the nodes at the other ends of its two edges ``(V,)``."""
    count = len(place)
    low, high = np.full(count, -1), np.full(count, -1)
    both = np.concatenate([ends, ends[:, ::-1]])
    low[both[:, 0]] = both[:, 1]
    high[both[::-1, 0]] = both[::-1, 1]
    way = place[high] - place[low]
    off = place - place[low]
    long = np.maximum(np.hypot(*way.T), 1e-300)
    size = max(float(np.ptp(place, axis=0).max(initial=0.0)), 1e-300)
    return np.abs(way[:, 0] * off[:, 1] - way[:, 1] * off[:, 0]) / long <= 4.0 * GRID * size


def _without_nodes(tail: Ints, head: Ints, own: Ints, loose: AnyArray) -> tuple[Ints, Ints, Ints]:
    """Join sides that meet at loose nodes, from one node that stays to the next; rings of loose nodes only stay."""
    if not loose[tail].any():
        return tail, head, own
    count = len(loose)
    order = np.argsort(own * count + tail)
    key = (own * count + tail)[order]
    following = order[np.minimum(np.searchsorted(key, own * count + head), max(len(key) - 1, 0))]
    jump = np.where(loose[head], following, np.arange(len(tail)))
    for _ in range(int(np.ceil(np.log2(max(len(tail), 2)))) + 1):
        jump = jump[jump]
    first = ~loose[tail]
    ends = head[jump]
    ring = loose[ends] & ~first
    chosen = np.flatnonzero(first | ring)
    ends = np.where(ring, head, ends)
    return tail[chosen], ends[chosen], own[chosen]
