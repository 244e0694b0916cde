"""Curves stretched so that they have the length, or enclose the area, that they had before they were moved."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, following_in_rows
from reticula.core.geometry.mesh.geo import Geo

__all__ = ["stretched_curves"]

ROUNDS = 60
"""Halvings of the range in which the stretch is looked for."""


def stretched_curves(geo: Geo, moved: Floats, pinned: Flags, keep: str) -> tuple[Floats, int]:
    """Return the ``moved (P, 3)`` points of curves stretched, and how many curves could not be.

    ``keep`` is length, or area of closed curves. A curve of which no point is ``pinned (P,)`` is scaled about its
    middle; an open one that is pinned at just its ends is stretched away from the line between them (by bisection).
    Others, and those that share points with faces or other curves, stay as they are.
    """
    shape = geo.topology
    sizes = np.diff(shape.curve_start)
    owner = np.repeat(np.arange(shape.curve_count), sizes)
    point = shape.curve_point
    shared = np.bincount(point, minlength=shape.point_count) > 1
    shared[shape.corner_point] = True
    held = np.bincount(owner, pinned[point], minlength=shape.curve_count)
    alone = np.bincount(owner, shared[point], minlength=shape.curve_count) == 0
    ends = shape.curve_ends & pinned
    at_ends = np.bincount(owner, ends[point], minlength=shape.curve_count)
    free = alone & (held == 0) & (sizes > 2)
    hung = alone & (held == 2) & (at_ends == 2) & ~shape.curve_closed & (sizes > 2) & (keep == "length")
    if keep == "area":
        free &= shape.curve_closed
    middle = _means(moved[point], owner, sizes)
    base = np.where(hung[owner, None], _chords(geo, moved, owner), middle[owner])
    off = moved[point] - base
    wanted, now = _measure(geo, geo.positions[point], keep), _measure(geo, moved[point], keep)
    power = 1.0 if keep == "length" else 0.5
    factor = np.ones(shape.curve_count)
    able = free & (now > 1e-12 * np.maximum(wanted, 1e-300))
    factor[able] = (wanted[able] / now[able]) ** power
    if hung.any():
        factor[hung] = _bisected(geo, base, off, wanted)[hung]
    out = moved.copy()
    chosen = (free | hung)[owner]
    out[point[chosen]] = (base + factor[owner, None] * off)[chosen]
    held_still = pinned[point] & chosen
    out[point[held_still]] = moved[point[held_still]]
    changed = np.bincount(owner, (moved[point] != geo.positions[point]).any(axis=1), minlength=shape.curve_count) > 0
    return out, int((changed & ~(able | hung)).sum())


def _means(places: Floats, owner: AnyArray, sizes: AnyArray) -> Floats:
    total = np.stack([np.bincount(owner, column, minlength=len(sizes)) for column in places.T], axis=1)
    return np.asarray(total / np.maximum(sizes, 1)[:, None])


def _chords(geo: Geo, moved: Floats, owner: AnyArray) -> Floats:
    """For each point of each curve the place on the line between its ends, by its share of the length ``(N, 3)``."""
    shape = geo.topology
    place = moved[shape.curve_point]
    begin = shape.curve_start[:-1][owner]
    last = shape.curve_start[1:][owner] - 1
    step = np.zeros(len(owner))
    step[1:] = np.linalg.norm(np.diff(place, axis=0), axis=1)
    along = np.cumsum(step)
    share = (along - along[begin]) / np.maximum(along[last] - along[begin], 1e-300)
    return np.asarray(place[begin] + share[:, None] * (place[last] - place[begin]))


def _measure(geo: Geo, places: Floats, keep: str) -> Floats:
    """The length of each curve in m, or the area that it encloses in m² ``(K,)``."""
    shape = geo.topology
    sizes = np.diff(shape.curve_start)
    owner = np.repeat(np.arange(shape.curve_count), sizes)
    following = following_in_rows(shape.curve_start)
    if keep == "area":
        own = places - places[shape.curve_start[:-1][owner]]
        cross = 0.5 * np.cross(own, own[following])
        return np.linalg.norm(np.stack([np.bincount(owner, c, minlength=len(sizes)) for c in cross.T], axis=1), axis=1)
    length = np.linalg.norm(places[following] - places, axis=1)
    length[shape.curve_start[1:][~shape.curve_closed & (sizes > 0)] - 1] = 0.0
    return np.bincount(owner, length, minlength=len(sizes)).astype(np.float64)


def _bisected(geo: Geo, base: Floats, off: Floats, wanted: Floats) -> Floats:
    """The factor of ``off`` with which each curve is as long as ``wanted (K,)``: length grows with it."""
    owner = np.repeat(np.arange(geo.topology.curve_count), np.diff(geo.topology.curve_start))
    low, high = np.zeros(len(wanted)), np.full(len(wanted), 1.0)
    for _ in range(ROUNDS):
        short = _measure(geo, base + high[owner, None] * off, "length") < wanted
        if not short.any() or high.max() > 1e6:
            break
        high[short] *= 2.0
    for _ in range(ROUNDS):
        middle = 0.5 * (low + high)
        short = _measure(geo, base + middle[owner, None] * off, "length") < wanted
        low, high = np.where(short, middle, low), np.where(short, high, middle)
    return np.asarray(0.5 * (low + high))
