"""Texts read: what they name, where, and what is put in the place of names."""

import re

import pytest

from reticula.core.errors import FormulaError
from reticula.core.language.parse import members_read, names_read, parse, parse_script, replaced, written_names


def test_names_and_members_that_a_formula_reads() -> None:
    text = "a = height * 2\nmax(a, box.size.x, here.cover)"
    assert names_read(text) >= {"height", "box", "here"}
    assert members_read(text) >= {("box", "size"), ("here", "cover")}
    assert names_read("1 +") == frozenset()
    assert written_names(parse(text)) == {"a"}


def test_names_are_replaced_and_all_else_stays_to_the_letter() -> None:
    text = "way = rise   # not rise\nway+rise *  'rise' + höhe.rise"
    assert replaced(text, {"rise": "lift", "way": "no"}, {}) == text.replace("= rise", "= lift").replace(
        "+rise", "+lift"
    )
    assert replaced("höhe + box.size.x", {"höhe": "h"}, {("box", "size"): "ball.size"}) == "h + ball.size.x"
    assert replaced("1 +", {"a": "b"}, {}) == "1 +", "what cannot be read stays"


def test_in_a_script_too() -> None:
    text = "for p in here.neighbours:\n    here.a += reach\n"
    assert replaced(text, {"reach": "far", "p": "q"}, {}, script=True) == text.replace("reach", "far")


@pytest.mark.parametrize(
    ("text", "line"),
    [("1 +", 1), ("a = 1\nimport os\na", 2), ("(lambda: 1)()", 1), ("a.__class__", 1), ("x" * 200_000, 1)],
)
def test_what_is_no_formula_is_refused_with_its_line(text: str, line: int) -> None:
    with pytest.raises(FormulaError) as caught:
        parse(text)
    assert caught.value.line == line


def test_a_script_may_do_more_but_not_anything() -> None:
    parse_script("if index > 2:\n    here.a = 1\n")
    for text in ("import os", "class A:\n    pass", "with a:\n    pass", "try:\n    a\nexcept b:\n    c"):
        with pytest.raises(FormulaError):
            parse_script(text)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("border ? 1 : 2", "a if condition else b"),
        ("area > 1 && border", "write 'and'"),
        ("area > 1 || border", "write 'or'"),
        ("!border", "write 'not'"),
        ("area +* 2", "'*' does not belong here"),
        ("area +", "missing at the end"),
    ],
)
def test_signs_of_other_languages_are_told_what_to_write_instead(text: str, said: str) -> None:
    for read in (parse, lambda formula: parse_script(f"a = {formula}")):
        with pytest.raises(FormulaError, match=re.escape(said)):
            read(text)


def test_signs_in_texts_are_left_alone() -> None:
    with pytest.raises(FormulaError) as found:
        parse('area "?"')
    assert "there is no" not in str(found.value)
