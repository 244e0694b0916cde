"""Dials become parameters: each type by an example, its range, its handle, and a type that is none."""

from typing import Any

import pytest

from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.nesting.dial_types import DIAL_TYPES, parameter_of_dial

EXAMPLES: dict[str, tuple[Any, str]] = {
    "number": (0.5, "number"),
    "integer": (3, "integer"),
    "toggle": (True, "toggle"),
    "vector": ([0.0, 1.0, 0.0], "vector"),
    "color": ([1.0, 0.0, 0.0, 1.0], "color"),
    "choice": ("up", "choice"),
    "text": ("hello", "text"),
    "new name": ("crest", "name"),
    "attribute": ("heat", "name"),
    "names": ("heat uv", "names"),
    "shape": ("reef", "shape"),
    "where": ("index > 2", "where"),
    "varying": (0.2, "varying"),
    "response curve": ([[0.0, 0.0], [1.0, 1.0]], "response curve"),
    "gradient": ([[0.0, 0.0, 0.0, 0.0, 1.0]], "gradient"),
    "picked": (["a1"], "picked"),
    "places": ([[0.0, 0.0, 0.0]], "places"),
    "script": ("here.a = 1", "script"),
}


def made(type: str, **more: Any) -> Any:
    value = EXAMPLES[type][0]
    options = {"options": [{"value": "up", "help": "upwards"}, {"value": "out"}]} if type == "choice" else {}
    return parameter_of_dial("d", {"type": type, "value": value, "help": "what it does", **options, **more})


def test_every_type_is_tried() -> None:
    assert set(EXAMPLES) == set(DIAL_TYPES)


@pytest.mark.parametrize("type", EXAMPLES)
def test_the_value_is_the_default_and_fits(type: str) -> None:
    parameter = made(type)
    value = EXAMPLES[type][0]
    assert parameter.default == value
    assert parameter.check(value) == value
    told = parameter.describe()
    assert (told["name"], told["help"]) == ("d", "what it does")


@pytest.mark.parametrize("type", ["number", "integer"])
def test_ranges_hold(type: str) -> None:
    parameter = made(type, low=0, high=4)
    assert parameter.check(4) == 4
    with pytest.raises(ParameterError, match="5 is outside of 0 to 4"):
        parameter.check(5)


def test_choices_are_those_of_the_dial() -> None:
    with pytest.raises(ParameterError, match="takes one of up, out, not 'down'"):
        made("choice").check("down")


def test_three_metres_are_a_place_and_a_handle_of_its_own_wins() -> None:
    assert made("vector").handle is None
    assert made("vector", unit="m").handle.shape == "place"
    assert made("vector", unit="m", handle={"shape": "direction"}).handle.shape == "direction"


def test_values_on_elements_know_their_kind_and_input() -> None:
    for type in ("where", "varying", "picked"):
        parameter = made(type, on="edge", of="guide")
        assert (parameter.on, parameter.of) == ("edge", "guide")
    assert made("varying", holds="vec3", value=[0, 0, 0]).type == "vec3"


def test_a_type_that_is_none() -> None:
    with pytest.raises(GraphError, match="the dial 'd' has the type 'colour'; there are number, integer"):
        parameter_of_dial("d", {"type": "colour", "value": 1})
