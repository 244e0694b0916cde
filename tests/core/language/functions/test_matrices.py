"""Matrices beside NumPy, and rotations beside Rodrigues' formula."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.language import evaluate
from tests.core.language.studio import sheet

RNG = np.random.default_rng(3)
A, B = RNG.normal(size=(2, 49, 3, 3))
M = RNG.normal(size=(49, 4, 4))
GEO = (
    sheet()
    .with_attribute("point", "a", A)
    .with_attribute("point", "b", B)
    .with_attribute("point", "m", M)
    .with_attribute("point", "v", RNG.normal(size=(49, 3)))
)
V = GEO.attribute("point", "v")


def found(text: str) -> np.ndarray:
    return evaluate(text, GEO, "point").array


def test_products() -> None:
    assert found("a * b") == pytest.approx(A @ B)
    assert found("a * v") == pytest.approx(np.einsum("nij,nj->ni", A, V))
    assert found("transpose(a) * v") == pytest.approx(np.einsum("nji,nj->ni", A, V))


def test_determinants_and_inverses() -> None:
    assert found("determinant(a)") == pytest.approx(np.linalg.det(A))
    assert found("determinant(m)") == pytest.approx(np.linalg.det(M))
    assert found("inverse(a)") == pytest.approx(np.linalg.inv(A))
    assert found("inverse(m) * m") == pytest.approx(np.tile(np.eye(4), (49, 1, 1)), abs=1e-8)


def test_rows_are_written_in_order() -> None:
    assert found("mat3((1, 2, 3), (4, 5, 6), (7, 8, 9))")[0].tolist() == [[1, 2, 3], [4, 5, 6], [7, 8, 9]]


def test_places_are_shifted_and_directions_are_not() -> None:
    assert found("transform_point(m, v)") == pytest.approx(np.einsum("nij,nj->ni", M[:, :3, :3], V) + M[:, :3, 3])
    assert found("transform_direction(m, v)") == pytest.approx(np.einsum("nij,nj->ni", M[:, :3, :3], V))


@given(st.floats(-7, 7), st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda a: np.linalg.norm(a) > 0.1))
def test_turning_is_rodrigues_formula(angle: float, axis: tuple[float, float, float]) -> None:
    k = np.array(axis) / np.linalg.norm(axis)
    turned = np.cos(angle) * V + np.sin(angle) * np.cross(k, V) + (1 - np.cos(angle)) * np.outer(V @ k, k)
    made = evaluate("turn(axis, angle) * v", GEO, "point", dials={"axis": axis, "angle": angle}).array
    assert made == pytest.approx(turned)
