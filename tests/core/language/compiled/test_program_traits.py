"""What a program does, seen from outside."""

import pytest

from reticula.core.language.compiled.program_traits import (
    calls_itself,
    changes_list,
    kinds_made,
    loops,
    makes_elements,
)
from tests.core.language.programs.checked import program


@pytest.mark.parametrize(
    ("text", "kinds"),
    [
        ("here.a = 1", set()),
        ("add_point(position)", {"point"}),
        ("if border:\n    add_curve([here, here])", {"curve"}),
        ("def f(p):\n    return add_point(p)\nadd_face([here, f(position), f(position)])", {"point", "face"}),
        ("remove(here)", {"remove"}),
    ],
)
def test_what_is_made_wherever_it_stands(text: str, kinds: set[str]) -> None:
    made = program(text)
    assert kinds_made(made) == kinds
    assert makes_elements(made) == bool(kinds - {"remove"})


@pytest.mark.parametrize(
    ("text", "own"),
    [
        ("def f(x):\n    return x\nhere.a = f(1)", False),
        ("def f(x):\n    if x < 1:\n        return 0\n    return f(x - 1)\nhere.a = f(1)", True),
    ],
)
def test_functions_that_call_themselves(text: str, own: bool) -> None:
    assert calls_itself(program(text)) == own


@pytest.mark.parametrize(
    ("text", "slow"),
    [
        ("here.a = 1", False),
        ("while cover > 1:\n    break", True),
        ("here.a = mean(here.neighbours.cover)", True),
        ("a = [n.cover for n in here.neighbours]", True),
    ],
)
def test_loops(text: str, slow: bool) -> None:
    assert loops(program(text).body) == slow


def test_lists_that_change() -> None:
    body = program("a = [1]\nb = [2]\nif border:\n    a.append(3)\nhere.c = sum(b)").body
    assert changes_list(body, "a")
    assert changes_list(body[2:], "a")
    assert not changes_list(body[2:], "b")
