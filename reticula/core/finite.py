"""Whether numbers are finite, in one pass on all cores."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Ints, as_readonly
from reticula.core.jit import parallel_kernel, prange

__all__ = ["all_finite"]

MANY = 1 << 16
"""Numbers from which on more than one core is worth it."""
EXPONENT = 0x7FF0 << 48
"""The bits of a double that are all set in what is no finite number (IEEE 754)."""


def all_finite(values: AnyArray) -> bool:
    """Return whether ``values``, of any shape and type, hold neither NaN nor an infinity."""
    if values.dtype.kind != "f":
        return True
    if values.dtype != np.float64 or values.size < MANY or not values.flags.c_contiguous:
        return bool(np.isfinite(values).all())
    return bool(_not_finite(as_readonly(values.reshape(-1).view(np.int64))) == 0)


@parallel_kernel
def _not_finite(bits: Ints) -> int:
    count = 0
    for i in prange(len(bits)):
        count += (bits[i] & EXPONENT) == EXPONENT
    return count
