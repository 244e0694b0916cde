"""Kernels: compiled code does what the function says, and parallel ones do it in any number of threads."""

import numba
import numpy as np
import pytest

from reticula.core.jit import inline, inline_unkept, kernel, parallel_kernel, prange


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
