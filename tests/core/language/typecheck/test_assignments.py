"""What gets a value: local names that widen, attributes of this and of other elements, items and components."""

import pytest

from reticula.core.language.types import INTEGER, NUMBER
from tests.core.language.programs.checked import agreed, program, refused


@pytest.mark.parametrize(
    ("text", "types"),
    [
        ("a = 1", {"a": "integer"}),
        ("a = 1\na = 0.5", {"a": "number"}),
        ("a = 1\na = position", {"a": "vec3"}),
        ("a, b = 1, 'x'", {"a": "integer", "b": "text"}),
        ("a, b, c = position", {"a": "number", "b": "number", "c": "number"}),
        ("a = b = cover", {"a": "number", "b": "number"}),
        ("a = []\na.append(0.5)", {"a": "[number]"}),
    ],
)
def test_names_have_the_type_that_takes_all_their_values(text: str, types: dict[str, str]) -> None:
    found = program(text).locals
    assert {name: str(found[name]) for name in types} == types


@pytest.mark.parametrize(
    ("text", "writes"),
    [
        ("here.n = 1", {"n": "integer"}),
        ("here.n = 1\nhere.n += 0.5", {"n": "number"}),
        ("here.position.y = 1", {"position": "vec3"}),
        ("here.tint = (1, 0, 0)", {"tint": "vec3"}),
        ("here.list = here.neighbours.cover", {"list": "[number]"}),
    ],
)
def test_attributes_have_the_type_of_what_is_written(text: str, writes: dict[str, str]) -> None:
    assert {name: str(type) for name, type in program(text).writes.items()} == writes


def test_values_given_to_others_are_set_or_added() -> None:
    made = program("for p in here.neighbours:\n    p.a = 1\n    p.b += cover")
    assert made.adds == {("point", "a", False): INTEGER, ("point", "b", True): NUMBER}


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("pi = 3", "'pi' is the name of a function or constant"),
        ("here = 1", "'here' has a meaning of its own"),
        ("a = 1\na = True", "'a' is an integer and cannot become a flag"),
        ("a, b = here.neighbours", "a list has no fixed length; name its items"),
        ("a, b = position", "2 names cannot take a vec3"),
        ("here.position.xx = 1", "has no component '.xx' to set"),
        ("here.position.w = 1", "has no component '.w' to set"),
        ("here.position.xy = position", "'.xy' takes a vec2, not a vec3"),
        ("a = [1]\na[0.5] = 1", "the number in [ ] is whole"),
        ("a = [1]\na[0] = 'x'", "cannot take a text"),
        ("for p in here.neighbours:\n    p.a *= 2", "other elements take '=' and '+=', not '*='"),
        ("for p in here.neighbours:\n    p.a += 'x'", "'+=' adds numbers and vectors, not a text"),
        ("here.border = True", "'border' follows from the order and the faces"),
        ("reef: geometry\nreef.points[0].a = 1", "only the one that the script runs on can be written"),
    ],
)
def test_what_cannot_get_a_value_says_why(text: str, message: str) -> None:
    assert message in refused(text).plain


def test_side_by_side_all_values_are_worked_out_first() -> None:
    made = agreed("a, b = 1, 2\na, b = b, a\nhere.a = a\nhere.b = b")
    assert (made.attribute("point", "a") == 2).all()
    assert (made.attribute("point", "b") == 1).all()
