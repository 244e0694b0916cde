"""Group by direction: name elements whose normal lies within an angle of a direction, or looks at a point."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import ParameterError
from tests.core.operators.groups.support import members


def _normals(geo: Geo) -> np.ndarray:
    from reticula.core.geometry.measure.areas import face_normals

    return face_normals(geo)[geo.group("face", "facing")]


def test_direction_and_facing() -> None:
    box = ops.box()
    up = ops.group_by_direction(box, angle=10)
    assert np.allclose(_normals(up), [[0, 1, 0]])
    wide = ops.group_by_direction(box, angle=90)
    assert len(members(wide, "facing")) == 5
    seen = ops.group_by_direction(box, facing="point", point=(0, 0.5, 9), angle=60)
    assert np.allclose(_normals(seen), [[0, 0, 1]])
    target = ops.transform(ops.box(), move=(9, 0, 0))
    assert np.allclose(_normals(ops.group_by_direction(box, target, angle=60)), [[1, 0, 0]])
    with pytest.raises(ParameterError, match="points nowhere"):
        ops.group_by_direction(box, direction=(0, 0, 0))


def test_direction_in_the_world_follows_the_place() -> None:
    lying = ops.set_place(ops.box(), turn=(0, 0, 90))
    own = ops.group_by_direction(lying, direction=(0, 1, 0), angle=5)
    world = ops.group_by_direction(lying, direction=(0, 1, 0), angle=5, given_in="world")
    assert np.allclose(_normals(own), [[0, 1, 0]])
    assert np.allclose(_normals(world), [[1, 0, 0]])
