"""The board as lanes: a row for each node in the order of evaluation; walked, opened, filtered, rewired."""

from __future__ import annotations

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node

CHAIN = {
    "sheet": node("grid", cells=[4, 4]),
    "raise": node("extrude", "sheet", distance=0.3),
    "fine": node("split_faces", "raise"),
    "soft": node("smooth_subdivide", "fine"),
    "post": node("cylinder"),
    "cut": node("bevel", "post"),
    "both": node("join", "soft", "cut"),
    "whole": node("measure", "both"),
    "turned": node("transform", "whole"),
}


@pytest.fixture
def made(bench: Bench) -> str:
    """The chain, as a graph that is open."""
    return bench.new_graph(graph(CHAIN, looking_at="turned"))


def as_lanes(page: Page) -> Locator:
    """Draw the graph as lanes, however it is drawn now."""
    page.locator("[data-test=board-form]").get_by_text("lanes", exact=True).click()
    rows = page.locator("[data-test=lanes]")
    expect(rows).to_be_visible()
    return rows


def titles(page: Page) -> list[str]:
    return [one.get_attribute("data-test") or "" for one in page.locator(".lane").all()]


def drag(page: Page, row: str, to: str, *, below: bool = True, drop: bool = True) -> None:
    """Drag a row to just above or below the middle of another one, by its title."""
    source = page.locator(f"[data-test=card-{row}] .title").first.bounding_box()
    target = page.locator(f"[data-test=card-{to}] .head").first.bounding_box()
    assert source
    assert target
    page.mouse.move(source["x"] + 20, source["y"] + 8)
    page.mouse.down()
    page.mouse.move(source["x"] + 30, source["y"] + 14, steps=3)
    page.mouse.move(target["x"] + 200, target["y"] + target["height"] * (0.8 if below else 0.2), steps=5)
    if drop:
        page.mouse.up()


def test_a_graph_of_more_than_eight_nodes_is_drawn_as_lanes_and_the_choice_is_kept(bench: Bench, made: str) -> None:
    page = bench.page
    expect(page.locator("[data-test=lanes]")).to_be_visible()
    order = titles(page)
    assert order.index("card-sheet") < order.index("card-raise") < order.index("card-soft") < order.index("card-both")
    assert order.index("card-cut") == order.index("card-both") - 1, "a short branch stands where it joins"
    expect(page.locator("[data-test=card-soft] .time")).to_contain_text("ms")
    page.keyboard.press("Shift+L")
    expect(page.locator(".vue-flow__node")).to_have_count(9)
    bench.open(made)
    expect(page.locator(".vue-flow__node")).to_have_count(9)
    page.keyboard.press("Shift+L")
    expect(page.locator("[data-test=lanes]")).to_be_visible()


def test_rows_are_walked_opened_and_closed_by_keyboard(bench: Bench, made: str) -> None:
    page = bench.page
    rows = page.locator("[data-test=lanes]")
    rows.focus()
    page.keyboard.press("Home")
    expect(page.locator(".lane.chosen")).to_have_attribute("data-test", "card-sheet")
    page.keyboard.press("ArrowDown")
    expect(page.locator(".lane.chosen")).to_have_attribute("data-test", "card-raise")
    expect(page.locator(".card.open")).to_have_count(0)
    page.keyboard.press("Enter")
    expect(page.locator(".card.open")).to_have_attribute("data-test", "card-raise")
    bench.set("distance", "0.7")
    assert bench.state(made)["document"]["nodes"]["raise"]["parameters"]["distance"] == 0.7
    expect(page.locator("[data-test=card-raise] .line").first).to_contain_text("0.7")
    rows.focus()
    page.keyboard.press("Escape")
    expect(page.locator(".card.open")).to_have_count(0)
    page.keyboard.press("L")
    bench.settle()
    assert bench.state(made)["document"]["looking_at"] == "raise"
    page.keyboard.press("End")
    page.keyboard.press("K")
    bench.settle()
    assert bench.state(made)["document"]["nodes"]["turned"]["skip"] is True


def test_names_and_values_filter_the_rows(bench: Bench, made: str) -> None:
    page = bench.page
    page.fill("[data-test=filter-lanes]", "0.3")
    expect(page.locator(".lane")).to_have_count(1)
    expect(page.locator(".lane")).to_have_attribute("data-test", "card-raise")
    page.fill("[data-test=filter-lanes]", "nothing like it")
    expect(page.locator("[data-test=lanes]")).to_contain_text("No row fits.")
    page.fill("[data-test=filter-lanes]", "")
    expect(page.locator(".lane")).to_have_count(9)


def test_a_row_dropped_between_two_is_wired_in_and_what_cannot_be_is_said(bench: Bench, made: str) -> None:
    page = bench.page
    drag(page, "turned", "sheet")
    bench.settle()
    nodes = bench.state(made)["document"]["nodes"]
    assert nodes["turned"]["inputs"] == {"geo": ["sheet"]}
    assert nodes["raise"]["inputs"] == {"geo": ["turned"]}
    order = titles(page)
    assert order.index("card-turned") == order.index("card-sheet") + 1
    page.click("[data-test=undo]")
    bench.settle()
    drag(page, "fine", "both", drop=False)
    expect(page.locator("[data-test=drop-said]")).to_have_text("split faces after ‘join’")
    page.keyboard.press("Escape")
    page.mouse.up()
    expect(page.locator("[data-test=drop-said]")).to_have_count(0)
    drag(page, "post", "raise", drop=False)
    expect(page.locator("[data-test=drop-said]")).to_contain_text("begins a chain")
    page.mouse.up()
    bench.settle()
    assert bench.state(made)["document"]["nodes"]["post"].get("inputs", {}) == {}


def test_a_row_is_dragged_onto_another_lane(bench: Bench, made: str) -> None:
    page = bench.page
    drag(page, "fine", "post")
    bench.settle()
    nodes = bench.state(made)["document"]["nodes"]
    assert nodes["fine"]["inputs"] == {"geo": ["post"]}
    assert nodes["cut"]["inputs"] == {"geo": ["fine"]}
    assert nodes["soft"]["inputs"] == {"geo": ["raise"]}


def test_what_is_inside_is_folded_out_with_an_indent_and_gone_to(bench: Bench) -> None:
    inner = {
        **graph({"start": node("input", name="geo"), "lift": node("extrude", "start")}),
        "inputs": [{"name": "geo"}],
        "outputs": [{"name": "geo", "feed": "lift"}],
    }
    nodes = {**CHAIN, "held": {**node("folded", "turned"), "graph": inner}}
    bench.new_graph(
        {**graph(nodes, looking_at="held"), "frames": {"f": {"title": "Making", "nodes": ["sheet", "raise"]}}}
    )
    page = bench.page
    expect(page.locator("[data-test=heading-f]")).to_contain_text("Making")
    rows = page.locator("[data-test=lanes]")
    rows.focus()
    page.keyboard.press("End")
    page.keyboard.press("ArrowRight")
    expect(page.locator("[data-test='inner-held/lift']")).to_be_visible()
    page.keyboard.press("ArrowLeft")
    expect(page.locator("[data-test='inner-held/lift']")).to_have_count(0)
    page.keyboard.press("ArrowRight")
    page.click("[data-test='inner-held/lift']")
    expect(page.locator("[data-test=trail]")).to_contain_text("held")
    expect(page.locator(".card.open")).to_have_attribute("data-test", "card-lift")


@pytest.mark.parametrize("many", [5, 80, 2000])
def test_only_rows_in_sight_are_drawn(bench: Bench, many: int) -> None:
    nodes = {"n0": node("grid", cells=[1, 1])}
    for number in range(1, many):
        nodes[f"n{number}"] = {**node("transform", f"n{number - 1}"), "skip": True}
    bench.new_graph(graph(nodes, looking_at="n0"))
    page = bench.page
    rows = as_lanes(page)
    assert page.locator(".lane").count() <= 70
    rows.focus()
    page.keyboard.press("End")
    expect(page.locator(f"[data-test=card-n{many - 1}]")).to_be_in_viewport()
    assert page.locator(".lane").count() <= 70
