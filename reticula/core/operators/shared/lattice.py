"""Quads between the points of a lattice: what most starting shapes are made of."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.jit import parallel_kernel, prange

__all__ = ["lattice_places", "lattice_quads", "lattice_uv"]


def lattice_quads(rows: int, columns: int, *, wrap_rows: bool = False, wrap_columns: bool = False) -> Indices:
    """Return the quads ``(F, 4)`` between ``rows`` x ``columns`` points numbered row by row.

    Each quad is (r, c), (r, c+1), (r+1, c+1), (r+1, c). A wrapped direction closes on itself.
    """
    quads = np.empty((rows if wrap_rows else rows - 1, columns if wrap_columns else columns - 1, 4), np.int32)
    _write_quads(quads, rows, columns)
    return quads.reshape(-1, 4)


@parallel_kernel
def _write_quads(quads: Indices, rows: int, columns: int) -> None:
    for r in prange(quads.shape[0]):
        row, after = r * columns, (r + 1) % rows * columns
        for c in range(quads.shape[1]):
            beside = c + 1 if c + 1 < columns else 0
            quad = quads[r, c]
            quad[0], quad[1], quad[2], quad[3] = row + c, row + beside, after + beside, after + c


def lattice_places(across: Floats, a: Floats, along: Floats, b: Floats) -> Floats:
    """Return the points ``a[c] * across + b[r] * along`` of a lattice row by row ``(R * C, 3)``; ``across`` and
    ``along`` are two different axes ``(3,)``, e.g. (1, 0, 0).
    """
    places = np.empty((len(b), len(a), 3))
    _write_places(places, across, a, along, b)
    return places.reshape(-1, 3)


@parallel_kernel
def _write_places(places: Floats, across: Floats, a: Floats, along: Floats, b: Floats) -> None:
    for r in prange(len(b)):
        for c in range(len(a)):
            for k in range(3):
                places[r, c, k] = a[c] if across[k] != 0.0 else b[r] if along[k] != 0.0 else 0.0


def lattice_uv(rows: int, columns: int) -> Floats:
    """Return texture places of the corners of ``rows`` x ``columns`` quads ``(4 * rows * columns, 2)`` in 0..1."""
    corner = np.empty((rows, columns, 8))
    _write_uv(corner)
    return corner.reshape(-1, 2)


@parallel_kernel
def _write_uv(corner: Floats) -> None:
    rows, columns = corner.shape[:2]
    for r in prange(rows):
        below, above = r / rows, (r + 1) / rows
        for c in range(columns):
            left, right = c / columns, (c + 1) / columns
            quad = corner[r, c]
            quad[0], quad[1], quad[2], quad[3] = left, below, right, below
            quad[4], quad[5], quad[6], quad[7] = right, above, left, above
