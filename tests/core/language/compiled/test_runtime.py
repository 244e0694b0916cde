"""What generated code calls: numbers as NumPy has them, lists with their ends, matrices beside linalg."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.language import matrix_kernels
from reticula.core.language.compiled import runtime
from reticula.core.language.compiled.runtime import Halt

NUMBERS = st.floats(-1e6, 1e6)


def err() -> np.ndarray:
    return np.zeros(5, np.int64)


@given(NUMBERS, NUMBERS)
def test_remainder_and_quotient_are_numpy_s(a: float, b: float) -> None:
    with np.errstate(all="ignore"):
        np.testing.assert_array_equal(runtime.remainder(a, b), np.mod(a, b))
        np.testing.assert_array_equal(runtime.whole_quotient(a, b), np.floor_divide(a, b))


@given(st.integers(-(2**62), 2**62), st.integers(-1000, 1000).filter(bool))
def test_whole_division_is_python_s(a: int, b: int) -> None:
    assert runtime.divided(a, b, err(), 0) == a // b
    assert runtime.rest(a, b, err(), 0) == a % b


def test_division_by_zero_halts_with_its_place() -> None:
    found = err()
    with pytest.raises(Halt):
        runtime.divided(1, 0, found, 7)
    assert found[:2].tolist() == [runtime.DIVISION, 7]


@given(st.integers(-50, 50), st.integers(-50, 50), st.integers(-7, 7).filter(bool))
def test_spans_are_python_s_ranges(begin: int, end: int, step: int) -> None:
    assert runtime.span_count(begin, end, step, err(), 0) == len(range(begin, end, step))


@pytest.mark.parametrize(("index", "number"), [(0, 0), (2, 2), (-1, 2), (-3, 0)])
def test_items_count_from_either_end(index: int, number: int) -> None:
    assert runtime.item_number(index, 3, err(), 0) == number


@pytest.mark.parametrize("index", [3, -4])
def test_an_item_beyond_the_end_halts(index: int) -> None:
    with pytest.raises(Halt):
        runtime.item_number(index, 3, err(), 0)


@given(st.lists(NUMBERS, max_size=9))
def test_median(values: list[float]) -> None:
    items = np.array([*values, 99.0])
    expected = np.median(values) if values else 0.0
    assert runtime.median_of(items, len(values)) == pytest.approx(expected)


@pytest.mark.parametrize("x", [-1.5, 0.5, 2.5, np.inf, -np.inf, np.nan, 1e30])
def test_whole_numbers_of_anything(x: float) -> None:
    found = runtime.whole_of(x)
    assert found == (int(np.clip(x, -(2.0**62), 2.0**62)) if np.isfinite(x) else 0)


@pytest.mark.parametrize(
    ("size", "inverse", "determinant"), [(3, "inverse3", "determinant3"), (4, "inverse4", "determinant4")]
)
def test_matrices_are_linalg_s(size: int, inverse: str, determinant: str, rng: np.random.Generator) -> None:
    m = rng.normal(size=(size, size))
    assert getattr(matrix_kernels, determinant)(*m.reshape(-1)) == pytest.approx(np.linalg.det(m))
    assert getattr(matrix_kernels, inverse)(*m.reshape(-1)) == pytest.approx(np.linalg.inv(m).reshape(-1))
    assert getattr(matrix_kernels, inverse)(*np.zeros(size * size)) == (0.0,) * size * size


def test_a_full_log_halts() -> None:
    made = np.array([0, 1])
    assert runtime.record(made, 1, 2, err()) == 1
    found = err()
    with pytest.raises(Halt):
        runtime.record(made, 1, 2, found)
    assert found[0] == runtime.FULL


def test_room_grows_and_keeps_what_it_held() -> None:
    room = np.arange(4.0)
    assert runtime.grown(room, 3, err(), 0) is room
    larger = runtime.grown(room, 4, err(), 0)
    assert len(larger) > 4
    assert larger[:4].tolist() == [0, 1, 2, 3]
