"""Quads between the points of a lattice: what most starting shapes are made of."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices

__all__ = ["lattice_quads", "lattice_uv"]


def lattice_quads(rows: int, columns: int, *, wrap_rows: bool = False, wrap_columns: bool = False) -> Indices:
    """Return the quads ``(F, 4)`` between ``rows`` x ``columns`` points numbered row by row.

    Each quad is (r, c), (r, c+1), (r+1, c+1), (r+1, c). A wrapped direction closes on itself.
    """
    r = np.arange(rows if wrap_rows else rows - 1)[:, None]
    c = np.arange(columns if wrap_columns else columns - 1)[None, :]
    r2, c2 = (r + 1) % rows, (c + 1) % columns
    quads = np.stack(
        np.broadcast_arrays(r * columns + c, r * columns + c2, r2 * columns + c2, r2 * columns + c), axis=-1
    )
    return quads.reshape(-1, 4).astype(np.int32)


def lattice_uv(rows: int, columns: int) -> Floats:
    """Return texture places of the corners of ``rows`` x ``columns`` quads ``(4 * rows * columns, 2)`` in 0..1."""
    r, c = np.meshgrid(np.arange(rows), np.arange(columns), indexing="ij")
    corner: AnyArray = np.stack(
        [np.stack([c + dc, r + dr], axis=-1) for dr, dc in ((0, 0), (0, 1), (1, 1), (1, 0))], axis=2
    )
    return corner.reshape(-1, 2) / np.array([columns, rows], np.float64)
