"""The one place that meets the compiler: typed wrappers around Numba's ``njit``.

Kernels are kept on disk beside their source (``cache=True``); ``python -m reticula.core.precompile`` builds them all at
set-up so that the first click is as fast as the second. Parallel kernels only gather (each output element is
written by one iteration), so results do not depend on the number of threads.

Numba itself is imported when the first kernel is called: declaring a kernel costs next to nothing.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from types import CodeType, FunctionType
from typing import TYPE_CHECKING, Any, TypeVar, cast

if TYPE_CHECKING:
    from numba import prange
else:

    class prange:  # noqa: N801 (it stands for Numba's own, which kernels find in its place when they are compiled)
        """A range whose iterations are spread over all cores."""

        def __new__(cls, *limits: int) -> range:
            return range(*limits)


__all__ = ["BLOCKS", "inline", "inline_making", "inline_unkept", "intrinsic", "kernel", "parallel_kernel", "prange"]

Function = TypeVar("Function", bound=Callable[..., Any])
Wrap = Callable[[FunctionType], Any]
BLOCKS = 64
"""A parallel loop whose iterations need room to work in is taken in so many parts, each with room of its own."""
_lock = threading.RLock()


class Kernel:
    """A function that is handed to the compiler when it is first called, or when a kernel that calls it is."""

    def __init__(self, function: FunctionType, wrap: Wrap) -> None:
        self.__name__, self.__doc__ = function.__name__, function.__doc__
        self.__module__, self.__wrapped__ = function.__module__, function
        self._wrap = wrap
        self._begun: Any = None
        self._ready: Any = None

    def ready(self) -> Any:
        """Return Numba's object for the function."""
        if self._ready is None:
            with _lock:
                if self._begun is not None:
                    return self._begun  # what it calls calls it again
                self._begun = self._wrap(self.__wrapped__)
                resolve(self.__wrapped__)
                self._ready = self._begun
        return self._ready

    def __call__(self, *arguments: Any) -> Any:
        return (self._ready or self.ready())(*arguments)

    def __getattr__(self, name: str) -> Any:
        if name.startswith("__"):
            raise AttributeError(name)
        return getattr(self.ready(), name)


def resolve(function: FunctionType) -> None:
    """Put Numba's objects in the place of the kernels, and of ``prange``, that a function reads."""
    around = function.__globals__
    for name in _names(function.__code__):
        if name in around:
            around[name] = _resolved(around[name])
    for cell in function.__closure__ or ():
        cell.cell_contents = _resolved(cell.cell_contents)


def _names(code: CodeType) -> set[str]:
    inner = [_names(one) for one in code.co_consts if isinstance(one, CodeType)]
    return set(code.co_names).union(*inner)


def _resolved(value: Any) -> Any:
    if isinstance(value, Kernel):
        return value.ready()
    if value is prange:
        import numba

        return numba.prange
    return value


def _compiled(**options: Any) -> Wrap:
    def wrap(function: FunctionType) -> Any:
        import numba

        return numba.njit(**{"cache": True, "nogil": True, "_nrt": True, **options})(function)

    return wrap


def _written_in_the_compilers_terms(function: FunctionType) -> Any:
    import numba.extending

    return numba.extending.intrinsic(function)


def kernel(function: Function) -> Function:
    """Compile a serial kernel."""
    return cast(Function, Kernel(cast(FunctionType, function), _compiled()))


def parallel_kernel(function: Function) -> Function:
    """Compile a kernel whose ``prange`` loops run on all cores."""
    return cast(Function, Kernel(cast(FunctionType, function), _compiled(parallel=True)))


def inline(function: Function) -> Function:
    """Compile a small function that other kernels call; errors become IEEE results, as in NumPy.

    It reads and writes arrays that it is given, and neither makes nor returns any: nobody counts references in it,
    which would take longer than what most of them do (two atomic steps for each array of each tuple).
    """
    return cast(Function, Kernel(cast(FunctionType, function), _compiled(error_model="numpy", _nrt=False)))


def inline_making(function: Function) -> Function:
    """Compile like :func:`inline` what makes arrays, returns some, or calls what returns some."""
    return cast(Function, Kernel(cast(FunctionType, function), _compiled(error_model="numpy")))


def inline_unkept(function: Function) -> Function:
    """Compile like :func:`inline_making`, but keep nothing on disk: functions that call themselves cannot be kept."""
    return cast(Function, Kernel(cast(FunctionType, function), _compiled(error_model="numpy", cache=False)))


def intrinsic(function: Function) -> Function:
    """Take a function that writes code for the compiler: it gets types, and gives a signature and a code generator."""
    return cast(Function, Kernel(cast(FunctionType, function), _written_in_the_compilers_terms))
