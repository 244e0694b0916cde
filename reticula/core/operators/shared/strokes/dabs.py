"""Dabs of a brush: which of them an element is nearest to, for their sizes."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.geometry import Geo
from reticula.core.spatial.points import NearestPoints

__all__ = ["nearest_dab"]

MOST_PAIRS = 4_000_000
"""Pairs of dab and element that are looked at in one go."""


def nearest_dab(geo: Geo, middles: Floats, dabs: Floats, radius: Floats) -> tuple[Indices, Floats]:
    """Return for each of ``middles (N, 3)`` the dab ``(N,)`` of ``(M, 3)`` that it lies deepest in, as a share of the
    ``radius (M,)`` in m: -1 for none, of equally deep ones the first; and how deep ``(N,)``: 1 in its middle, 0 at its
    rim.
    """
    if (radius == radius[0]).all():
        number, far = NearestPoints(dabs, geo).nearest(middles, radius[0])
        return number, np.where(number >= 0, 1.0 - far / radius[0], 0.0)
    number, depth = np.full(len(middles), -1, np.int32), np.zeros(len(middles))
    if not len(middles):
        return number, depth
    tree = NearestPoints(middles, geo)
    total = np.cumsum(tree.count(dabs, radius))
    parts = np.searchsorted(total, np.arange(MOST_PAIRS, total[-1], MOST_PAIRS))
    for rows in np.split(np.arange(len(dabs)), np.unique(parts)):
        start, item, far = tree.near(dabs[rows], radius[rows])
        dab = np.repeat(rows, np.diff(start))
        deep = 1.0 - far / radius[dab]
        order = np.lexsort((dab, -deep, item))
        first = order[np.flatnonzero(np.diff(item[order], prepend=-1))]
        better = (number[item[first]] < 0) | (deep[first] > depth[item[first]])
        at = item[first[better]]
        number[at], depth[at] = dab[first[better]], deep[first[better]]
    return number, depth
