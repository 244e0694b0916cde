"""What operators that move points share: moving them one by one, or faces and pieces as wholes."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.geometry import Geo
from reticula.core.geometry.moves import belonging, ragged_reduce
from reticula.core.notes import warn
from reticula.core.operators.parameters import Choice

__all__ = ["AS_ONE", "spread_moves", "unit_centers", "unit_of_points"]

AS_ONE = Choice("move", "points", "what moves as one", options={
    "points": "each point by itself", "faces": "whole faces", "pieces": "whole connected parts",
})  # fmt: skip
"""The parameter that says what moves as one."""


def unit_centers(geo: Geo, what: str) -> Floats:
    """Return where the things that move as one are, m ``(N, 3)``: points, faces or pieces."""
    if what == "points":
        return geo.positions
    if what == "faces":
        start, index = belonging(geo, "point", "face")
        return np.asarray(ragged_reduce("mean", start, geo.positions[index]))
    label = geo.topology.point_piece
    count = np.maximum(np.bincount(label), 1)[:, None]
    return np.stack([np.bincount(label, axis) for axis in geo.positions.T], axis=1) / count


def unit_of_points(geo: Geo, what: str, values: Floats) -> Floats:
    """Return the mean of per-point ``values (P, ...)`` for each thing that moves as one."""
    if what == "points":
        return values
    if what == "faces":
        start, index = belonging(geo, "point", "face")
        return np.asarray(ragged_reduce("mean", start, values[index]))
    label = geo.topology.point_piece
    rows = values.reshape(len(values), -1)
    means = (
        np.stack([np.bincount(label, column) for column in rows.T], axis=1) / np.maximum(np.bincount(label), 1)[:, None]
    )
    return means.reshape(-1, *values.shape[1:])


def spread_moves(geo: Geo, what: str, moves: Floats) -> Geo:
    """Return the geometry moved by ``moves (N, 3)`` of its points, faces or pieces.

    A point between faces that move apart goes by the mean of their moves, and that is said.
    """
    if what == "points":
        return geo.with_positions(geo.positions + moves)
    if what == "pieces":
        return geo.with_positions(geo.positions + moves[geo.topology.point_piece])
    start, index = belonging(geo, "face", "point")
    on = moves[index]
    mean = np.asarray(ragged_reduce("mean", start, on))
    apart = np.abs(on - np.repeat(mean, np.diff(start), axis=0)).max(initial=0.0)
    if apart > 1e-9 * max(float(np.abs(moves).max(initial=0.0)), 1e-300):
        warn("Faces share points, so they were bent instead of moved as wholes; put unshare before this.")
    return geo.with_positions(geo.positions + mean)
