"""Values between USD and attributes."""

import numpy as np
import pytest

from reticula.core.formats.usd.values import array_of, as_attribute, name_for, primvar_type
from reticula.core.geometry import TYPES
from tests.core.formats.shared.samples import values_of


@pytest.mark.parametrize("type", TYPES)
def test_every_type_comes_back_or_is_refused(type: str, rng: np.random.Generator) -> None:
    found = values_of(type, 5, rng)
    if found.start is not None:
        assert primvar_type(found) is None
        return
    back = as_attribute(array_of(found))
    assert back is not None
    assert back.type == type
    assert np.array_equal(back.values, found.values)


def test_what_we_have_no_type_for_is_none() -> None:
    assert as_attribute(None) is None
    assert as_attribute(np.zeros((2, 7))) is None


def test_names_are_made_valid() -> None:
    assert name_for("heat") == "heat"
    assert name_for("two words") == "two_words"
