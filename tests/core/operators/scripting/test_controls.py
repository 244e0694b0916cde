"""Controls of a script as parameters: their kinds and ranges, values that do not fit, formulas in them."""

from typing import Any

import pytest

from reticula.core import ops
from reticula.core.errors import ParameterError
from reticula.core.operators import OPERATORS
from reticula.core.operators.scripting.controls import declared_or_none, parameter_of

TEXT = """reach: number(0, 2, unit="m", help="how far") = 0.5
rounds: integer(1, 9) = 2
free: number = 3
way: choice("up", "out") = "out"
tint: color = (1, 0.5, 0)
here.position.y = reach
"""


def shown() -> dict[str, Any]:
    known = declared_or_none(TEXT)
    assert known is not None
    return {control.name: parameter_of(control) for control in known.controls}


def test_a_broken_text_declares_nothing() -> None:
    assert declared_or_none("reach: number(0, ") is None
    assert declared_or_none("reach: nubmer(0, 1) = 0") is None


def test_ranges_bound_what_is_typed_and_what_is_dragged() -> None:
    reach, free = shown()["reach"].describe(), shown()["free"].describe()
    assert (reach["low"], reach["high"], reach["soft"], reach["step"]) == (0, 2, [0, 2], 0.01)
    assert free["soft"] == [-1, 1], "a control without a range is dragged near 0 and takes any number"
    assert shown()["free"].check(1e9) == 1e9


def test_help_is_the_text_s_or_says_where_it_is_declared() -> None:
    assert shown()["reach"].help == "how far"
    assert shown()["rounds"].help == "declared in the script, line 2"


@pytest.mark.parametrize(
    ("values", "message"),
    [
        ({"reach": 3}, "3 is outside of 0 to 2; set it anew or put it back to its default"),
        ({"way": "down"}, "takes one of up, out"),
        ({"rounds": 1.5}, "takes a whole number"),
        ({"tint": [1, 0]}, "takes 4 numbers"),
    ],
)
def test_a_value_that_no_longer_fits_is_said(values: dict[str, Any], message: str) -> None:
    with pytest.raises(ParameterError, match=message):
        ops.script(ops.grid(), source=TEXT, controls=values)


def test_a_value_is_used_and_a_formula_is_worked_out() -> None:
    assert ops.script(ops.grid(), source=TEXT, controls={"reach": 1.5}).positions[0, 1] == 1.5
    doubled = ops.script(ops.grid(), source=TEXT, controls={"reach": {"formula": "0.5 * 2"}})
    assert doubled.positions[0, 1] == 1.0


@pytest.mark.parametrize("given", [3, "reach", [1], {1: 2}, {"reach": object()}])
def test_values_come_by_name_and_are_plain(given: Any) -> None:
    with pytest.raises(ParameterError, match=r"takes (plain )?values by name"):
        OPERATORS["script"].check({"controls": given})


def test_names_in_formulas_and_in_the_text_are_known() -> None:
    code, controls = (next(p for p in OPERATORS["script"].parameters if p.name == n) for n in ("source", "controls"))
    assert "reach" in code.reads(TEXT)
    assert controls.reads({"reach": {"formula": "height * 2"}, "rounds": 3}) == {"height"}
