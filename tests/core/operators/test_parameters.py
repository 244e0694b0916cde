"""Each kind of parameter: what it takes, what it refuses and why, what it tells the interface."""

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import ParameterError
from reticula.core.operators import OPERATORS, Input, operator
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


@pytest.mark.parametrize("parameter", KINDS_OF, ids=lambda p: type(p).__name__)
def test_default_is_valid_and_described(parameter: Parameter) -> None:
    assert parameter.check(parameter.default) == parameter.default
    told = parameter.describe()
    assert told["name"] == parameter.name
    assert told["help"] == "help"
    assert told["widget"]


@pytest.mark.parametrize(
    ("name", "given", "stored"),
    [
        ("n", 2, 2.0),
        ("n", np.float64(3), 3.0),
        ("n", "a * 2", {"formula": "a * 2"}),
        ("n", {"formula": "a"}, {"formula": "a"}),
        ("i", 4.0, 4),
        ("v", (1, 2), [1.0, 2.0]),
        ("v", np.array([3.0, 4.0]), [3.0, 4.0]),
        ("v", "vec2(1)", {"formula": "vec2(1)"}),
        ("t", np.bool_(False), False),
        ("c", "b", "b"),
        ("kind", "point", "point"),
        ("g", " crest ", "crest"),
        ("a", "höhe_2", "höhe_2"),
        ("names", "a,  b*", "a b*"),
        ("s", "reef.obj", "reef.obj"),
        ("where", {"formula": "x > 1"}, "x > 1"),
        ("w", "area", {"formula": "area"}),
    ],
)
def test_values_have_one_stored_form(name: str, given: Any, stored: Any) -> None:
    checked = BY_NAME[name].check(given)
    assert checked == stored
    assert type(checked) is type(stored)
    assert BY_NAME[name].check(checked) == stored, "checking twice changes nothing"


@pytest.mark.parametrize(
    ("name", "given", "message"),
    [
        ("n", 11, "11 is outside of 0 to 10"),
        ("n", None, "takes a number, not None"),
        ("n", True, "takes a number, not True"),
        ("n", float("inf"), "takes a finite number"),
        ("n", {"formula": 3}, "a formula is a text"),
        ("n", {"text": "a"}, "takes a number"),
        ("i", 0, "0 is outside of 1"),
        ("i", 2.5, "takes a whole number, not 2.5"),
        ("v", [1], "takes 2 numbers"),
        ("v", [1, -2], "-2 is outside"),
        ("v", 3, "takes 2 numbers, not 3"),
        ("t", "yes", "takes yes or no"),
        ("c", "z", "takes one of a, b, not 'z'"),
        ("kind", "edge", "takes one of point, face"),
        ("g", "here", "'here' has a meaning of its own"),
        ("g", "a b", "'a b' is not a name"),
        ("g", "", "'' is not a name"),
        ("a", 3, "takes a name, not 3"),
        ("a", "x" * 65, "is not a name"),
        ("names", "  ", "takes at least one name"),
        ("s", "a\0b", "takes the name of a shape"),
        ("where", 3, "takes a group name or a formula as text"),
        ("w", -2, "-2 is outside of -1"),
        ("d", [1, 2], "takes 3 numbers"),
    ],
)
def test_what_does_not_fit_is_refused_in_words(name: str, given: Any, message: str) -> None:
    with pytest.raises(ParameterError) as caught:
        BY_NAME[name].check(given)
    assert str(caught.value).startswith(f"{name}: ")
    assert message in str(caught.value)
    assert caught.value.details()["parameter"] == name


def resolved(name: str, value: Any, geo: Geo | None = None, **dials: Any) -> Any:
    parameter = BY_NAME[name]
    return parameter.resolve(parameter.check(value), Context({"geo": geo or ops.grid(cells=(2, 1))}, dials, {}))


def test_formulas_are_resolved_with_dials_and_checked_again() -> None:
    assert resolved("n", "height * 2", height=1.5) == 3.0
    assert resolved("i", "4 // 2") == 2
    assert resolved("v", "vec2(height, 1)", height=7) == [7.0, 1.0]
    for name, formula, message in (
        ("n", "height * 20", "30 is outside of 0 to 10"),
        ("i", "1.5", "a integer is wanted"),
        ("n", "size", "there is no 'size'"),
    ):
        with pytest.raises(ParameterError, match=message):
            resolved(name, formula, height=1.5)


def test_where_and_varying_are_resolved_on_every_element() -> None:
    assert resolved("where", "").tolist() == [True, True]
    assert resolved("where", "index == 1").tolist() == [False, True]
    assert resolved("w", "index + 0.5").tolist() == [0.5, 1.5]
    assert resolved("w", 2).tolist() == [2, 2]
    assert resolved("d", [0, 0, 1]).shape == (6, 3)
    with pytest.raises(ParameterError, match="w: gives -2 at face 0; -1 is the least"):
        resolved("w", "-2 + index")


def test_what_a_formula_reads_is_known() -> None:
    assert BY_NAME["n"].reads({"formula": "height * sin(width)"}) == {"height", "width", "sin"}
    assert BY_NAME["n"].reads(3.0) == frozenset()
    assert BY_NAME["where"].reads("crest and x > 1") == {"crest", "x"}
    assert BY_NAME["where"].reads("((") == frozenset()


def test_a_declaration_that_does_not_fit_its_function_fails_at_import() -> None:
    with pytest.raises(TypeError, match="declared parameters differ"):
        operator("wrong", family="test", carries="-", parameters=(KINDS_OF[0],))(lambda geo: geo)
    with pytest.raises(TypeError, match="grid is declared twice"):
        operator("grid", family="test", carries="-", parameters=())(lambda geo: geo)


def test_an_operator_is_one_declaration() -> None:
    def lift(geo: Geo, *, distance: np.ndarray) -> Geo:
        """Lift points.

        Straight up.
        """
        return geo.with_positions(geo.positions + np.outer(distance, [0, 1, 0]))

    operator(
        "test_lift",
        family="test",
        carries="Carries all.",
        parameters=(PerElement("distance", 1.0, "how far", on="point"),),
    )(lift)
    try:
        assert ops.test_lift(ops.grid(), distance="2 * fraction").bounds[1][1] == 2
        told = OPERATORS["test_lift"].describe()
        assert (told["summary"], told["description"]) == ("Lift points", "Straight up.")
        assert told["inputs"] == [{"name": "geo", "help": Input().help, "many": False, "optional": False}]
    finally:
        del OPERATORS["test_lift"]
