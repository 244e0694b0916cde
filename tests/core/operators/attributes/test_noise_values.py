"""Noise values: give every element the value of a noise at its place."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.language import evaluate


def test_noise_is_the_language_s_noise(sheet: Geo) -> None:
    got = ops.noise_values(sheet, frequency=3.0, octaves=2, offset=(0.1, 0, 0)).attribute("point", "rough")
    wanted = evaluate("noise((position - vec3(0.1, 0, 0)) * 3, 2)", sheet, "point").array
    np.testing.assert_allclose(got, wanted)
    cells = ops.noise_values(sheet, noise="cell distance", frequency=5).attribute("point", "rough")
    np.testing.assert_allclose(cells, evaluate("cells(position * 5)", sheet, "point").array)
    label = ops.noise_values(sheet, noise="cell label", frequency=5).attribute("point", "rough")
    assert 15 < len(np.unique(label)) < 80
    assert ops.noise_values(sheet, noise="vector").attribute("point", "rough").shape[1] == 3


def test_noise_seeds_and_ranges(sheet: Geo) -> None:
    a, b = (ops.noise_values(sheet, seed=seed).attribute("point", "rough") for seed in (0, 1))
    assert abs(np.corrcoef(a, b)[0, 1]) < 0.3
    scaled = ops.noise_values(sheet, rescale=True, low=10, high=20).attribute("point", "rough")
    np.testing.assert_allclose(scaled, 15 + 5 * a)
