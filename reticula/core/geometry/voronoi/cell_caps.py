"""The inner faces of a solid's cells: polygons between two cells, put together from named points."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, Ints, following_in_rows
from reticula.core.equal_rows import unique_rows
from reticula.core.geometry.voronoi.cells import IN_SPACE, ON_FACE, Fragments
from reticula.core.geometry.voronoi.diagram import Diagram
from reticula.core.jit import kernel

__all__ = ["Caps", "caps_of"]


@dataclass(frozen=True, eq=False)
class Caps:
    """Loops around the inner faces: ``start (L+1,)``; per loop the ``cell`` it belongs to and the one ``beyond``.

    Per corner its ``name (N, 5)`` and ``place (N, 3)``. ``broken`` counts loops that do not close, 0 if all is well.
    """

    start: Ints
    cell: Indices
    beyond: Indices
    name: Ints
    place: Floats
    broken: int


@kernel
def _close_loops(first: Indices, segment: Indices, ends: Indices) -> tuple[Ints, Ints, int]:
    """Loops over segments whose ends each meet one other segment: starts and nodes, and how many do not close."""
    count = len(ends)
    start, node = np.zeros(count + 1, np.int64), np.empty(count, np.int64)
    done = np.zeros(count, np.bool_)
    loops = at = broken = 0
    for s0 in range(count):
        if done[s0]:
            continue
        row = at
        s, tail = s0, ends[s0, 0]
        begin = tail
        good = True
        while True:
            done[s] = True
            node[at] = tail
            at += 1
            head = ends[s, 0] + ends[s, 1] - tail
            if first[head + 1] - first[head] != 2:
                good = False
                break
            other = segment[first[head]]
            if other == s:
                other = segment[first[head] + 1]
            if other == s or (done[other] and head != begin):
                good = False
                break
            if head == begin:
                break
            s, tail = other, head
        if good and at - row >= 3:
            loops += 1
            start[loops] = at
        else:
            broken += 1
            at = row
    return start[: loops + 1].copy(), node[:at].copy(), broken


def _edge_segments(
    diagram: Diagram, parts: Fragments, vertex_inside: Flags
) -> tuple[Indices, Ints, Floats, Ints, Floats, int]:
    """The parts of the cells' edges that lie inside: their three cells, and name and place of both ends."""
    hit = np.unique(np.flatnonzero(parts.name[:, 0] == ON_FACE))
    hit = hit[unique_rows(parts.name[hit])[0]]
    edge_key = diagram.edge_cells.astype(np.int64)
    size = diagram.count + 1
    packed = (edge_key[:, 0] * size + edge_key[:, 1]) * size + edge_key[:, 2]
    order = np.argsort(packed)
    cells = parts.name[hit, 2:5]
    wanted = (cells[:, 0] * size + cells[:, 1]) * size + cells[:, 2]
    spot = np.minimum(np.searchsorted(packed[order], wanted), max(len(order) - 1, 0))
    of_edge = order[spot] if len(order) else np.zeros(len(hit), np.int64)
    lost = int((packed[of_edge] != wanted).sum()) if len(order) else len(hit)
    ends = diagram.vertex[diagram.edge_ends]
    way = ends[:, 1] - ends[:, 0]
    within = vertex_inside & ~diagram.helped
    low = np.flatnonzero(within[diagram.edge_ends[:, 0]])
    high = np.flatnonzero(within[diagram.edge_ends[:, 1]])
    along = np.einsum("ij,ij->i", parts.place[hit] - ends[of_edge, 0], way[of_edge])
    edge = np.concatenate([low, of_edge, high])
    rank = np.concatenate([np.full(len(low), -np.inf), along, np.full(len(high), np.inf)])
    vertex_names = np.full((len(diagram.vertex), 5), -1, np.int64)
    vertex_names[:, 0], vertex_names[:, 1] = IN_SPACE, np.arange(len(diagram.vertex))
    name = np.concatenate(
        [vertex_names[diagram.edge_ends[low, 0]], parts.name[hit], vertex_names[diagram.edge_ends[high, 1]]]
    )
    place = np.concatenate([ends[low, 0], parts.place[hit], ends[high, 1]])
    sort = np.lexsort([rank, edge])
    edge, name, place = edge[sort], name[sort], place[sort]
    counts = np.bincount(edge, minlength=len(diagram.edge_cells))
    odd = int((counts % 2).sum())
    begin = np.concatenate([[0], np.cumsum(counts)])
    number = np.arange(len(edge)) - begin[edge]
    first = np.flatnonzero((number % 2 == 0) & (number + 1 < counts[edge]))
    return diagram.edge_cells[edge[first]], name[first], place[first], name[first + 1], place[first + 1], odd + lost


def caps_of(diagram: Diagram, parts: Fragments, vertex_inside: Flags, owners: Flags | None = None) -> Caps:
    """Return the inner faces of every cell of a closed mesh; each faces out of its cell.

    ``vertex_inside (V,)`` says which of the diagram's vertices lie inside of the mesh; ``owners (N,)`` which cells are
    wanted, all if it is not given.
    They are bounded by the fragments' edges along the bisector and by the parts of the cells' edges that lie inside;
    of those, ends are where they meet a face and where four cells meet.
    """
    following = following_in_rows(parts.start)
    cut = np.flatnonzero(parts.beyond >= 0)
    owner = np.repeat(parts.cell, np.diff(parts.start))
    cells, name_a, place_a, name_b, place_b, odd = _edge_segments(diagram, parts, vertex_inside)
    ordered = [(0, 1), (1, 0), (0, 2), (2, 0), (1, 2), (2, 1)]
    own = np.concatenate([owner[cut], *(cells[:, a] for a, _ in ordered)])
    other = np.concatenate([parts.beyond[cut], *(cells[:, b] for _, b in ordered)])
    names = np.concatenate([parts.name[cut], *[name_a] * 6, parts.name[following[cut]], *[name_b] * 6])
    places = np.concatenate([parts.place[cut], *[place_a] * 6, parts.place[following[cut]], *[place_b] * 6])
    if owners is not None:
        wanted = owners[own]
        own, other, names, places = own[wanted], other[wanted], names[np.tile(wanted, 2)], places[np.tile(wanted, 2)]
    pair = own.astype(np.int64) * (diagram.count + 1) + other
    if not len(pair):
        return Caps(
            np.zeros(1, np.int64), *(np.zeros(0, np.int32),) * 2, np.zeros((0, 5), np.int64), np.zeros((0, 3)), odd
        )
    rows = np.concatenate([np.concatenate([pair, pair])[:, None], names], axis=1)
    first, back = unique_rows(rows)
    unique = rows[first]
    ends = back.reshape(2, -1).T.astype(np.int32)
    degenerate = ends[:, 0] == ends[:, 1]
    ends = ends[~degenerate]
    flat = ends.reshape(-1)
    order = np.argsort(flat, kind="stable")
    starts = np.searchsorted(flat[order], np.arange(len(unique) + 1)).astype(np.int32)
    start, node, broken = _close_loops(starts, (order // 2).astype(np.int32), np.ascontiguousarray(ends))
    pairs = unique[node[start[:-1]], 0]
    size = diagram.count + 1
    return Caps(
        start,
        (pairs // size).astype(np.int32),
        (pairs % size).astype(np.int32),
        unique[node, 1:],
        places[first[node]],
        broken + odd,
    )
