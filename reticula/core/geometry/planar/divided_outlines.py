"""Where to divide the edges of outlines, so that an even mesh inside them has no slivers."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Flags, Floats, Ints, starts_from_sizes
from reticula.core.geometry.planar.delaunay import polygon_of

__all__ = ["Cuts", "divided_outlines"]

GROWTH = 0.7
"""By how much edges may get longer per metre away from a shorter one."""
ROUNDS = 12
ALONG = 3
"""Edges of one ring that are as many steps apart count as beside each other, not as sides of a narrow place."""


class Cuts(NamedTuple):
    """A divided ring: the ``edge (M,)`` each corner lies on, counted from the edge's first corner, and at which
    ``share (M,)`` of it.
    """

    edge: Ints
    share: Floats


def divided_outlines(rings: list[Floats], whole: list[Flags], across: float) -> list[Cuts]:
    """Divide the edges of a region's outline and holes, ``rings`` of places ``(N, 2)``, evenly into pieces.

    No piece is longer than the triangles will be (the side of a square as large as the region by ``across``), than its
    distance from a shorter edge lets it (a size field of bounded slope; Ruppert 1995, local feature size), or than the
    narrow place it stands at is wide. Edges marked ``whole (N,)`` are not divided.
    """
    spacing = float(np.sqrt(polygon_of(rings[0], rings[1:]).area)) / max(across, 1.0)
    tail = np.concatenate(rings)
    head = np.concatenate([np.roll(ring, -1, axis=0) for ring in rings])
    fixed = np.concatenate(whole)
    length = np.linalg.norm(head - tail, axis=1)
    times = np.maximum(np.round(length / max(spacing, 1e-300)), 1)
    times[fixed] = 1
    starts = starts_from_sizes(np.array([len(ring) for ring in rings]))
    ring_of = np.repeat(np.arange(len(rings)), np.diff(starts))
    for _ in range(ROUNDS):
        edge, share = _pieces(times)
        middle = tail[edge] + (share + 0.5 / times[edge])[:, None] * (head - tail)[edge]
        size = (length / times)[edge]
        allowed = np.minimum(_graded(middle, size), _narrow(middle, size, ring_of[edge]))
        least = np.full(len(times), np.inf)
        np.minimum.at(least, edge, allowed)
        wanted = np.where(fixed, 1, np.ceil(length / np.maximum(least, 1e-3 * spacing) - 1e-9))
        if (wanted <= times).all():
            break
        times = np.maximum(times, np.minimum(wanted, 4 * times))
    edge, share = _pieces(times)
    cuts = np.searchsorted(edge, starts)
    return [
        Cuts(edge[a:b] - first, share[a:b]) for a, b, first in zip(cuts, cuts[1:], starts[:-1].tolist(), strict=False)
    ]


def _pieces(times: Floats) -> tuple[Ints, Floats]:
    count = times.astype(np.int64)
    edge = np.repeat(np.arange(len(count)), count)
    part = np.arange(len(edge)) - np.repeat(starts_from_sizes(count)[:-1], count)
    return edge, part / times[edge]


def _graded(middle: Floats, size: Floats) -> Floats:
    """Return how long pieces may be beside shorter ones: by classes of length, the nearest of each."""
    out = np.full(len(size), np.inf)
    octave = np.floor(np.log2(np.maximum(size, 1e-300)))
    for value in np.unique(octave):
        members = np.flatnonzero(octave == value)
        far, near = scipy.spatial.cKDTree(middle[members]).query(middle)
        np.minimum(out, size[members][near] + GROWTH * far, out=out, where=octave > value)
    return out


def _narrow(middle: Floats, size: Floats, ring: AnyArray) -> Floats:
    """Return how far the nearest piece is that is not beside one along its ring."""
    count = len(size)
    far, near = scipy.spatial.cKDTree(middle).query(middle, k=min(2 * ALONG + 2, count))
    far, near = np.reshape(far, (count, -1)), np.reshape(near, (count, -1))
    total = np.bincount(ring)
    first = starts_from_sizes(total)
    place = np.arange(count) - first[ring]
    steps = np.abs(place[:, None] - place[near])
    steps = np.minimum(steps, total[ring][:, None] - steps)
    beside = (ring[:, None] == ring[near]) & (steps <= ALONG)
    gap = np.where(beside, np.inf, far).min(axis=1)
    return np.asarray(np.maximum(gap, 0.05 * size))
