"""Faces that lie on each other on the uv sheet."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, Ints
from reticula.core.finite import all_finite
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.jit import inline, kernel, parallel_kernel, prange

__all__ = ["overlapping_faces"]

TOUCH = 1e-6
"""Triangles that lie over each other by less than this share of their size only touch."""


def overlapping_faces(geo: Geo, uv: Floats) -> Flags:
    """Return which faces lie over another one ``(F,)``, for uv per corner ``(C, 2)``; faces without area do not.

    Candidates come from a grid of cells with about one triangle each; two triangles overlap if none of their six sides
    separates them (separating axes: Gottschalk, Lin & Manocha, "OBBTree", SIGGRAPH 1996, for the plane).
    """
    cut = triangles(geo)
    found = np.zeros(geo.topology.face_count, bool)
    if not len(cut.face) or not all_finite(uv):
        return found
    corner = np.ascontiguousarray(uv[cut.corner], np.float64)
    low, high = corner.min(axis=1), corner.max(axis=1)
    cells = max(1, min(1024, int(np.sqrt(len(corner)))))
    origin = low.min(axis=0)
    size = np.maximum(high.max(axis=0) - origin, 1e-300) / cells
    first = np.minimum((low - origin) / size, cells - 1).astype(np.int32)
    last = np.minimum((high - origin) / size, cells - 1).astype(np.int32)
    start, member = _in_cells(first, last, cells)
    sheet = _Sheet(corner, cut.face.astype(np.int32), low, high)
    over = _overlaps(sheet, _Grid(first, last, cells, start, member))
    found[cut.face[over]] = True
    return found


class _Sheet(NamedTuple):
    """Triangles on the uv sheet ``(T, 3, 2)``, the face of each, and the corners of the box around it ``(T, 2)``."""

    corner: Floats
    face: Indices
    low: Floats
    high: Floats


class _Grid(NamedTuple):
    """The cells of a grid that each triangle reaches, from ``first`` to ``last (T, 2)``, and the triangles in each."""

    first: Indices
    last: Indices
    cells: int
    start: Ints
    member: Indices


@kernel
def _in_cells(first: Indices, last: Indices, cells: int) -> tuple[Ints, Indices]:
    """Return the triangles of each cell: starts ``(cells * cells + 1,)`` and numbers."""
    start = np.zeros(cells * cells + 1, np.int64)
    for t in range(len(first)):
        for y in range(first[t, 1], last[t, 1] + 1):
            for x in range(first[t, 0], last[t, 0] + 1):
                start[y * cells + x + 1] += 1
    for cell in range(cells * cells):
        start[cell + 1] += start[cell]
    at = start[:-1].copy()
    member = np.empty(start[-1], np.int32)
    for t in range(len(first)):
        for y in range(first[t, 1], last[t, 1] + 1):
            for x in range(first[t, 0], last[t, 0] + 1):
                member[at[y * cells + x]] = t
                at[y * cells + x] += 1
    return start, member


@inline
def _is_apart(a: Floats, b: Floats, slack: float) -> bool:
    """Whether a side of triangle ``a`` has all of ``b`` on its outer side, or reaching in less than ``slack``."""
    turn = (a[1, 0] - a[0, 0]) * (a[2, 1] - a[0, 1]) - (a[1, 1] - a[0, 1]) * (a[2, 0] - a[0, 0])
    way = 1.0 if turn > 0.0 else -1.0
    for i in range(3):
        j = (i + 1) % 3
        dx, dy = a[j, 0] - a[i, 0], a[j, 1] - a[i, 1]
        length = np.sqrt(dx * dx + dy * dy)
        if length == 0.0:
            return True
        deepest = -np.inf
        for k in range(3):
            inward = way * (dx * (b[k, 1] - a[i, 1]) - dy * (b[k, 0] - a[i, 0])) / length
            deepest = max(deepest, inward)
        if deepest <= slack:
            return True
    return False


@parallel_kernel
def _overlaps(sheet: _Sheet, grid: _Grid) -> Flags:
    """Which triangles lie over one of another face."""
    corner, face, low, high = sheet
    first, last, cells, start, member = grid
    out = np.zeros(len(corner), np.bool_)
    for t in prange(len(corner)):
        wide = max(high[t, 0] - low[t, 0], high[t, 1] - low[t, 1])
        for y in range(first[t, 1], last[t, 1] + 1):
            if out[t]:
                break
            for x in range(first[t, 0], last[t, 0] + 1):
                if out[t]:
                    break
                for k in range(start[y * cells + x], start[y * cells + x + 1]):
                    o = member[k]
                    if face[o] == face[t] or low[o, 0] >= high[t, 0] or high[o, 0] <= low[t, 0]:
                        continue
                    if low[o, 1] >= high[t, 1] or high[o, 1] <= low[t, 1]:
                        continue
                    slack = TOUCH * min(wide, max(high[o, 0] - low[o, 0], high[o, 1] - low[o, 1]))
                    if not _is_apart(corner[t], corner[o], slack) and not _is_apart(corner[o], corner[t], slack):
                        out[t] = True
                        break
    return out
