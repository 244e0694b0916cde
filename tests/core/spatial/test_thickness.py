"""How thick a mesh is, seen from its faces."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.spatial.thickness import thickness


@pytest.mark.parametrize("height", [0.1, 0.5])
def test_a_slab_is_as_thick_as_it_is_high(height: float) -> None:
    slab = ops.box(size=(4, height, 4), cells=(8, 1, 8))
    middle = (np.abs(slab.positions[:, [0, 2]]) < 1.9).all(axis=1)
    assert np.allclose(thickness(slab)[middle], height)


def test_an_open_sheet_has_no_other_side() -> None:
    assert (thickness(ops.grid(cells=(3, 3))) == -1).all()
    assert len(thickness(Geo.empty())) == 0
