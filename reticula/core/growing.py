"""Arrays that grow while kernels fill them."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.jit import inline

__all__ = ["with_room"]


@inline
def with_room(rows: AnyArray, needed: int) -> AnyArray:
    """Return the same rows in an array of at least ``needed``: itself, or one at least twice as long."""
    if needed <= len(rows):
        return rows
    more = max(len(rows), needed - len(rows))
    return np.concatenate((rows, np.empty((more,) + rows.shape[1:], rows.dtype)))
