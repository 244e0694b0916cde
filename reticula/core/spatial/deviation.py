"""Whether two surfaces stay within a distance of each other, everywhere."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.geometry.measure.triangles import halves, longest_edges, triangles
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.jit import inline, inline_making, parallel_kernel, prange
from reticula.core.spatial.sheet_distance import Sheet, sheet_distance, sheet_of
from reticula.core.spatial.surface import Surface, closest_weights, surface_of

__all__ = ["Deviation", "deviation_within"]

ROUNDING = 1e-12
"""The share of the size below which distances are not told apart; of a coordinate, a thousandth of it."""
SMALL = 1e-3
"""The share of the limit below which a cell counts as one place."""
HALVINGS = 50
LEAST = 0.01
"""The least share of an edge that is cut off."""
AT_ONCE = 200_000


class Deviation(NamedTuple):
    """``held``: neither surface leaves the limit anywhere. ``farthest``: the largest distance met, in m."""

    held: bool
    farthest: float


class _Cells(NamedTuple):
    """Triangles within a surface: ``corner (N, 3, 3)`` in m, and the closest triangle of the other surface to each
    ``closest (N, 3)``.
    """

    corner: Floats
    closest: Indices


class _Cuts(NamedTuple):
    """How cells go on: ``bound (N,)`` on their distance in m; the ``edge (N,)``, from its corner of that number to the
    next, and the ``share (N,)`` of its length at which it is best cut: between ends that no triangle serves both, where
    the closest one changes, or else in the middle of the longest.
    """

    bound: Floats
    edge: Indices
    share: Floats


@inline
def _distance(at: Floats, t: Floats) -> float:
    """Distance from a place to a triangle."""
    a, b, c = closest_weights(t, at[0], at[1], at[2])
    total = 0.0
    for w in range(3):
        total += (a * t[0, w] + b * t[1, w] + c * t[2, w] - at[w]) ** 2
    return np.sqrt(total)


@inline_making
def _even_share(a: Floats, b: Floats, one: Floats, other: Floats, limit: float) -> float:
    """Where from ``a`` to ``b`` two triangles are equally far, ``one`` being closer at ``a``, ``other`` at ``b``; or
    any place that both serve within the limit.
    """
    low, high = 0.0, 1.0
    at = np.empty(3)
    for _ in range(HALVINGS):
        middle = 0.5 * (low + high)
        for w in range(3):
            at[w] = a[w] + middle * (b[w] - a[w])
        near, far = _distance(at, one), _distance(at, other)
        if max(near, far) <= 0.5 * limit:
            break
        if near <= far:
            low = middle
        else:
            high = middle
        if high - low < 0.5 * LEAST and max(near, far) > 2.0 * limit:
            break
    return 0.5 * (low + high)


@parallel_kernel
def _cuts(cells: _Cells, sheet: Sheet, limit: float, margin: float) -> _Cuts:
    """Bound the distance of cells by their best single triangle, or by the sheet that covers them, and find where to
    cut those beyond the limit.

    The distance to one triangle is convex, so that within a cell it is largest at a corner.
    """
    target = sheet.corner
    count = len(cells.corner)
    bound, edge, share = np.zeros(count), np.zeros(count, np.int32), np.full(count, 0.5)
    for n in prange(count):
        corner, closest = cells.corner[n], cells.closest[n]
        away = np.empty((3, 3))
        best = np.inf
        for t in range(3):
            for c in range(3):
                away[t, c] = _distance(corner[c], target[closest[t]])
            best = min(best, max(away[t, 0], away[t, 1], away[t, 2]))
        bound[n] = best
        if best <= limit:
            continue
        if sheet_distance(sheet, corner, closest[0], limit, margin):
            bound[n] = limit
            continue
        worst, longest, long_edge = limit, -1.0, 0
        for c in range(3):
            d = (c + 1) % 3
            length = (corner[c, 0] - corner[d, 0]) ** 2 + (corner[c, 1] - corner[d, 1]) ** 2
            length += (corner[c, 2] - corner[d, 2]) ** 2
            if length > longest:
                longest, long_edge = length, c
            over = min(away[c, d], away[d, c])
            if over > worst:
                worst, edge[n] = over, c
        if worst == limit:
            edge[n] = long_edge
            continue
        c, d = edge[n], (edge[n] + 1) % 3
        even = _even_share(corner[c], corner[d], target[closest[c]], target[closest[d]], limit)
        share[n] = min(max(even, LEAST), 1.0 - LEAST)
    return _Cuts(bound, edge, share)


def _cells(geo: Geo, other: Surface) -> tuple[_Cells, float]:
    """The triangles of a surface, and the largest distance from one of its points to the other surface."""
    point = geo.topology.corner_point[triangles(geo).corner]
    used, number = np.unique(point, return_inverse=True)
    there = other.closest(geo.positions[used])
    return _Cells(geo.positions[point], there.triangle[number].reshape(-1, 3)), float(there.distance.max())


def _divided(cells: _Cells, cuts: _Cuts, other: Surface, open_: Flags) -> tuple[_Cells, float]:
    """Cut cells in two, and the largest distance at the cuts."""
    corner, edge = cells.corner[open_], cuts.edge[open_]
    row = np.arange(len(edge))
    begin, end = corner[row, edge], corner[row, (edge + 1) % 3]
    middle = begin + cuts.share[open_][:, None] * (end - begin)
    there = other.closest(middle)
    made = _Cells(halves(corner, edge, middle), halves(cells.closest[open_], edge, there.triangle))
    return made, float(there.distance.max())


def _within(geo: Geo, other: Geo, limit: float, slack: float) -> Deviation:
    """Whether a surface stays within a limit of another; see ``deviation_within``."""
    surface = surface_of(other)
    sheet = sheet_of(other)
    cells, farthest = _cells(geo, surface)
    begins = range(0, len(cells.corner), AT_ONCE)
    rooms = [_Cells(cells.corner[i : i + AT_ONCE], cells.closest[i : i + AT_ONCE]) for i in begins]
    while rooms:
        if farthest > limit:
            return Deviation(False, farthest)
        cells = rooms.pop()
        cuts = _cuts(cells, sheet, limit, slack)
        open_ = (cuts.bound > limit) & (longest_edges(cells.corner)[1] > slack)
        if not open_.any():
            continue
        cells, far = _divided(cells, cuts, surface, open_)
        farthest = max(farthest, far)
        rooms.append(cells)
    return Deviation(farthest <= limit, farthest)


def deviation_within(a: Geo, b: Geo, limit: float) -> Deviation:
    """Return whether no place of either surface is farther from the other than ``limit`` in m: a bound on the
    Hausdorff distance. It is decided everywhere, not at samples, up to 1e-12 of the size of the surfaces.

    Triangles are cut, where the closest triangle of the other surface changes, until each part is close to a single
    one or a place beyond the limit is met (after Guthe, Borodin & Klein, "Fast and accurate Hausdorff distance
    calculation between meshes", Journal of WSCG 13, 2005). Infinitely far if one of them has no faces.
    """
    if not a.topology.face_count or not b.topology.face_count:
        return Deviation(False, float("inf"))
    size = float(np.linalg.norm(a.bounds[1] - a.bounds[0])) + 1e-3 * float(np.abs(a.bounds).max())
    slack = max(SMALL * limit, ROUNDING * size)
    inner = max(limit - 2.0 * slack, 0.5 * slack)
    there = _within(a, b, inner, slack)
    back = _within(b, a, inner, slack) if there.held else there
    return Deviation(there.held and back.held, max(there.farthest, back.farthest))
