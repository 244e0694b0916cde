"""Which way closed parts look, by what lies around them."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.operators.shared.facing import find_orientation


def nested() -> Geo:
    """Three boxes in each other; the outermost and the innermost look inwards."""
    sizes = ((3, True), (2, False), (1, True))
    return ops.join(
        *(ops.reverse(ops.box(size=(n, n, n))) if turned else ops.box(size=(n, n, n)) for n, turned in sizes)
    )


@pytest.mark.parametrize(
    ("closed", "turned"),
    [
        ("outwards", [True, False, True]),
        ("outermost outwards", [True, False, False]),
        ("hollows inwards", [True, True, True]),
        ("most", [False, False, False]),
    ],
)
def test_boxes_in_boxes(closed: str, turned: list[bool]) -> None:
    found = find_orientation(nested(), np.ones(18, bool), closed, None)
    assert found.turned.reshape(3, 6).all(axis=1).tolist() == turned
    assert found.regions == 3
    assert found.torn == 0
