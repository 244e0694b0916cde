"""Whole texts: the flow through blocks, functions and their variants, what is never reached."""

import pytest

from tests.core.language.programs.checked import agreed, program, refused


def test_a_function_has_a_variant_for_each_combination_of_types() -> None:
    made = program("def twice(x):\n    return x * 2\na = twice(1)\nb = twice(0.5)\nc = twice(position)\nd = twice(3)")
    assert len(made.routines) == 3
    assert sorted(str(routine.result) for routine in made.routines.values()) == ["integer", "number", "vec3"]


def test_a_function_may_call_itself() -> None:
    made = agreed("def below(n):\n    if n < 2:\n        return 1\n    return n * below(n - 1)\nhere.a = below(5)")
    assert (made.attribute("point", "a") == 120).all()


def test_a_value_on_every_way_is_defined_after_the_ways_meet() -> None:
    text = "if cover > 0.5:\n    a = 1\nelse:\n    a = 2\nhere.a = a"
    found = agreed(text).attribute("point", "a")
    assert set(found) == {1, 2}


@pytest.mark.parametrize(
    ("text", "line", "message"),
    [
        ("if border:\n    a = 1\nhere.a = a", 3, "'a' has no value yet on some way to this line"),
        ("while border:\n    a = 1\nhere.a = a", 3, "no value yet"),
        ("for i in here.neighbours.index:\n    a = i\nhere.a = a", 3, "no value yet"),
        ("continue", 1, "inside of a loop"),
        ("return", 1, "inside of a function"),
        ("while True:\n    break\n    here.a = 1", 3, "never reached"),
        ("def f(x):\n    return x\n    y = 1\nhere.a = f(1)", 3, "never reached"),
        ("def f(x):\n    if x > 1:\n        return 1\n    return 'a'\nhere.a = f(2)", 4, ""),
        ("def f(x, y):\n    return x\nhere.a = f(1)", 3, "write f(x, y)"),
        ("def sqrt(x):\n    return x\nhere.a = sqrt(2)", 1, "sqrt"),
        ("cover", 1, "does nothing with it"),
    ],
)
def test_the_flow_is_checked(text: str, line: int, message: str) -> None:
    error = refused(text)
    assert message in error.plain
    assert error.line == line


def test_a_loop_that_widens_a_name_is_checked_again() -> None:
    made = agreed("a = 0\nfor i in range(3):\n    a = a + 0.5\nhere.a = a")
    assert made.find("point", "a").type == "number"
    assert made.attribute("point", "a")[0] == 1.5
