"""Values on whole arrays: shapes, zeros of a type, rows, names that are read."""

import numpy as np
import pytest

from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.values import blank, dtype_of, locals_read, shape_of, take
from tests.core.language.programs.checked import named, program


@pytest.mark.parametrize(
    ("type", "shape", "dtype"),
    [
        ("number", (), np.float64),
        ("integer", (), np.int64),
        ("flag", (), np.bool_),
        ("vec3", (3,), np.float64),
        ("mat3", (3, 3), np.float64),
        ("mat4", (4, 4), np.float64),
        ("point@", (), np.int64),
    ],
)
def test_zeros_of_every_type(type: str, shape: tuple[int, ...], dtype: type) -> None:
    one = named(type)
    assert shape_of(one) == shape
    assert dtype_of(one) == dtype
    made = blank(one, 5)
    assert made.shape == (5, *shape)
    assert made.dtype == dtype
    assert not made.any()


def test_rows_of_arrays_and_of_lists() -> None:
    rows = np.array([2, 0])
    assert take(np.array([1, 2, 3]), rows).tolist() == [3, 1]
    lists = Lists.ragged(np.array([0, 1, 3, 3]), np.array([7, 8, 9]))
    start, values = take(lists, rows).content
    assert (start.tolist(), values.tolist()) == ([0, 0, 1], [7])


def test_names_that_an_expression_reads() -> None:
    made = program("a = 1\nb = [2]\nhere.c = a + sum([k + a for k in b])")
    assert {"a", "b"} <= locals_read(made.body[2].value)  # type: ignore[attr-defined]
