"""Kernels: compiled code does what the function says, and parallel ones do it in any number of threads."""

import ast
import importlib
import pkgutil
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any, get_args, get_origin, get_type_hints

import numba
import numpy as np
import pytest
from numba.core.runtime import _nrt_python, rtsys

import reticula.core
from reticula.core.jit import Kernel, inline, inline_making, inline_unkept, kernel, parallel_kernel, prange


def test_a_kernel_is_the_function() -> None:
    @kernel
    def total(values):  # type: ignore[no-untyped-def]
        found = 0.0
        for value in values:
            found += value
        return found

    values = np.linspace(0, 1, 101)
    assert total(values) == pytest.approx(total.py_func(values))  # type: ignore[attr-defined]


def test_kernels_may_call_themselves_and_each_other() -> None:
    @inline_unkept
    def even(n: int) -> bool:
        return n == 0 or odd(n - 1)

    @inline_unkept
    def odd(n: int) -> bool:
        return n != 0 and even(n - 1)

    @inline_unkept
    def factorial(n: int) -> int:
        return 1 if n < 2 else n * factorial(n - 1)

    assert factorial(5) == 120
    even.compile((numba.int64,))  # type: ignore[attr-defined]
    assert len(even.signatures) == 1, "odd was found, and found even in turn"  # type: ignore[attr-defined]


def test_inline_functions_follow_ieee_where_python_would_stop() -> None:
    @inline
    def quotient(a, b):  # type: ignore[no-untyped-def]
        return a / b

    assert np.isinf(quotient(1.0, 0.0))
    assert np.isnan(quotient(0.0, 0.0))


def test_inline_functions_that_make_arrays_give_them_back() -> None:
    """Counted by Numba: as many arrays are freed as were made."""

    @inline_making
    def pair(a):  # type: ignore[no-untyped-def]
        return np.array([a, a + 1.0])

    @inline
    def added(values):  # type: ignore[no-untyped-def]
        return values[0] + values[1]

    @kernel
    def total(count):  # type: ignore[no-untyped-def]
        found = 0.0
        for n in range(count):
            found += added(pair(float(n)))
        return found

    assert total(1000) == 1000.0**2
    _nrt_python.memsys_enable_stats()
    try:
        before = rtsys.get_allocation_stats()
        total(1000)
        after = rtsys.get_allocation_stats()
    finally:
        _nrt_python.memsys_disable_stats()
    assert after.mi_alloc - before.mi_alloc == after.mi_free - before.mi_free == 1000


def test_the_number_of_threads_changes_nothing() -> None:
    @parallel_kernel
    def squares(values):  # type: ignore[no-untyped-def]
        out = np.empty_like(values)
        for i in prange(len(values)):
            out[i] = values[i] * values[i] + 0.1
        return out

    values = np.random.default_rng(1).random(10_001)
    before = numba.get_num_threads()
    try:
        made = []
        for count in (1, before):
            numba.set_num_threads(count)
            made.append(squares(values).tobytes())
    finally:
        numba.set_num_threads(before)
    assert made[0] == made[1]


def declared(decorator: str) -> Iterator[tuple[str, Any, ast.FunctionDef]]:
    """Every function of the core that is declared so: its module, the kernel and its source."""
    for found in pkgutil.walk_packages(reticula.core.__path__, "reticula.core."):
        module = importlib.import_module(found.name)
        path = Path(module.__file__ or "")
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef) and decorator in map(ast.unparse, node.decorator_list):
                yield found.name, getattr(module, node.name), node


def holds_arrays(of: Any) -> bool:
    if isinstance(of, type) and issubclass(of, tuple) and hasattr(of, "__annotations__"):
        return any(map(holds_arrays, get_type_hints(of).values()))
    if get_origin(of) is np.ndarray or of is np.ndarray:
        return True
    return any(holds_arrays(part) for part in get_args(of) if part is not ...)


MAKES_ARRAYS = {"empty", "zeros", "ones", "full", "arange", "array", "copy", "cross", "concatenate", "sum", "astype"}


def test_inline_functions_neither_make_nor_return_arrays() -> None:
    """Nobody counts references in them: an array that one returned would be freed too early, or never."""
    seen = 0
    for module, kernel_, node in declared("inline"):
        seen += 1
        returned = get_type_hints(kernel_.__wrapped__)["return"]
        assert not holds_arrays(returned), f"{module}.{node.name} returns arrays: it is an inline_making"
        calls = [one.func for one in ast.walk(node) if isinstance(one, ast.Call)]
        called = {one.attr for one in calls if isinstance(one, ast.Attribute)}
        assert not called & MAKES_ARRAYS, f"{module}.{node.name} makes arrays: it is an inline_making"
        for name in (one.id for one in calls if isinstance(one, ast.Name)):
            callee = getattr(sys.modules[module], name, None)
            if isinstance(callee, Kernel):
                gives = get_type_hints(callee.__wrapped__).get("return")
                assert not holds_arrays(gives), f"{module}.{node.name} gets arrays of {name}: it is an inline_making"
    assert seen > 100
