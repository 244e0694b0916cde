"""The dab that an element lies deepest in, beside all pairs."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.operators.shared.strokes import dabs as module
from reticula.core.operators.shared.strokes.dabs import nearest_dab

ORIGIN = Geo.of([[0, 0, 0.0]])


@pytest.mark.parametrize("most", [4_000_000, 50])
@pytest.mark.parametrize("even", [True, False])
def test_the_deepest_dab_counts(even: bool, most: int, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_PAIRS", most)
    rng = np.random.default_rng(5)
    middles, dabs = rng.random((300, 3)), rng.random((40, 3))
    radius = np.full(40, 0.2) if even else rng.uniform(0.02, 0.3, 40)
    deep = 1.0 - np.linalg.norm(middles[:, None] - dabs, axis=2) / radius
    number, depth = nearest_dab(ORIGIN, middles, dabs, radius)
    expected = np.where(deep.max(axis=1) >= 0, deep.argmax(axis=1), -1)
    assert number.tolist() == expected.tolist()
    np.testing.assert_allclose(depth, np.maximum(deep.max(axis=1), 0.0), atol=1e-12)


def test_nothing_to_paint() -> None:
    number, depth = nearest_dab(ORIGIN, np.zeros((0, 3)), np.zeros((2, 3)), np.array([1.0, 2.0]))
    assert len(number) == len(depth) == 0
