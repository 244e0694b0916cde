"""Formulas and wires of nodes, found and replaced."""

import pytest

from reticula.core.graph.editing.formula_texts import (
    feeds_in,
    free_name,
    map_feeds,
    members_of,
    names_of,
    replace_in,
    slug,
)
from tests.core.graph.building import graph, node


def test_every_text_of_a_node_is_read() -> None:
    one = node("extrude", "sheet", where="area > least", distance={"formula": "height * box.size.x"})
    assert names_of(one) >= {"least", "height", "box"}
    assert ("box", "size") in members_of(one)


def test_names_are_replaced_in_formulas_and_scripts() -> None:
    one = node("extrude", "sheet", where="area > least", distance={"formula": "least + 1"})
    replace_in(one, {"least": "smallest"}, {})
    assert one["parameters"] == {"where": "area > smallest", "distance": {"formula": "smallest + 1"}}
    text = node("script", "sheet", source="here.a = least")
    replace_in(text, {"least": "smallest"}, {})
    assert text["parameters"]["source"] == "here.a = smallest"


def test_a_text_that_is_no_formula_stays() -> None:
    one = node("group", "sheet", name="least", where="least > 1")
    replace_in(one, {"least": "most"}, {})
    assert one["parameters"] == {"name": "least", "where": "most > 1"}


def test_wires_are_mapped_or_taken_away() -> None:
    made = graph({"a": node("box"), "b": node("join", "a", "c"), "d": node("smooth", "c")}, looking_at="c")
    map_feeds(made, lambda feed: None if feed == "c" else feed + "2")
    assert [feed for _, _, feed in feeds_in(made["nodes"]["b"])] == ["a2"]
    assert not list(feeds_in(made["nodes"]["d"]))
    assert made["looking_at"] is None


@pytest.mark.parametrize(
    ("text", "name"), [("Ridge height!", "ridge_height"), ("3 rings", "node_3_rings"), ("—", "node")]
)
def test_names_are_made_of_titles(text: str, name: str) -> None:
    assert slug(text) == name


def test_a_free_name_gets_a_number() -> None:
    assert free_name("box", []) == "box"
    assert free_name("box", ["box", "box_2"]) == "box_3"
