"""Connected parts."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry.measure.components import (
    face_component_sizes,
    face_components,
    point_component_sizes,
    point_components,
)


def test_parts_are_numbered_in_order_and_sized() -> None:
    geo = ops.join(ops.box(), ops.transform(ops.grid(cells=(2, 1)), move=(5, 0, 0)))
    assert face_components(geo).tolist() == [0] * 6 + [1] * 2
    assert np.unique(point_component_sizes(geo)).tolist() == [6, 8]
    assert face_component_sizes(geo).tolist() == [6] * 6 + [2] * 2


def test_curves_join_points_and_loose_ones_stand_alone(mixed: Geo) -> None:
    assert point_components(mixed)[8] != point_components(mixed)[0]
    assert len(np.unique(point_components(mixed)[:8])) == 1
    assert point_components(Geo.empty()).tolist() == []
