"""Cells cut by some of their neighbours only, so that they may overlap."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, Ints, starts_from_sizes
from reticula.core.equal_rows import unique_rows
from reticula.core.geometry.voronoi.diagram import FAR, Diagram
from reticula.core.growing import with_room
from reticula.core.jit import inline_making, kernel

__all__ = ["LooseCells", "loose_cells", "select_neighbours"]


class LooseCells(NamedTuple):
    """Cells and, after each, stand-ins of the neighbours that bound it, all in one ``diagram``.

    ``owner (N,)`` says which are cells, ``center (N,)`` which centre each stands for.
    """

    diagram: Diagram
    owner: Flags
    center: Ints


def select_neighbours(diagram: Diagram, most: int, reach: float) -> AnyArray:
    """Return which entries of ``diagram.near`` count: the ``most`` nearest of each cell (0: all) within ``reach`` m
    (0: any).
    """
    sizes = np.diff(diagram.near_start)
    owner = np.repeat(np.arange(diagram.count), sizes)
    rank = np.arange(len(owner)) - np.repeat(diagram.near_start[:-1], sizes)
    far = np.linalg.norm(diagram.centers[owner] - diagram.centers[diagram.near], axis=1)
    return ((rank < most) | (most == 0)) & ((far <= reach) | (reach == 0.0))


class _Edges(NamedTuple):
    """The edges of cells: the ``cell (E,)``, the two neighbours along it and those that end it, ``sides (E, 4)`` as
    numbers in the cell's list, -1 where it has no end, and the places of both ends ``(E, 2, 3)``.
    """

    cell: Indices
    sides: Indices
    ends: Floats


@inline_making
def _clip_line(n: Floats, h: Floats, pair: tuple[int, int], far: float, out: Floats) -> tuple[int, int]:
    """Cut the line in which two of the planes ``n (K, 3) · x = h (K,)`` meet down to where no other keeps it out.

    Writes the ends ``out (2, 3)``; returns the planes that end it, -1 for none (``far`` away then), -2 if nothing is
    left.
    """
    i, j = pair
    u = np.cross(n[i], n[j])
    size = u[0] * u[0] + u[1] * u[1] + u[2] * u[2]
    if size <= 1e-24 * (n[i] * n[i]).sum() * (n[j] * n[j]).sum():
        return -2, -2
    p = (h[i] * np.cross(n[j], u) + h[j] * np.cross(u, n[i])) / size
    reach = far / np.sqrt(size)
    low, high, begin, end = -reach, reach, -1, -1
    for m in range(len(h)):
        if m in (i, j):
            continue
        slope = n[m, 0] * u[0] + n[m, 1] * u[1] + n[m, 2] * u[2]
        room = h[m] - (n[m, 0] * p[0] + n[m, 1] * p[1] + n[m, 2] * p[2])
        if slope > 0.0 and room < high * slope:
            high, end = room / slope, m
        elif slope < 0.0 and room < low * slope:
            low, begin = room / slope, m
        elif slope == 0.0 and room < 0.0:
            return -2, -2
        if low >= high:
            return -2, -2
    for w in range(3):
        out[0, w], out[1, w] = p[w] + low * u[w], p[w] + high * u[w]
    return begin, end


@kernel
def _cell_edges(centers: Floats, start: Indices, near: Indices, far: float) -> _Edges:
    """The edges of the cell of each of the first ``len(start) - 1`` centres, bounded by its neighbours ``near`` alone.

    Every two bisectors meet in a line, which all others cut.
    """
    cell, sides, ends = np.empty(1024, np.int32), np.empty((1024, 4), np.int32), np.empty((1024, 2, 3))
    count = 0
    out = np.empty((2, 3))
    for c in range(len(start) - 1):
        own = near[start[c] : start[c + 1]]
        n, h = np.empty((len(own), 3)), np.empty(len(own))
        for k in range(len(own)):
            n[k] = centers[own[k]] - centers[c]
            h[k] = 0.5 * (n[k] * n[k]).sum()
        for i in range(len(own)):
            for j in range(i):
                begin, end = _clip_line(n, h, (i, j), far, out)
                if begin == -2:
                    continue
                cell, sides, ends = with_room(cell, count + 1), with_room(sides, count + 1), with_room(ends, count + 1)
                cell[count] = c
                sides[count, 0], sides[count, 1], sides[count, 2], sides[count, 3] = j, i, begin, end
                ends[count] = out + centers[c]
                count += 1
    return _Edges(cell[:count].copy(), sides[:count].copy(), ends[:count].copy())


def loose_cells(diagram: Diagram, counts: AnyArray, low: Floats, high: Floats) -> LooseCells:
    """Return every cell as bounded by those of its neighbours that count, inside the box ``low`` to ``high``.

    The time goes with the third power of a cell's neighbours, of which there are about 15.
    """
    owner_of = np.repeat(np.arange(diagram.count), np.diff(diagram.near_start))
    chosen = diagram.near[counts]
    sizes = np.bincount(owner_of[counts], minlength=diagram.count)
    start = starts_from_sizes(sizes)
    far = FAR * max(float(np.linalg.norm(high - low)), 1e-300)
    edges = _cell_edges(diagram.centers, start, np.ascontiguousarray(chosen), far)
    base = start[:-1] + np.arange(diagram.count)
    total = diagram.count + len(chosen)
    owner = np.zeros(total, bool)
    owner[base] = True
    center = np.empty(total, np.int64)
    center[base], center[~owner] = np.arange(diagram.count), chosen
    near_sizes = np.zeros(total, np.int64)
    near_sizes[base] = sizes
    first = base[edges.cell] + 1
    along = np.stack([base[edges.cell], first + edges.sides[:, 0], first + edges.sides[:, 1]], axis=1)
    vertex, helped, ends = _vertices(edges, first, total)
    together = Diagram(
        total,
        diagram.centers[center],
        starts_from_sizes(near_sizes),
        np.flatnonzero(~owner).astype(np.int32),
        vertex,
        helped,
        along.astype(np.int32),
        ends.astype(np.int32),
    )
    return LooseCells(together, owner, center)


def _vertices(edges: _Edges, first: AnyArray, total: int) -> tuple[Floats, Flags, AnyArray]:
    """The ends of edges, those of the same three neighbours as one: places, whether they are none, and ``ends (E, 2)``.

    ``first (E,)`` is the number of each cell's first neighbour; open ends count as helped.
    """
    three = [np.sort(np.stack([edges.sides[:, 0], edges.sides[:, 1], edges.sides[:, 2 + k]], axis=1)) for k in (0, 1)]
    both = np.concatenate(three).astype(np.int64)
    opened = both[:, 0] < 0
    name = np.concatenate([first, first])[:, None] + both
    name[opened] = -1 - np.arange(int(opened.sum()))[:, None]
    rows, which = unique_rows(name)
    place = np.concatenate([edges.ends[:, 0], edges.ends[:, 1]])
    return place[rows], opened[rows], which.reshape(2, -1).T
