"""Noise: range, continuity, zeros, and that nothing depends on the order of points."""

import numpy as np

from reticula.core.language.noise import cellular, gradient_noise

ONE = np.ones(1, np.int64)


def noise(points: np.ndarray, octaves: int = 1) -> np.ndarray:
    return gradient_noise(np.ascontiguousarray(points, dtype=float), np.full(len(points), octaves, np.int64))


def test_whole_coordinates_are_like_any_others(rng: np.random.Generator) -> None:
    """A grid of whole metres is moved by noise as much as one of odd lengths."""
    whole = rng.integers(-50, 50, (5000, 3))
    for octaves in (1, 2, 5):
        anywhere = noise(whole + rng.random((5000, 3)), octaves)
        assert 0.7 < noise(whole, octaves).std() / anywhere.std() < 1.4
        assert abs(noise(whole, octaves).mean()) < 0.05


def test_within_range_and_using_it(rng: np.random.Generator) -> None:
    values = noise(rng.random((200_000, 3)) * 400 - 200)
    assert -1 <= values.min() < -0.8
    assert 0.8 < values.max() <= 1
    assert abs(values.mean()) < 0.01
    assert np.abs(noise(rng.random((50_000, 3)) * 90, 5)).max() <= 1


def test_continuous_across_cells(rng: np.random.Generator) -> None:
    points = np.round(rng.random((1000, 3)) * 9)
    points[:, 1:] += rng.random((1000, 2))
    step = np.array([1e-7, 0, 0])
    assert np.abs(noise(points - step) - noise(points + step)).max() < 1e-5


def test_does_not_repeat_after_256() -> None:
    points = np.random.default_rng(1).random((100, 3))
    assert not np.allclose(noise(points), noise(points + 256))


def test_cells_are_exact_distances(rng: np.random.Generator) -> None:
    """Lipschitz: the distance to a set changes by no more than the step; and it is 0 somewhere in every cell."""
    points = rng.random((2000, 3)) * 20
    step = rng.normal(size=(2000, 3)) * 0.05
    assert (np.abs(cellular(points + step) - cellular(points)) <= np.linalg.norm(step, axis=1) + 1e-12).all()
    fine = np.stack(np.meshgrid(*[np.linspace(3, 4, 60)] * 3), axis=-1).reshape(-1, 3)
    assert cellular(fine).min() < 0.03
