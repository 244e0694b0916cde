"""Cells cut by some of their neighbours only, so that they may overlap: each is a cell of a diagram of its own."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Ints, starts_from_sizes
from reticula.core.geometry.voronoi.diagram import Diagram, diagram_of

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


def loose_cells(diagram: Diagram, counts: AnyArray, low: Floats, high: Floats) -> LooseCells:
    """Return every cell as bounded by those of its neighbours that count, inside the box ``low`` to ``high``.

    A cell and its neighbours make a diagram by themselves (Qhull), of which only that cell is kept.
    """
    blocks = []
    for cell in range(diagram.count):
        begin, end = diagram.near_start[cell], diagram.near_start[cell + 1]
        centers = np.append(cell, diagram.near[begin:end][counts[begin:end]])
        blocks.append((centers, diagram_of(diagram.centers[centers], low, high)))
    sizes = np.array([len(centers) for centers, _ in blocks])
    base = np.cumsum(sizes) - sizes
    edges = [np.flatnonzero(one.edge_cells[:, 0] == 0) for _, one in blocks]
    vertices = np.cumsum([0, *(len(one.vertex) for _, one in blocks)])
    near_sizes = np.zeros(int(sizes.sum()), np.int64)
    near_sizes[base] = [one.near_start[1] for _, one in blocks]
    near = [at + one.near[: one.near_start[1]] for at, (_, one) in zip(base, blocks, strict=True)]
    around = [at + one.edge_cells[rows] for at, (_, one), rows in zip(base, blocks, edges, strict=True)]
    ends = [at + one.edge_ends[rows] for at, (_, one), rows in zip(vertices[:-1], blocks, edges, strict=True)]
    together = Diagram(
        int(sizes.sum()),
        np.concatenate([one.centers[: one.count] for _, one in blocks]),
        starts_from_sizes(near_sizes),
        np.concatenate(near).astype(np.int32),
        np.concatenate([one.vertex for _, one in blocks]),
        np.concatenate([one.helped for _, one in blocks]),
        np.concatenate(around).astype(np.int32),
        np.concatenate(ends).astype(np.int32),
    )
    owner = np.zeros(together.count, bool)
    owner[base] = True
    return LooseCells(together, owner, np.concatenate([centers for centers, _ in blocks]))
