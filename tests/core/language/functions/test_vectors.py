"""Vectors beside NumPy; reflection and refraction by the laws of optics."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.language.functions.check import value

VECTOR = st.tuples(*[st.floats(-10, 10)] * 3)
LONG = VECTOR.filter(lambda v: np.linalg.norm(v) > 0.1)


@given(VECTOR, VECTOR)
def test_products_and_lengths(a: tuple[float, ...], b: tuple[float, ...]) -> None:
    assert value("dot(a, b)", a=a, b=b) == pytest.approx(np.dot(a, b), abs=1e-9)
    assert value("cross(a, b)", a=a, b=b) == pytest.approx(np.cross(a, b), abs=1e-9)
    assert value("length(a)", a=a) == pytest.approx(np.linalg.norm(a))
    assert value("distance(a, b)", a=a, b=b) == pytest.approx(np.linalg.norm(np.subtract(a, b)))


@given(LONG)
def test_unit_vectors(a: tuple[float, ...]) -> None:
    assert value("length(normalize(a))", a=a) == pytest.approx(1)
    assert value("normalize((0.0, 0.0, 0.0))").tolist() == [0, 0, 0], "no direction stays none"


@given(LONG, LONG)
def test_a_reflection_keeps_its_length_and_turns_at_the_plane(v: tuple[float, ...], n: tuple[float, ...]) -> None:
    unit = np.array(n) / np.linalg.norm(n)
    made = value("reflect(v, n)", v=v, n=tuple(unit))
    assert np.linalg.norm(made) == pytest.approx(np.linalg.norm(v))
    assert made @ unit == pytest.approx(-(np.array(v) @ unit), abs=1e-9)


@given(st.floats(0.05, 1.5), st.floats(0.3, 0.99))
def test_refraction_follows_snell_s_law(angle: float, ratio: float) -> None:
    """sin(out) = ratio * sin(in)."""
    into = (np.sin(angle), -np.cos(angle), 0.0)
    made = value("refract(v, (0.0, 1.0, 0.0), ratio)", v=into, ratio=ratio)
    assert np.linalg.norm(made) == pytest.approx(1)
    assert made[0] == pytest.approx(ratio * np.sin(angle))


def test_what_cannot_be_refracted_is_nothing() -> None:
    assert value("refract(normalize((1.0, -0.1)), (0.0, 1.0), 1.5)").tolist() == [0, 0]


@given(VECTOR, LONG, st.floats(-7, 7))
def test_a_rotation_keeps_length_and_height_over_its_axis(v: tuple[float, ...], k: tuple[float, ...], t: float) -> None:
    made = value("rotate(v, k, t)", v=v, k=k, t=t)
    assert np.linalg.norm(made) == pytest.approx(np.linalg.norm(v))
    assert made @ k == pytest.approx(np.dot(v, k), abs=1e-7)
    assert value("rotate(rotate(v, k, t), k, -t)", v=v, k=k, t=t) == pytest.approx(v, abs=1e-7)


def test_normals_turned_to_the_viewer() -> None:
    assert value("faceforward((0, 1), (0, 1), (0, 1))").tolist() == [0, -1]
    assert value("faceforward((0, 1), (0, -1), (0, 1))").tolist() == [0, 1]
