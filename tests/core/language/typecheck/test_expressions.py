"""Expressions: the type of each, and what they refuse."""

import pytest

from reticula.core.errors import FormulaError
from reticula.core.language import ir
from tests.core.language.programs.checked import expression, named


@pytest.mark.parametrize(
    ("text", "type"),
    [
        ("1 + 2", "integer"),
        ("1 / 2", "number"),
        ("1 + 2.0", "number"),
        ("2 * position", "vec3"),
        ("position.xz + 1", "vec2"),
        ("cover > 0 and not border", "flag"),
        ("0 < cover < 1", "flag"),
        ("1 if border else 0.5", "number"),
        ("1 if border else position", "vec3"),
        ("'a' == 'b'", "flag"),
        ("(1, 2)", "vec2"),
        ("(1, 2, 3, 4)", "vec4"),
        ("-cover", "number"),
        ("len(here.neighbours)", "integer"),
        ("random(3)", "number"),
        ("walk(border)", "number"),
        ("turn((0, 1, 0), 1) * position", "vec3"),
    ],
)
def test_types(text: str, type: str) -> None:
    assert expression(text).type == named(type)


def test_a_chain_of_comparisons_holds_where_each_does() -> None:
    made = expression("0 < cover < 1")
    assert isinstance(made, ir.Apply)
    assert made.function.name == "and"


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("(1, 2, 3, 4, 5)", "a vector has 2, 3 or 4 numbers"),
        ("1 if cover else 2", "yes or no is wanted here, not a number; compare it, e.g. cover > 0"),
        ("border if border else 1", "flag"),
        ("position + position.xy", "cannot take"),
        ("sqrt('a')", "sqrt cannot take"),
        ("sqrt(1, 2)", "write sqrt(x)"),
        ("sqrt(here.neighbours.cover)", "this gives a list of values; take one with mean()"),
        ("sqrt(reef.closest(position))", "this gives a place; name what you want of it"),
        ("sqirt(2)", "there is no function 'sqirt'"),
        ("(1)(2)", "only a function's own name can be called"),
        ("sqrt(x=2)", "takes its values in order, without names"),
        ("random(0.5)", "whole number as seed"),
        ("walk(cover)", "walk"),
        ("mean(3)", "mean"),
        ("lambda x: x", ""),
    ],
)
def test_what_does_not_fit_is_said(text: str, message: str) -> None:
    with pytest.raises(FormulaError) as caught:
        expression(text)
    assert message in caught.value.plain


def test_equal_parts_of_a_text_are_equal_whatever_their_place() -> None:
    made = expression("reef.closest(position).distance + reef.closest(position).distance")
    assert isinstance(made, ir.Apply)
    assert made.arguments[0] == made.arguments[1]
