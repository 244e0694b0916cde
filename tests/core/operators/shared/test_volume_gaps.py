"""Points in a volume that keep a distance and leave no room for another one, beside places thrown at random."""

import numpy as np
import pytest
from scipy.spatial import cKDTree

from reticula.core import Geo, ops
from reticula.core.operators.shared.volume_gaps import filled_volume
from reticula.core.spatial.winding import winding_numbers
from tests.helpers import bumpy

NOTHING = np.zeros((0, 3))


@pytest.mark.parametrize(
    ("geo", "spacing"),
    [(ops.box(), 0.2), (bumpy(1), 0.3), (ops.sweep(ops.circle(segments=24), radius=0.08), 0.07), (ops.box(), 5.0)],
    ids=["box", "ball", "ring", "one point"],
)
def test_no_room_is_left(geo: Geo, spacing: float) -> None:
    first = filled_volume(geo, NOTHING, spacing, 1)[:3]
    made = filled_volume(geo, first, spacing, 2)
    assert made[: len(first)].tolist() == first.tolist()
    assert (winding_numbers(geo, made) > 0.5).all()
    if len(made) > 1:
        assert cKDTree(made).query(made, 2)[0][:, 1].min() >= spacing
    thrown = np.random.default_rng(9).uniform(*geo.bounds, (20_000, 3))
    thrown = thrown[winding_numbers(geo, thrown) > 0.5]
    assert len(thrown) > 500
    assert (cKDTree(made).query(thrown)[0] < spacing).all()


def test_the_operator_leaves_none_either() -> None:
    box = ops.box()
    made = ops.scatter_in_volume(box, amount="spacing", spacing=0.15).positions
    thrown = np.random.default_rng(4).uniform(-0.5, 0.5, (20_000, 3))
    assert (cKDTree(made).query(thrown)[0] < 0.15).all()
