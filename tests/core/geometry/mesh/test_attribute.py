"""Attributes: one value of one type for every element."""

import numpy as np
import pytest

from reticula.core.errors import GeometryError
from reticula.core.geometry import Attribute


def test_values_cannot_be_written_to_and_the_type_is_guessed() -> None:
    made = Attribute.of(np.array([[1.0, 2.0, 3.0]]))
    assert made.type == "vec3"
    with pytest.raises(ValueError, match="read-only"):
        made.values[0, 0] = 4.0


def test_an_element_without_a_source_receives_the_default() -> None:
    scale = Attribute.of(np.array([2.0, 3.0]), default=1.0)
    assert scale.take(np.array([1, -1])).values.tolist() == [3.0, 1.0]
    assert scale.fill == 1.0


def test_texts_of_different_lengths_are_put_together_whole() -> None:
    both = Attribute.concatenate([Attribute.of(np.array(["a"])), Attribute.of(np.array(["crown of the reef"]))])
    assert both.values.tolist() == ["a", "crown of the reef"]


@pytest.mark.parametrize(
    ("values", "type"), [(np.zeros((2, 3)), "vec2"), (np.zeros((2, 2)), "flag"), ([1], "nonsense")]
)
def test_what_does_not_fit_is_refused(values: object, type: str) -> None:
    with pytest.raises(GeometryError):
        Attribute.of(values, type)
