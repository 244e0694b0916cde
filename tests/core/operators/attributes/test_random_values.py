"""Random values: give every element a random value that stays when other elements are added or removed."""

import numpy as np
import pytest
from scipy.stats import kstest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


def made(geo: Geo, **parameters: object) -> np.ndarray:
    return ops.random_values(geo, **parameters).attribute("point", "variation")


def test_uniform_and_normal_fit_their_distributions(sheet: Geo, notes: list[Note]) -> None:
    assert kstest(made(sheet, low=2, high=5), "uniform", (2, 3)).pvalue > 0.01
    assert kstest(made(sheet, values="normal", mean=3, deviation=0.5), "norm", (3, 0.5)).pvalue > 0.01
    assert notes[0].text.startswith("Values are 2")


def test_integers_and_choices(sheet: Geo) -> None:
    whole = made(sheet, values="integer", low=-1, high=2)
    assert whole.dtype == np.int64
    assert set(np.unique(whole)) == {-1, 0, 1, 2}
    words = made(sheet, values="choice", choices="sand rock", weights="3 1")
    assert 0.68 < (words == "sand").mean() < 0.82
    assert set(np.unique(made(sheet, values="choice", choices="1 4 9"))) == {1, 4, 9}
    assert made(sheet, values="choice", choices="0.5 2").dtype == np.float64
    with pytest.raises(ParameterError, match="give 2 numbers"):
        made(sheet, values="choice", choices="a b", weights="1")
    with pytest.raises(ParameterError, match="not a number"):
        made(sheet, values="choice", choices="a b", weights="1 x")


def test_directions_and_colours(sheet: Geo) -> None:
    ways = made(sheet, values="unit vector")
    np.testing.assert_allclose(np.linalg.norm(ways, axis=1), 1.0)
    assert np.abs(ways.mean(axis=0)).max() < 0.06
    colors = made(sheet, values="color")
    assert colors.shape[1] == 4
    assert (colors[:, 3] == 1).all()
    assert colors.min() >= 0
    assert colors.max() <= 1


def test_values_stay_when_elements_are_added() -> None:
    few, many = ops.grid(cells=(9, 4)), ops.grid(cells=(9, 7))
    assert (made(few) == made(many)[: len(made(few))]).all()
    assert (made(few) != made(few, seed=1)).any()


def test_pieces_and_labels_share_a_value() -> None:
    two = ops.join(ops.grid(cells=(2, 2)), ops.transform(ops.grid(cells=(2, 2)), move=(3, 0, 0)))
    value = made(two, per="piece")
    assert len(np.unique(value)) == 2
    words = two.with_attribute("point", "use", np.array(["a", "b"] * 9))
    assert len(np.unique(made(words, per="use"))) == 2
    with pytest.raises(ParameterError, match="a label is"):
        made(two, per="normal")
