"""Quads between the points of a lattice: what most starting shapes are made of."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Indices

__all__ = ["lattice_quads", "lattice_uv"]


def lattice_quads(rows: int, columns: int, *, wrap_rows: bool = False, wrap_columns: bool = False) -> Indices:
    """Return the quads ``(F, 4)`` between ``rows`` x ``columns`` points numbered row by row.

    Each quad is (r, c), (r, c+1), (r+1, c+1), (r+1, c). A wrapped direction closes on itself.
    """
    r = np.arange(rows if wrap_rows else rows - 1)
    c = np.arange(columns if wrap_columns else columns - 1)
    row, row_after = (part.astype(np.int32)[:, None] for part in (r * columns, (r + 1) % rows * columns))
    column, column_after = (part.astype(np.int32) for part in (c, (c + 1) % columns))
    quads = np.empty((len(r), len(c), 4), np.int32)
    np.add(row, column, out=quads[..., 0])
    np.add(row, column_after, out=quads[..., 1])
    np.add(row_after, column_after, out=quads[..., 2])
    np.add(row_after, column, out=quads[..., 3])
    return quads.reshape(-1, 4)


def lattice_uv(rows: int, columns: int) -> Floats:
    """Return texture places of the corners of ``rows`` x ``columns`` quads ``(4 * rows * columns, 2)`` in 0..1."""
    u, v = np.arange(columns + 1) / columns, np.arange(rows + 1) / rows
    corner = np.empty((rows, columns, 4, 2))
    corner[..., 0, 0] = corner[..., 3, 0] = u[:-1]
    corner[..., 1, 0] = corner[..., 2, 0] = u[1:]
    corner[..., 0, 1] = corner[..., 1, 1] = v[:-1, None]
    corner[..., 2, 1] = corner[..., 3, 1] = v[1:, None]
    return corner.reshape(-1, 2)
