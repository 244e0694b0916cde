"""Arrays of other libraries as attributes."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.exchange.shared import library, with_values


def test_a_missing_library_is_named_with_what_to_do() -> None:
    with pytest.raises(FormatError, match="this needs nothing_like_it; install it with: pip install nothing_like_it"):
        library("nothing_like_it.inner")


def test_values_take_the_nearest_type_that_we_have(notes: list[Note]) -> None:
    values = {
        "a": np.arange(8, dtype=np.uint16),
        "b": np.zeros((8, 1), np.float32),
        "c": np.zeros((8, 3), np.int32),
        "class": np.ones(8, bool),
        "words": np.array(["x"] * 8, object),
        "too wide": np.zeros((8, 7)),
        "too few": np.zeros(3),
    }
    geo = with_values(ops.box(), "point", values)
    types = {name: found.type for name, found in geo.attributes["point"].items() if name != "position"}
    assert types == {"a": "integer", "b": "number", "c": "vec3", "class_": "flag", "words": "text"}
    assert notes[-1].text == "We have no place for point too wide, point too few; left out."
