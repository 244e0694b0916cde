"""The one place that meets the compiler: typed wrappers around Numba's ``njit``.

Kernels are kept on disk beside their source (``cache=True``); ``python -m reticula.core.precompile`` builds them all at
set-up so that the first click is as fast as the second. Parallel kernels only gather (each output element is
written by one iteration), so results do not depend on the number of threads.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar, cast

from numba import njit, prange

__all__ = ["inline", "kernel", "parallel_kernel", "prange"]

Function = TypeVar("Function", bound=Callable[..., Any])


def kernel(function: Function) -> Function:
    """Compile a serial kernel."""
    return cast(Function, njit(cache=True, nogil=True)(function))


def parallel_kernel(function: Function) -> Function:
    """Compile a kernel whose ``prange`` loops run on all cores."""
    return cast(Function, njit(cache=True, nogil=True, parallel=True)(function))


def inline(function: Function) -> Function:
    """Compile a small function that other kernels call; errors become IEEE results, as in NumPy."""
    return cast(Function, njit(cache=True, nogil=True, error_model="numpy")(function))
