"""Lists: what they hold, how they are made from others, and as one value."""

import pytest

from reticula.core.errors import FormulaError
from tests.core.language.programs.checked import agreed, expression, named, program, refused


@pytest.mark.parametrize(
    ("text", "type"),
    [
        ("[1, 2]", "[integer]"),
        ("[1, 0.5]", "[number]"),
        ("here.neighbours", "[point@]"),
        ("here.neighbours.position", "[vec3]"),
        ("here.neighbours.position.y", "[number]"),
        ("[n.cover * 2 for n in here.neighbours]", "[number]"),
        ("[n for n in here.neighbours if n.cover > 0.5]", "[point@]"),
        ("range(3)", "[integer]"),
        ("[1] + [2]", "[integer]"),
        ("mean(here.neighbours.position)", "vec3"),
        ("sum([1, 2])", "integer"),
        ("sum([0.5])", "number"),
        ("any(here.faces.crest)", "flag"),
        ("median([1, 2])", "number"),
    ],
)
def test_types(text: str, type: str) -> None:
    made = program(f"a = {text}").locals["a"]
    assert made == named(type)


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("[1, 'x']", "a list holds values of one type, not an integer and a text"),
        ("range(0.5)", "with whole numbers"),
        ("range()", "write range(end)"),
        ("[x for x in 3]", "'for' runs over a list, not an integer"),
        ("[x for x in []]", "this list is empty, so there is nothing to do"),
        ("[x for x in range(3) if x]", "after 'if' a yes or no is wanted, not an integer"),
        ("any(here.neighbours.cover)", "any takes flags, not a number"),
        ("mean(here.neighbours)", "mean takes numbers or vectors, not a point"),
        ("[1] + 2", "this gives a list of values"),
        ("[1] + [0.5]", "lists of different types cannot be joined"),
        ("[a for a in range(2) for b in range(3)]", "one 'for' and one 'if'"),
    ],
)
def test_what_is_no_list_is_said(text: str, message: str) -> None:
    assert message in refused(f"a = {text}").plain


def test_a_formula_gives_one_value_not_a_list() -> None:
    with pytest.raises(FormulaError, match="list"):
        expression("here.neighbours.cover + 1")


def test_the_name_in_a_list_hides_one_outside_only_there() -> None:
    made = agreed("k = 5\na = [k * 2 for k in range(3)]\nhere.k = k\nhere.s = sum(a)")
    assert (made.attribute("point", "k") == 5).all()
    assert (made.attribute("point", "s") == 6).all()
