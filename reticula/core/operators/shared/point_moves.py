"""What operators that move points share: moving them one by one, or faces and pieces as wholes."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, as_rows
from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.incidence import incident, ragged_reduce
from reticula.core.operators.declaration.parameters import Choice

__all__ = ["AS_ONE", "points_of_unit", "spread_moves", "unit_of_points"]

AS_ONE = Choice(
    "move",
    "points",
    "what moves as one",
    options={
        "points": "each point by itself",
        "faces": "whole faces",
        "pieces": "whole connected parts",
    },
)
"""The parameter that says what moves as one."""


def unit_of_points(geo: Geo, what: str, values: Floats) -> Floats:
    """Return the mean of per-point ``values (P, ...)`` for each thing that moves as one: points, faces or pieces."""
    if what == "points":
        return values
    if what == "faces":
        start, index = incident(geo, "point", "face")
        return np.asarray(ragged_reduce("mean", start, values[index]))
    label = geo.topology.point_piece
    sums = [np.bincount(label, column) for column in as_rows(values).T]
    means = np.stack(sums, axis=1) / np.maximum(np.bincount(label), 1)[:, None]
    return means.reshape(-1, *values.shape[1:])


def points_of_unit(geo: Geo, what: str, values: Floats) -> Floats:
    """Return per-point values ``(P, ...)`` of what moves as one; a point of several faces has their mean."""
    if what == "points":
        return values
    if what == "pieces":
        return values[geo.topology.point_piece]
    start, index = incident(geo, "face", "point")
    return np.asarray(ragged_reduce("mean", start, values[index]))


def spread_moves(geo: Geo, what: str, moves: Floats) -> Geo:
    """Return the geometry moved by ``moves (N, 3)`` of its points, faces or pieces.

    A point between faces that move apart goes by the mean of their moves, and that is said.
    """
    at = points_of_unit(geo, what, moves)
    if what == "faces":
        start, index = incident(geo, "face", "point")
        apart = np.abs(moves[index] - np.repeat(at, np.diff(start), axis=0)).max(initial=0.0)
        if apart > 1e-9 * max(float(np.abs(moves).max(initial=0.0)), 1e-300):
            warn("Faces share points, so they were bent instead of moved as wholes; put unshare before this.")
    return geo.with_positions(geo.positions + at)
