"""Typed statements and programs: what a text becomes."""

import dataclasses

import pytest

from reticula.core.language import ir
from reticula.core.language.ir import statements
from tests.core.language.programs.checked import program

EVERY = [
    getattr(statements, name)
    for name in statements.__all__
    if name not in ("Statement", "StatementNode", "Routine", "Program")
]


@pytest.mark.parametrize("kind", EVERY, ids=lambda kind: kind.__name__)
def test_every_one_knows_its_place_and_cannot_be_changed(kind: type) -> None:
    assert issubclass(kind, ir.StatementNode)
    assert kind.__doc__
    assert "place" in {entry.name for entry in dataclasses.fields(kind)}
    assert kind.__dataclass_params__.frozen  # type: ignore[attr-defined]


def test_a_text_becomes_its_statements_in_order() -> None:
    made = program(
        "a = 1\n"
        "here.b = a\n"
        "if border:\n    print(a)\nelse:\n    remove(here)\n"
        "for n in here.neighbours:\n    n.c += 1\n    continue\n"
        "while a < 3:\n    a += 1\n    break\n"
    )
    assert [type(part) for part in made.body] == [ir.Assign, ir.Write, ir.If, ir.For, ir.While]
    choice, loop, repeat = made.body[2:]
    assert isinstance(choice, ir.If)
    assert [type(part) for part in (*choice.body, *choice.otherwise)] == [ir.Print, ir.Remove]
    assert isinstance(loop, ir.For)
    assert [type(part) for part in loop.body] == [ir.Add, ir.Continue]
    assert isinstance(repeat, ir.While)
    assert [type(part) for part in repeat.body] == [ir.Assign, ir.Break]


def test_places_are_lines_and_columns_from_one() -> None:
    made = program("a = 1\nif border:\n    here.b = a")
    assert made.body[0].place[:2] == (1, 1)
    choice = made.body[1]
    assert isinstance(choice, ir.If)
    assert choice.body[0].place[:2] == (3, 5)
