"""What closed outlines of one plane enclose, where they touch, cross themselves or each other."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import shapely

from reticula.core.arrays import AnyArray, Floats, Ints, starts_from_sizes
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.planar.overlay import lay_lines, owned_rings
from reticula.core.geometry.planar.planar_loops import planar_loops
from reticula.core.geometry.planar.region_fill import nest_loops, nest_oriented_loops
from reticula.core.jit import parallel_kernel, prange

__all__ = ["Regions", "outline_regions"]


class Regions(NamedTuple):
    """``regions``: each a list of rings, first the outline, counter-clockwise, then its holes, clockwise. Rings are
    numbers of the given points, in the order of the outlines, and after them of ``added (M, 2)`` places where outlines
    cross.
    """

    regions: list[list[AnyArray]]
    added: Floats


class _Bands(NamedTuple):
    """Segments sorted into bands of equal height above ``low``: ``start (B+1,)`` and ``item``; ``per_metre`` bands."""

    start: AnyArray
    item: AnyArray
    low: float
    per_metre: float


def _bands(tail: Floats, head: Floats) -> _Bands:
    """As many bands as let a segment lie in two of them on average, so that a ray looks at its own band only."""
    bottom, top = np.minimum(tail[:, 1], head[:, 1]), np.maximum(tail[:, 1], head[:, 1])
    low, height = float(bottom.min()), float(np.ptp(np.concatenate([bottom, top])))
    count = int(np.clip(height / max(float((top - bottom).mean()), 1e-300), 1, len(tail))) if height else 1
    per_metre = count / height if height else 0.0
    first = np.minimum(((bottom - low) * per_metre).astype(np.int64), count - 1)
    last = np.minimum(((top - low) * per_metre).astype(np.int64), count - 1)
    spans = last - first + 1
    segment = np.repeat(np.arange(len(tail)), spans)
    band = np.arange(len(segment)) - np.repeat(starts_from_sizes(spans)[:-1], spans) + first[segment]
    start, order = group_by(band.astype(np.int32), count)
    return _Bands(start, segment[order], low, per_metre)


@parallel_kernel
def _windings(places: Floats, tail: Floats, head: Floats, bands: _Bands) -> Ints:
    """How often directed segments wind around each place, and how often a ray crosses them ``(N, 2)``."""
    out = np.zeros((len(places), 2), np.int64)
    last = len(bands.start) - 2
    for n in prange(len(places)):
        x, y = places[n, 0], places[n, 1]
        band = min(max(int((y - bands.low) * bands.per_metre), 0), last)
        for entry in range(bands.start[band], bands.start[band + 1]):
            k = bands.item[entry]
            up = tail[k, 1] <= y < head[k, 1]
            down = head[k, 1] <= y < tail[k, 1]
            if up or down:
                turn = (head[k, 0] - tail[k, 0]) * (y - tail[k, 1]) - (x - tail[k, 0]) * (head[k, 1] - tail[k, 1])
                if up and turn > 0.0:
                    out[n, 0] += 1
                    out[n, 1] += 1
                elif down and turn < 0.0:
                    out[n, 0] -= 1
                    out[n, 1] += 1
    return out


def outline_regions(loops: Sequence[Floats], rule: str) -> Regions:
    """Return what the closed outlines ``(N, 2)`` enclose by a ``rule``: even-odd, or non-zero winding number.

    Outlines that neither cross nor touch are nested by which lies in which; others are laid over each other.
    """
    rings = shapely.linearrings(
        np.concatenate(loops), indices=np.repeat(np.arange(len(loops)), [len(loop) for loop in loops])
    )
    starts = np.cumsum([0, *(len(loop) for loop in loops)])
    numbers = [np.arange(a, b) for a, b in zip(starts, starts[1:], strict=False)]
    if (rule == "even-odd" or len(loops) == 1) and _are_apart(rings):
        ccw = shapely.is_ccw(rings)
        found = [
            [numbers[k] if ccw[k] == (n == 0) else numbers[k][::-1] for n, k in enumerate(region)]
            for region in nest_loops(list(loops))
        ]
        return Regions(found, np.zeros((0, 2)))
    return _laid_over(np.concatenate(loops), numbers, rule)


def _are_apart(rings: AnyArray) -> bool:
    """Whether no ring crosses or touches itself or another one."""
    if not (shapely.is_simple(rings) & shapely.is_valid(shapely.polygons(rings))).all():
        return False
    first, second = shapely.STRtree(rings).query(rings, predicate="intersects")
    return bool((first == second).all())


def _laid_over(places: Floats, numbers: list[AnyArray], rule: str) -> Regions:
    tail = np.concatenate(numbers)
    head = np.concatenate([np.roll(loop, -1) for loop in numbers])
    overlay = lay_lines(places, np.stack([tail, head], axis=1))
    winding, crossings = _windings(overlay.inside, places[tail], places[head], _bands(places[tail], places[head])).T
    filled = crossings % 2 == 1 if rule == "even-odd" else winding != 0
    nodes = np.flatnonzero(overlay.point >= 0)
    pinned = np.stack([np.zeros(len(nodes), np.int64), nodes], axis=1)
    a, b, _ = owned_rings(overlay, np.where(filled, 0, -1), pinned)
    ends = np.stack([overlay.place[a], overlay.place[b]], axis=1)
    start, item, _ = planar_loops(a, b, ends, len(overlay.place))
    new = overlay.point < 0
    number = np.where(new, len(places) + np.cumsum(new) - 1, overlay.point)
    rings = [a[item[begin:end]] for begin, end in zip(start, start[1:], strict=False)]
    nested = nest_oriented_loops([overlay.place[ring] for ring in rings]) if rings else []
    return Regions([[number[rings[k]] for k in region] for region in nested], overlay.place[new])
