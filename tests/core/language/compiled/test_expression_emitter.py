"""Expressions in generated code: what is not needed is not worked out."""

import pytest

from tests.core.language.programs.checked import agreed, code_of


def test_a_division_that_is_not_reached_does_not_stop_the_script() -> None:
    made = agreed("here.a = 1 if index == 0 else 10 // index\nhere.b = index != 0 and 10 // index > 1")
    assert made.attribute("point", "a").tolist()[:4] == [1, 10, 5, 3]
    assert made.attribute("point", "b").tolist()[:3] == [False, True, True]


def test_the_second_part_stands_inside_a_branch() -> None:
    body = body_of("here.a = index > 0 and 5 // index > 2")
    assert body.index("if ") < body.index("divided(")


def body_of(text: str) -> str:
    source = code_of(text).source
    return source[source.index("for at in range(lo") :]


@pytest.mark.parametrize(
    "text",
    [
        "here.a = position.zyx * 2 - (1, 0, 0)",
        "here.a = 'sand' if cover > 0.5 else 'rock'",
        "here.a = walk(border) + random(3)",
        "here.a = turn((0, 1, 0), cover) * position",
        "here.a = clamp(mix(1, cover, 0.5), 0.2, 0.8) ** 2",
    ],
)
def test_both_back_ends_agree(text: str) -> None:
    agreed(text)
