"""Statements in generated code: flow, functions, what is written to this and to other elements, what is made."""

import ast

import pytest

from tests.core.language.programs.checked import agreed, code_of

TEXTS = [
    "a = 0\nwhile a < 5:\n    a += 1\n    if a == 2:\n        continue\n    if a == 4:\n        break\nhere.a = a",
    "def f(x):\n    if x > 0.5:\n        return x\n    return x * 2\nhere.a = f(cover) + f(1)",
    "for n in here.neighbours:\n    n.total += cover\n    n.last = index",
    "if border:\n    p = add_point(position * 2, here)\n    p.mark = index\n    add_curve([here, p])",
    "if cover > 0.9:\n    remove(here)\nelse:\n    here.a = 'kept'",
    "here.tags = [n.index for n in here.neighbours if n.border]",
    "a, b, c = position\nhere.position = (b, c, a)\nhere.position.y += 1",
]


@pytest.mark.parametrize("text", TEXTS)
def test_both_back_ends_agree(text: str) -> None:
    agreed(text)


@pytest.mark.parametrize("text", TEXTS)
def test_the_code_is_python_and_every_local_of_it_is_set_before_the_loop(text: str) -> None:
    tree = ast.parse(code_of(text).source)
    assert any(isinstance(node, ast.FunctionDef) and node.name == "kernel" for node in tree.body)


@pytest.mark.parametrize("each", ["edge", "corner", "face", "piece", "once"])
def test_every_kind(each: str) -> None:
    agreed("here.a = 3" if each != "once" else "here.a = mean(geo.points.cover)", each)


def test_a_log_for_each_thing_that_is_made() -> None:
    made = code_of("if border:\n    add_point(position)\nfor n in here.neighbours:\n    n.total += cover")
    assert made.counters == len({column.counter for column in made.log}) == 2
    assert made.adds == (("point", "total", True),)
