"""The closest place: its attributes, and how far one looks."""

import numpy as np

from reticula.core import Geo
from tests.core.language.questions.asking import value


def test_places_know_their_attributes(sheet: Geo, ball: Geo) -> None:
    at = value("ball.closest(position).position", sheet, ball)
    np.testing.assert_allclose(
        value("ball.closest(position).distance", sheet, ball), np.linalg.norm(at - sheet.positions, axis=1)
    )
    np.testing.assert_allclose(value("ball.closest(position).heat", sheet, ball), at[:, 0] * 2, atol=1e-12)
    face = value("ball.closest(position).face", sheet, ball)
    np.testing.assert_array_equal(value("ball.closest(position).zone", sheet, ball), face % 3)
    normal = value("ball.closest(position).normal", sheet, ball)
    np.testing.assert_allclose(np.linalg.norm(normal, axis=1), 1.0)


def test_nothing_found_is_minus_one_and_no(sheet: Geo, ball: Geo) -> None:
    found = value("ball.closest(position, 0.3).found", sheet, ball)
    far = value("ball.closest(position, 0.3).distance", sheet, ball)
    assert found.any()
    assert not found.all()
    assert (far[~found] == -1).all()
    assert (far[found] <= 0.3).all()
    assert (value("ball.closest(position, 0.3).position", sheet, ball)[~found] == 0).all()


def test_a_reach_may_vary(sheet: Geo, ball: Geo) -> None:
    found = value("ball.closest(position, 0.6 if position.x > 0 else 0.25).found", sheet, ball)
    far = value("ball.closest(position).distance", sheet, ball)
    np.testing.assert_array_equal(found, far <= np.where(sheet.positions[:, 0] > 0, 0.6, 0.25))
