"""What the parts of the checker share: conversions that lose nothing, types joined, names that are not there."""

import pytest

from reticula.core.language import ir
from reticula.core.language.typecheck.environment import as_vector, convert, join_types, may_change
from reticula.core.language.types import NUMBER, TEXT, VEC3
from tests.core.language.programs.checked import expression, named, program, refused

AT = (1, 1, 1)


def constant(type: str, value: object = 1) -> ir.Constant:
    return ir.Constant(named(type), AT, value)


@pytest.mark.parametrize(
    ("given", "wanted", "possible"),
    [
        ("integer", "number", True),
        ("number", "integer", False),
        ("number", "vec3", True),
        ("integer", "vec2", True),
        ("vec3", "vec4", True),
        ("vec4", "vec3", False),
        ("vec2", "vec3", False),
        ("flag", "number", False),
        ("text", "text", True),
    ],
)
def test_only_what_loses_nothing_is_converted(given: str, wanted: str, possible: bool) -> None:
    made = convert(constant(given), named(wanted))
    assert (made is not None) == possible
    assert made is None or str(made.type) == wanted


@pytest.mark.parametrize(
    ("a", "b", "both"),
    [
        ("integer", "number", "number"),
        ("number", "vec3", "vec3"),
        ("vec3", "vec4", "vec4"),
        ("vec2", "vec3", None),
        ("flag", "integer", None),
        ("[?]", "[number]", "[number]"),
        ("[integer]", "[number]", None),
    ],
)
def test_two_types_have_one_that_takes_both_or_none(a: str, b: str, both: str | None) -> None:
    wanted = named(both) if both else None
    assert join_types(named(a), named(b)) == wanted == join_types(named(b), named(a))


def test_two_to_four_numbers_in_brackets_are_a_vector() -> None:
    assert expression("[1, 2, 3]").type is VEC3
    listing = ir.Listing(named("[integer]"), AT, (constant("integer"),) * 3)
    assert as_vector(listing).type is VEC3
    long = ir.Listing(named("[integer]"), AT, (constant("integer"),) * 5)
    assert as_vector(long) is long


def test_what_may_change_between_two_lines() -> None:
    assert may_change(ir.Local(NUMBER, AT, "a"))
    assert not may_change(expression("cover * 2 + dot(position, normal)"))
    assert may_change(expression("cover * 2"), ["cover"])


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("here.a = covr", "there is no 'covr' on points; near it are cover"),
        ("here.a = reef", "'reef' is a geometry; ask it something"),
        ("here.a = mean", "'mean'"),
        ("here.a = sqrt", "'sqrt' is a function: write sqrt(x)"),
        ("here.a = crest", "'crest' belongs to each face, and this runs on each point"),
        ("here.a = 99999999999999999999", "this whole number is too large"),
        ("here.a = 1e999", "this number is too large"),
    ],
)
def test_what_is_not_there_says_what_is(text: str, message: str) -> None:
    assert message in refused("reef: geometry\n" + text).plain


def test_names_come_before_attributes() -> None:
    made = program("cover = 'mine'\nhere.a = cover")
    assert made.locals["cover"] is TEXT
    assert made.writes == {"a": TEXT}
