"""Velocity, acceleration and way from frames beside their closed forms.

Uniform motion, uniform circular motion (v = ω r, a = ω² r) and free fall are those of any textbook of mechanics, e.g.
R. A. Serway and J. W. Jewett, Physics for Scientists and Engineers, chapters 2 and 4. The orders of the schemes, and
the central difference of a circle, sin(ωh)/h, follow from Taylor's theorem: R. L. Burden and J. D. Faires, Numerical
Analysis, section 4.1. Numbers of chapters from memory.
"""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core.geometry import Geo
from tests.core.graph.building import node
from tests.core.operators.time.moving import at, moved, velocity_of

RATE = 10.0
OMEGA, RADIUS = 1.7, 0.8
ROUND = f"vec3({RADIUS} * cos({OMEGA} * time), 0, {RADIUS} * sin({OMEGA} * time)) - position"


def told(by: str, frame: float, **asked: object) -> Geo:
    return at(moved(by, last=node("motion", "moved", acceleration="acceleration", **asked)), frame)


@pytest.mark.parametrize("scheme", ["central", "backward"])
def test_uniform_motion_is_exact(scheme: str) -> None:
    made = told("vec3(2 * time, -3 * time, 0.5 * time)", 7, scheme=scheme)
    np.testing.assert_allclose(velocity_of(made), np.tile([2, -3, 0.5], (8, 1)), atol=1e-12)
    np.testing.assert_allclose(made.attribute("point", "acceleration"), 0.0, atol=1e-10)


def test_free_fall_is_exact_by_central_differences() -> None:
    made = told("vec3(0, -9.81 / 2 * time * time, 0)", 7)
    np.testing.assert_allclose(velocity_of(made)[:, 1], -9.81 * 7 / RATE, rtol=1e-10)
    np.testing.assert_allclose(made.attribute("point", "acceleration")[:, 1], -9.81, rtol=1e-9)


def test_free_fall_by_backward_differences_is_half_a_frame_late() -> None:
    made = told("vec3(0, -9.81 / 2 * time * time, 0)", 7, scheme="backward")
    np.testing.assert_allclose(velocity_of(made)[:, 1], -9.81 * 6.5 / RATE, rtol=1e-10)
    np.testing.assert_allclose(made.attribute("point", "acceleration")[:, 1], -9.81, rtol=1e-9)


@pytest.mark.parametrize("apart", [1.0, 0.5, 0.25])
def test_circular_motion_is_that_of_its_difference(apart: float) -> None:
    made = told(ROUND, 7, apart=apart)
    h = apart / RATE
    speed = RADIUS * np.sin(OMEGA * h) / h
    np.testing.assert_allclose(made.attribute("point", "speed"), speed, rtol=1e-10)
    bent = 2 * RADIUS * (1 - np.cos(OMEGA * h)) / h**2
    np.testing.assert_allclose(np.linalg.norm(made.attribute("point", "acceleration"), axis=1), bent, rtol=1e-8)


@pytest.mark.parametrize(("scheme", "order"), [("central", 2), ("backward", 1)])
def test_circular_motion_converges_with_the_order_of_the_scheme(scheme: str, order: int) -> None:
    angle = OMEGA * 7 / RATE
    exact = OMEGA * RADIUS * np.array([-np.sin(angle), 0, np.cos(angle)])
    errors = [
        np.linalg.norm(velocity_of(told(ROUND, 7, scheme=scheme, apart=apart))[0] - exact) for apart in (1.0, 0.5, 0.25)
    ]
    orders = np.log2(np.divide(errors[:-1], errors[1:]))
    np.testing.assert_allclose(orders, order, atol=0.1)


def test_the_way_around_a_circle_is_that_of_its_polygon() -> None:
    made = told(ROUND, 30, path_length="way", since=10)
    chord = 2 * RADIUS * np.sin(OMEGA / RATE / 2)
    np.testing.assert_allclose(made.attribute("point", "way"), 20 * chord, rtol=1e-10)
