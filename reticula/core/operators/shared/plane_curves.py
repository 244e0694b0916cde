"""Curves in a plane: what flat starting shapes are made of."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.geometry import Geo, Topology
from reticula.core.operators.declaration.parameters import Choice

__all__ = ["FACING", "curves_of", "place_in_plane"]

FACING = Choice(
    "facing",
    "up",
    "which way the plane looks",
    options={
        "up": "along y",
        "forward": "along z",
        "side": "along x",
    },
)


def place_in_plane(flat: AnyArray, facing: str) -> Floats:
    """Return places ``(N, 2)`` as positions ``(N, 3)`` in a plane; counter-clockwise seen from where it looks to."""
    x, y = np.asarray(flat, np.float64).reshape(-1, 2).T
    zero = np.zeros(len(x))
    axes = {"up": [x, zero, -y], "forward": [x, y, zero], "side": [zero, y, -x]}[facing]
    return np.stack(axes, axis=1)


def curves_of(positions: AnyArray, sizes: Sequence[int], closed: bool) -> Geo:
    """Return curves that run through ``positions (N, 3)`` one after the other, with ``sizes`` points each."""
    start = np.concatenate([[0], np.cumsum(sizes, dtype=np.int64)])
    shape = Topology(
        len(positions),
        curve_start=start,
        curve_point=np.arange(len(positions)),
        curve_closed=np.full(len(sizes), closed),
    )
    return Geo.of(positions, shape)
