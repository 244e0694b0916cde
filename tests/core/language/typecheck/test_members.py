"""What stands after a dot: around an element, of an input, of a place, components of a vector."""

import pytest

from reticula.core.errors import FormulaError
from tests.core.language.programs.checked import expression, named


@pytest.mark.parametrize(
    ("text", "kind", "type"),
    [
        ("here.cover", "point", "number"),
        ("here.face.crest", "corner", "flag"),
        ("position.zyx", "point", "vec3"),
        ("position.r", "point", "number"),
        ("here.neighbours[0].position.y", "point", "number"),
        ("here.points[-1].cover", "face", "number"),
        ("reef.closest(position).distance", "point", "number"),
        ("reef.closest(position).normal", "point", "vec3"),
        ("reef.nearest(position).zone", "point", "integer"),
        ("reef.inside(position)", "point", "flag"),
        ("reef.high.x", "point", "number"),
        ("reef.points[0].kind", "point", "text"),
        ("len(reef.near(position, 0.5))", "point", "integer"),
        ("position[1]", "point", "number"),
    ],
)
def test_types(text: str, kind: str, type: str) -> None:
    assert expression(text, kind).type == named(type)


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("here.nothing", "a point has no here.nothing; it has"),
        ("position.xq", "a vec3 has .xyz and .rgb, not .xq"),
        ("cover.x", "'.x' needs a vector, and this is a number"),
        ("position[3]", "the number in [ ] is one of 0 to 2"),
        ("position[cover]", "[ ]"),
        ("cover[0]", "[ ] needs a list or a vector, and this is a number"),
        ("here.neighbours[cover].cover", "the number in [ ] is whole, not a number; write integer(x)"),
        ("reef.closet(position)", "a geometry cannot be asked 'closet'; it can be asked closest"),
        ("reef.closest()", "write reef.closest(p, reach)"),
        ("reef.closest(border)", "write reef.closest(p, reach)"),
        ("reef.nothing", "'reef' has no 'nothing'; it has"),
        ("reef.closest(position).nothing", "'reef' has no 'nothing' there; there is"),
        ("here.neighbours[0].nothing", "there is no 'nothing' on"),
    ],
)
def test_what_is_not_there_says_what_is(text: str, message: str) -> None:
    with pytest.raises(FormulaError) as caught:
        expression(text)
    assert message in caught.value.plain
