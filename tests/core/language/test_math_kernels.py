"""Functions of numbers are NumPy's but for the last bit, and the same bits wherever they are asked."""

import numpy as np
import pytest

from reticula.core import Geo, run_script
from reticula.core.language.math_kernels import ONE, folded, of_one, of_two, power

X = np.random.default_rng(1).uniform(0.05, 0.95, (300, 3))


@pytest.mark.parametrize("name", ONE)
def test_functions_of_one_number(name: str) -> None:
    at = X + 1 if name == "arccosh" else X
    np.testing.assert_allclose(of_one(name)(at), getattr(np, name)(at), rtol=1e-14)


@pytest.mark.parametrize(("name", "numpy"), [("power", np.power), ("atan2", np.arctan2), ("hypot", np.hypot)])
def test_functions_of_two_numbers_and_broadcasting(name: str, numpy: np.ufunc) -> None:
    np.testing.assert_allclose(of_two(name)(X, X[:1] * 3), numpy(X, X[:1] * 3), rtol=1e-14)


@pytest.mark.parametrize("text", ["b ** 0.5", "8 ** b", "4 ** b", "2 ** b", "b ** -1", "b ** 3", "10 ** b", "b ** 2"])
def test_powers_that_the_compiler_knows_are_no_others(text: str) -> None:
    geo = Geo.of(X, b=X[:, 0])
    made = [run_script(geo, f"here.r = {text}", backend=way).attribute("point", "r") for way in ("vector", "compiled")]
    assert (made[0] == made[1]).all()
    assert made[0][7] == power(*(float(part) if part != "b" else X[7, 0] for part in text.split(" ** ")))


def test_sums_go_from_the_first_to_the_last() -> None:
    values = np.array([[1e16], [1.0], [-1e16], [1.0], [5.0]])
    assert folded(np.array([0, 4, 4, 5]), values).tolist() == [[1.0], [0.0], [5.0]]
