"""Linked copies through the real interface."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.browser.test_operators import lifted, select_cards


def test_linked_copies_are_edited_once_and_separated(bench: Bench) -> None:
    document = lifted()
    inner = {
        "format": "reticula graph",
        "version": 1,
        "dials": {"height": {"type": "number", "value": 0.2}},
        "inputs": [{"name": "geo", "help": ""}],
        "outputs": [{"name": "geo", "help": "", "feed": "up"}],
        "nodes": {
            "come": {"operator": "input", "parameters": {"name": "geo"}},
            "up": {
                "operator": "extrude",
                "inputs": {"geo": ["come"]},
                "parameters": {"distance": {"formula": "height"}},
            },
        },
    }
    document["nodes"]["bud"] = {"operator": "folded", "title": "Bud", "inputs": {"geo": ["sheet"]}, "graph": inner}
    made = bench.new_graph(document)
    page = bench.page
    select_cards(bench, "bud")
    page.click("[data-test=link-copy]")
    bench.settle()
    expect(page.locator("[data-test=linked-mark]")).to_have_count(2)
    kept = bench.state(made)["document"]
    assert list(kept["linked"]) == ["bud"]
    assert "graph" not in kept["nodes"]["bud_2"]
    expect(page.locator("[data-test=card-bud_2]")).to_contain_text("One of 2 linked cards")
    page.click("[data-test=open-inside]")
    expect(page.locator("[data-test=in-copies]")).to_contain_text("2 cards")
    select_cards(bench, "up")
    page.click("[data-test=card-up] [title^='Pass the geometry']")
    bench.settle()
    kept = bench.state(made)["document"]
    assert kept["linked"]["bud"]["nodes"]["up"]["skip"] is True
    page.click("[data-test=leave-0]")
    expect(page.locator("[data-test=card-bud_2]")).to_be_attached()
    bench.settle()
    page.click("[data-test=all-cards]")
    select_cards(bench, "bud_2")
    page.click("[data-test=separate]")
    bench.settle()
    kept = bench.state(made)["document"]
    assert kept["nodes"]["bud_2"]["graph"]["nodes"]["up"]["skip"] is True
    assert kept["nodes"]["bud"]["linked"] == "bud"
    for _ in range(3):
        page.click("[data-test=undo]")
        bench.settle()
    assert "linked" not in bench.state(made)["document"]
