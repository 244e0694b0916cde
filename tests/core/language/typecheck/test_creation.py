"""What makes and removes elements: types, and what is refused."""

import pytest

from tests.core.language.programs.checked import agreed, named, program, refused


@pytest.mark.parametrize(
    ("text", "type"),
    [
        ("a = add_point(position)", "point@"),
        ("a = add_point((1, 2, 3), here)", "point@"),
        ("a = add_curve([here, add_point(position)], True)", "curve@"),
        ("a = add_face([here, here, here])", "face@"),
    ],
)
def test_what_is_made_is_an_element_of_this_geometry(text: str, type: str) -> None:
    assert program(text).locals["a"] == named(type)


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("add_point(cover)", "a point is made at a vec3, not a number; write add_point((x, y, z))"),
        ("add_point(position, 3)", "'like' is a point of this geometry, not an integer"),
        ("add_curve([])", "this list of points is always empty"),
        ("add_curve([position])", "make points of places with add_point"),
        ("add_curve([here], 1)", "'closed' is True or False"),
        ("add_segments(position)", "add_segments takes a list of points, not a vec3"),
        ("remove(position)", "remove takes one point, edge, face or curve"),
    ],
)
def test_what_cannot_be_made_says_why(text: str, message: str) -> None:
    assert message in refused(text).plain


def test_segments_are_a_curve_for_each_two_neighbours() -> None:
    made = agreed("if index == 0:\n    add_segments([here, add_point(position), add_point(position)])")
    assert made.counts["curves"] == 2
    assert made.topology.curve_start.tolist() == [0, 2, 4]
