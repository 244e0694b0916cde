"""Typed expressions: equal by what they say and not by where it stands, and fit to be keys."""

import dataclasses

import pytest

from reticula.core.language import ir
from reticula.core.language.ir import expressions
from reticula.core.language.types import INTEGER, NUMBER

EVERY = [getattr(expressions, name) for name in expressions.__all__ if name not in ("Expression", "ExpressionNode")]


@pytest.mark.parametrize("kind", EVERY, ids=lambda kind: kind.__name__)
def test_every_one_is_frozen_and_has_a_type_and_a_place(kind: type) -> None:
    assert issubclass(kind, ir.ExpressionNode)
    assert kind.__doc__
    assert [entry.name for entry in dataclasses.fields(kind)][:2] == ["type", "place"]
    assert kind.__dataclass_params__.frozen  # type: ignore[attr-defined]


def test_the_place_is_no_part_of_what_is_said() -> None:
    first = ir.Read(NUMBER, (1, 1, 5), "point", "cover")
    again = ir.Read(NUMBER, (7, 3, 5), "point", "cover")
    assert first == again
    assert {first: "asked"}[again] == "asked"
    assert first != ir.Read(NUMBER, (1, 1, 5), "face", "cover")


def test_a_constant_of_another_type_is_another_one() -> None:
    assert ir.Constant(INTEGER, (1, 1, 1), 1) != ir.Constant(NUMBER, (1, 1, 1), 1.0)
