"""One parameter of each kind, and how a value of it is resolved on a small sheet."""

from typing import Any

import pytest

from reticula.core import Geo, ops
from reticula.core.errors import ParameterError
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    Context,
    GroupName,
    Integer,
    KindChoice,
    Names,
    Number,
    Parameter,
    PerElement,
    Selection,
    Shape,
    Toggle,
    Vector,
)

KINDS_OF: list[Parameter] = [
    Number("n", 0.5, "help", unit="m", soft=(0, 2), low=0, high=10),
    Integer("i", 3, "help", low=1),
    Vector("v", [1.0, 2.0], "help", low=0),
    Toggle("t", True, "help"),
    Choice("c", "a", "help", options={"a": "first", "b": "second"}),
    KindChoice.of(("point", "face"), "face", "help"),
    GroupName("g", "top", "help", kind="face"),
    AttributeName("a", "heat", "help", new=True),
    Names("names", "*", "help"),
    Shape("s", "", "help"),
    Selection.each("face", "help"),
    PerElement("w", 0.1, "help", on="face", low=-1),
    PerElement("d", [0.0, 1.0, 0.0], "help", on="point", type="vec3"),
]
BY_NAME = {parameter.name: parameter for parameter in KINDS_OF}


def resolved(name: str, value: Any, geo: Geo | None = None, **dials: Any) -> Any:
    parameter = BY_NAME[name]
    return parameter.resolve(parameter.check(value), Context({"geo": geo or ops.grid(cells=(2, 1))}, dials, {}))


def assert_stored(name: str, given: Any, stored: Any) -> None:
    """A value has one stored form, of one type, whichever way it was given."""
    checked = BY_NAME[name].check(given)
    assert checked == stored
    assert type(checked) is type(stored)
    assert BY_NAME[name].check(checked) == stored, "checking twice changes nothing"


def assert_refused(name: str, given: Any, message: str) -> None:
    """What does not fit is an error that names the parameter and says why."""
    with pytest.raises(ParameterError) as caught:
        BY_NAME[name].check(given)
    assert str(caught.value).startswith(f"{name}: ")
    assert message in str(caught.value)
    assert caught.value.details()["parameter"] == name
