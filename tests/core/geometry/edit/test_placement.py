"""Places: own space, world, and one shape seen from another."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.errors import GeometryError
from reticula.core.geometry.edit.affine import affine_matrix
from reticula.core.geometry.edit.placement import has_place, in_space_of, place_of, to_own_space, to_world

PLACE = affine_matrix([3, 0, 0], [0, 90, 0], [2, 2, 2])


def placed(geo: Geo, matrix: np.ndarray = PLACE) -> Geo:
    return geo.with_attribute("whole", "place", matrix[None], "mat4")


def test_the_world_is_where_the_place_says(cube: Geo) -> None:
    there = to_world(placed(cube))
    assert not has_place(there)
    assert np.allclose(there.bounds, [[1, -2, -2], [5, 2, 2]])
    assert to_world(cube) is cube


def test_seen_from_its_own_space_nothing_moves(cube: Geo) -> None:
    here = placed(cube)
    assert in_space_of(here, here) is here
    other = placed(cube, affine_matrix([0, 7, 0], [30, 0, 0], [1, 1, 1]))
    back = in_space_of(in_space_of(here, other), here)
    assert np.allclose(back.positions, cube.positions)
    assert np.allclose(place_of(back), PLACE)


def test_a_place_in_the_world_is_found_in_own_space(cube: Geo) -> None:
    own = to_own_space(placed(cube), np.array([3.0, 2.0, 0.0]))
    assert np.allclose(own, [0, 1, 0])


def test_a_place_that_squeezes_flat_is_refused(cube: Geo) -> None:
    with pytest.raises(GeometryError, match="squeezes it flat"):
        to_world(placed(cube, np.diag([1.0, 0.0, 1.0, 1.0])))
