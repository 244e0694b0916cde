"""Places read from files: numbers with which lengths can be worked out."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.errors import FormatError

__all__ = ["FARTHEST", "check_places"]

FARTHEST = 1e100
"""In m. Beyond, products of three lengths are infinite."""


def check_places(positions: Floats, where: Callable[[int], Mapping[str, int]] = lambda row: {}) -> None:
    """Raise FormatError for the first of ``positions (N, 3)`` that is not finite or beyond ``FARTHEST``; ``where`` says
    the line or byte of a row.
    """
    # The lowest and highest are found faster than a flag for each; a NaN among them is neither below nor above.
    if not positions.size or (positions.min() >= -FARTHEST and positions.max() <= FARTHEST):
        return
    with np.errstate(invalid="ignore"):
        good = (np.abs(positions) <= FARTHEST).all(axis=1)
    row = int(np.flatnonzero(~good)[0])
    value = next(float(one) for one in positions[row] if not abs(one) <= FARTHEST)
    why = "is not a finite number" if not np.isfinite(value) else f"is farther out than {FARTHEST:g} m"
    raise FormatError(f"the place of vertex {row:,} holds {value:g}, which {why}; mend or remove it", **where(row))
