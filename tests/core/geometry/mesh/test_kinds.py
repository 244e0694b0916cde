"""Element kinds and attribute types."""

import numpy as np
import pytest

from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh.kinds import BLENDED, TYPES, guess_type, type_info, well_known_default


@pytest.mark.parametrize("name", [name for name, info in TYPES.items() if not info.is_list])
def test_the_type_of_an_array_is_found_again(name: str) -> None:
    info = TYPES[name]
    values = np.zeros((2, *info.shape)).astype("U1" if name == "text" else info.dtype)
    assert guess_type(values) == name


def test_what_is_blended_is_made_of_numbers_with_fractions() -> None:
    assert BLENDED == ("number", "vec2", "vec3", "vec4", "mat3", "mat4")


def test_an_unknown_type_names_those_that_exist() -> None:
    with pytest.raises(GeometryError, match="the types are number, integer, flag"):
        type_info("quaternion")


def test_well_known_names_do_not_turn_black_or_vanish() -> None:
    assert well_known_default("color", "vec4") == [1, 1, 1, 1]
    assert well_known_default("scale", "number") == 1
    assert well_known_default("heat", "number") is None
