"""Which elements belong to which, and values moved along that."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.errors import GeometryError
from reticula.core.geometry import KINDS, Attribute
from reticula.core.geometry.mesh.incidence import convert_attribute, convert_flags, incident, ragged_reduce

FREE = [kind for kind in KINDS if kind != "instance"]


def pairs(start: np.ndarray, item: np.ndarray) -> set[tuple[int, int]]:
    owner = np.repeat(np.arange(len(start) - 1), np.diff(start))
    return {*zip(owner.tolist(), np.asarray(item).tolist(), strict=True)}


@pytest.mark.parametrize("kind", FREE)
@pytest.mark.parametrize("to", FREE)
def test_belonging_goes_both_ways(mixed: Geo, kind: str, to: str) -> None:
    there, back = incident(mixed, kind, to), incident(mixed, to, kind)  # type: ignore[arg-type]
    assert pairs(*there) == {(b, a) for a, b in pairs(*back)}


def test_instances_share_nothing_with_elements(mixed: Geo) -> None:
    with pytest.raises(GeometryError, match="flatten them first"):
        incident(mixed, "instance", "point")


@pytest.mark.parametrize(
    ("how", "expected"), [("sum", [3, 0, 5]), ("mean", [1.5, 0, 5]), ("max", [2, 0, 5]), ("min", [1, 0, 5])]
)
def test_rows_are_reduced_and_empty_ones_give_nothing(how: str, expected: list[float]) -> None:
    assert ragged_reduce(how, np.array([0, 2, 2, 3]), np.array([1.0, 2.0, 5.0])).tolist() == expected


def test_all_of_nothing_is_yes_but_no_element_is_marked_by_nothing(mixed: Geo) -> None:
    assert ragged_reduce("all", np.array([0, 0]), np.zeros(0, bool)).tolist() == [True]
    marked = convert_flags(mixed, "face", "point", np.ones(3, bool), "all")
    assert not marked[8], "the loose point belongs to no face"
    assert marked[0]


def test_the_most_frequent_value_and_the_first_of_equals(mixed: Geo) -> None:
    names = Attribute.of(np.array(["a", "b", "b", "c", "c", "a", "a", "b", "x"]))
    moved = convert_attribute(mixed, "point", "face", names, "mode")
    assert moved.values.tolist() == ["b", "b", "b"]
    with pytest.raises(GeometryError, match="'any' takes flags"):
        convert_attribute(mixed, "point", "face", names, "any")
