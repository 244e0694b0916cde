"""Picked points and edges found again after they were split: copies of a point in its place, the parts of an edge."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Indices, Ints, UInts
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.identity import descendants
from reticula.core.jit import kernel

__all__ = ["copies_of_points", "have_copies", "parts_of_edges"]


class _Around(NamedTuple):
    """What is next to each point ``p``, from ``start[p]`` to ``start[p + 1]``."""

    start: Ints
    point: Indices
    edge: Ints


class _Copies(NamedTuple):
    """What came from named points; those in the place of name ``n`` are ``at[first[n] : first[n + 1]]``."""

    owner: Ints
    at: Ints
    first: Ints


def copies_of_points(geo: Geo, names: UInts) -> Ints:
    """Return for each point ``(N,)`` of which of ``names (M,)`` it is a copy; -1 for none.

    A point's copies came from it and lie where it lies: others that came from it, such as those in the middle of its
    edges, are new. Where it is gone, all that came from it stand for it.
    """
    owner = descendants(geo.identity("point"), names)
    if not len(names):
        return owner
    there = _rows_of(geo, names)
    at = there[np.maximum(owner, 0)]
    elsewhere = (owner >= 0) & (at >= 0) & (geo.positions != geo.positions[np.maximum(at, 0)]).any(axis=1)
    return np.where(elsewhere, -1, owner)


def parts_of_edges(geo: Geo, ends: UInts) -> Ints:
    """Return for each edge ``(E,)`` of which of the edges given by the names of their ends ``(M, 2)`` it is a part; -1
    for none.

    Parts lie on the shortest way from one end to the other, by number of edges, that leads over nothing but points
    that came from these two. Edges whose ends are gone have no parts.
    """
    shape = geo.topology
    found = np.full(len(shape.edges), -1, np.int64)
    if not len(ends) or not len(found):
        return found
    known, pair = np.unique(ends, return_inverse=True)
    owner = descendants(geo.identity("point"), known)
    copy = copies_of_points(geo, known)
    copy[_rows_of(geo, known)[np.maximum(copy, 0)] < 0] = -1
    both = np.concatenate([shape.edges, shape.edges[:, ::-1]])
    order = np.argsort(both[:, 0], kind="stable").astype(np.int64)
    start = np.searchsorted(both[order, 0], np.arange(shape.point_count + 1)).astype(np.int64)
    at = np.argsort(copy, kind="stable").astype(np.int64)
    first = np.searchsorted(copy[at], np.arange(len(known) + 1)).astype(np.int64)
    around = _Around(start, both[order, 1], order % len(found))
    _mark_ways(pair.reshape(-1, 2), around, _Copies(owner, at, first), found)
    return found


def _rows_of(geo: Geo, names: UInts) -> Ints:
    """The point that bears each of ``names (M,)``; -1 for none."""
    own = geo.identity("point")
    if not len(own):
        return np.full(len(names), -1, np.int64)
    order = np.argsort(own)
    at = np.minimum(np.searchsorted(own, names, sorter=order), len(own) - 1)
    return np.where(own[order[at]] == names, order[at], -1)


@kernel
def _mark_ways(pairs: Ints, around: _Around, copies: _Copies, found: Ints) -> None:
    """Mark the edges on shortest ways between both ends of each pair (breadth first from either end)."""
    owner, first, far = copies.owner, copies.first, np.int64(1 << 40)
    away = np.full((2, len(owner)), far)
    queue = np.empty((2, len(owner)), np.int64)
    for number in range(len(pairs)):
        count = np.zeros(2, np.int64)
        for side in range(2):
            name, done = pairs[number, side], 0
            for k in range(first[name], first[name + 1]):
                away[side, copies.at[k]] = 0
                queue[side, count[side]] = copies.at[k]
                count[side] += 1
            while done < count[side]:
                point = queue[side, done]
                done += 1
                for k in range(around.start[point], around.start[point + 1]):
                    other = around.point[k]
                    mine = owner[other] == pairs[number, 0] or owner[other] == pairs[number, 1]
                    if mine and away[side, other] == far:
                        away[side, other] = away[side, point] + 1
                        queue[side, count[side]] = other
                        count[side] += 1
        shortest = far
        for k in range(first[pairs[number, 1]], first[pairs[number, 1] + 1]):
            shortest = min(shortest, away[0, copies.at[k]])
        if shortest < far:
            for done in range(count[0]):
                point = queue[0, done]
                for k in range(around.start[point], around.start[point + 1]):
                    if away[0, point] + 1 + away[1, around.point[k]] == shortest:
                        found[around.edge[k]] = number
        for side in range(2):
            for done in range(count[side]):
                away[side, queue[side, done]] = far


def have_copies(geo: Geo, names: UInts, chosen: Ints) -> Flags:
    """Return for each of some chosen points ``(M,)`` whether another one is a copy of it."""
    owner = copies_of_points(geo, names)
    outside = np.ones(len(owner), bool)
    outside[chosen] = False
    flags: Flags = np.bincount(owner[outside & (owner >= 0)], minlength=len(names)) > 0
    return flags
