"""Formulas and scripts on one element."""

from __future__ import annotations

from reticula.core.language import evaluate
from reticula.core.language.live import live_formula, live_script
from reticula.core.language.scope import Scope
from reticula.core.language.script import Script
from tests.core.language.studio import sheet


def test_a_formula_gives_what_it_gives_for_all() -> None:
    source = "high = max(here.points.position.y)\nhigh * area + index"
    every = evaluate(source, sheet(), "face").array
    for face in (0, 7, 35):
        live = live_formula(source, Scope(sheet(), "face", inputs={"geo": sheet()}), face)
        assert live.result is not None
        assert live.result.value == every[face]
        assert live.block.lines[2] == live.result.text


def test_a_broken_formula_says_what_is_wrong() -> None:
    live = live_formula("area +", Scope(sheet(), "face"), 0)
    assert live.error is not None
    assert live.result is None
    assert not live.block.seen


def test_controls_tell_their_values() -> None:
    text = (
        "reach: number(0, 2) = 0.4\nup: toggle = True\nway: vector = (0, 1, 0)\nhow: choice('a', 'b')\nhere.a = reach"
    )
    live = live_script(Script(text, sheet(), "point", controls={"reach": 1.25}), 0)
    assert live.block.lines == {1: "1.25", 2: "yes", 3: "(0, 1, 0)", 4: "'a'", 5: "1.25"}


def test_an_endless_loop_ends() -> None:
    live = live_script(Script("n = 1\nwhile n > 0:\n    n += 1\nhere.a = n", sheet(), "point"), 0)
    assert live.error is not None
    assert live.error["code"] == "limit"
    assert live.cut
