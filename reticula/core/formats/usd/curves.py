"""Cubic curves of USD as lines: Bézier, B-spline and Catmull-Rom, a few steps for each piece."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Ints, starts_from_sizes
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.geometry import Geo, Topology

__all__ = ["sampled"]

STEPS = 12
"""Lines for each piece."""
BASES = {
    "bezier": (3, np.array([[-1, 3, -3, 1], [3, -6, 3, 0], [-3, 3, 0, 0], [1, 0, 0, 0]], np.float64)),
    "bspline": (1, np.array([[-1, 3, -3, 1], [3, -6, 3, 0], [-3, 0, 3, 0], [1, 4, 1, 0]], np.float64) / 6),
    "catmullRom": (1, np.array([[-1, 3, -3, 1], [2, -5, 4, -1], [-1, 0, 1, 0], [0, 2, 0, 0]], np.float64) / 2),
}
"""By basis, how many points a piece goes on and its matrix (Foley, van Dam, Feiner & Hughes, "Computer Graphics:
Principles and Practice", 1990, chapter 11)."""


def sampled(places: Floats, sizes: Ints, basis: str, closed: bool, name: str) -> Geo:
    """Return cubic curves over ``places (P, 3)``, ``sizes (K,)`` points each, as lines. Their values are left out."""
    if basis not in BASES:
        raise FormatError(f"the curves of '{name}' are of the basis '{basis}', which is not read")
    step, matrix = BASES[basis]
    share = np.arange(STEPS) / STEPS
    powers = np.stack([share**3, share**2, share, np.ones(STEPS)], axis=1) @ matrix
    last = np.array([1.0, 1, 1, 1]) @ matrix
    begin = starts_from_sizes(sizes).tolist()
    runs = []
    for a, b in zip(begin[:-1], begin[1:], strict=True):
        own = places[a:b]
        if closed:
            own = np.concatenate([own, own[: 4 - step]])
        pieces = (len(own) - 4) // step + 1
        if len(own) < 4 or pieces < 1:
            continue
        control = own[(np.arange(pieces) * step)[:, None] + np.arange(4)]
        line = np.einsum("sk,pkd->psd", powers, control).reshape(-1, 3)
        runs.append(line if closed else np.concatenate([line, last @ control[-1:]]))
    note(
        f"The {len(runs):,} cubic curves of '{name}' became lines, {STEPS} for each piece; their values were left out."
    )
    count = sum(map(len, runs))
    topology = Topology(
        count,
        None,
        None,
        starts_from_sizes(np.array([len(run) for run in runs], np.int64)),
        np.arange(count),
        np.full(len(runs), closed),
    )
    return Geo.of(np.concatenate(runs) if runs else np.zeros((0, 3)), topology)
