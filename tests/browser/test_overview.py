"""A graph of any size on the board: all cards in sight, titles that can be read from afar, and a card come near."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Bench

MARGIN = 2


def chain(count: int) -> dict[str, Any]:
    """A document with cards one after the other, some of them branches."""
    nodes: dict[str, Any] = {"plate": {"operator": "grid", "parameters": {"cells": [2, 2]}}}
    last = "plate"
    for number in range(count - 1):
        name = f"step_{number}"
        nodes[name] = {"operator": "transform", "title": f"Step {number}", "inputs": {"geo": [last]}}
        last = last if number % 5 == 4 else name
    return {"format": "reticula graph", "version": 1, "nodes": nodes, "looking_at": last}


def zoom(bench: Bench) -> float:
    return float(
        bench.page.evaluate(
            "new DOMMatrix(getComputedStyle(document.querySelector('.vue-flow__transformationpane')).transform).a"
        )
    )


@pytest.mark.parametrize("count", [5, 20, 80, 500])
def test_all_cards_are_in_sight(bench: Bench, count: int) -> None:
    page = bench.page
    bench.new_graph(chain(count))
    bench.as_cards()
    page.click("[data-test=all-cards]")
    bench.settle()
    pane = page.locator(".pane").bounding_box()
    assert pane is not None
    boxes = page.evaluate(
        "[...document.querySelectorAll('.card')].map((card) => { const b = card.getBoundingClientRect();"
        " return [b.left, b.top, b.right, b.bottom] })"
    )
    assert len(boxes) == count
    for left, top, right, bottom in boxes:
        assert left >= pane["x"] - MARGIN
        assert top >= pane["y"] - MARGIN
        assert right <= pane["x"] + pane["width"] + MARGIN
        assert bottom <= pane["y"] + pane["height"] + MARGIN


def test_titles_are_read_from_afar_and_a_click_comes_near(bench: Bench) -> None:
    page = bench.page
    bench.new_graph(chain(30))
    bench.as_cards()
    expect(page.locator("[data-test=overview]")).to_be_visible()
    page.click("[data-test=all-cards]")
    bench.settle()
    assert zoom(bench) < 0.55
    title = page.locator("[data-test=card-step_7] .from-afar span")
    expect(title).to_be_visible()
    drawn = title.evaluate("(one) => one.getBoundingClientRect().height")
    assert drawn >= 10, "letters of ten pixels and more"
    page.locator("[data-test=card-step_7]").click()
    bench.settle()
    assert zoom(bench) == pytest.approx(1)
    expect(page.locator("[data-test=card-step_7] [data-test=field-move]")).to_be_visible()


def milliseconds(text: str) -> float:
    number, unit = text.removeprefix("<").split()
    return float(number) * {"ms": 1, "s": 1000}[unit]


def test_the_profile_lists_the_dearest_card_first(bench: Bench) -> None:
    page = bench.page
    document = chain(3)
    document["nodes"]["plate"]["parameters"] = {"cells": [120, 120]}
    document["nodes"]["step_1"] = {"operator": "smooth_subdivide", "inputs": {"geo": ["step_0"]}}
    bench.new_graph(document)
    page.keyboard.press("Shift+T")
    panel = page.locator("[data-test=inspector]")
    expect(panel.locator("[data-test=profile-total]")).to_contain_text("for 3 cards")
    rows = panel.locator(".el-collapse-item[data-test^=profile-]:not([data-test=profile-asked])")
    expect(rows).to_have_count(3)
    shown = [milliseconds(text) for text in rows.locator(".el-collapse-item__header .mono").all_inner_texts()]
    assert shown == sorted(shown, reverse=True)
    rows.first.get_by_role("button").first.click()
    expect(rows.first).to_contain_text("the work itself")
    expect(panel.locator("[data-test=profile-asked]")).to_be_visible()
    rows.nth(1).get_by_role("button").first.click()
    rows.nth(1).get_by_role("button", name="look at it").click()
    bench.settle()
    expect(page.locator(".card.looking")).to_have_count(1)


def test_digits_take_up_tools_in_the_order_in_which_they_stand(bench: Bench) -> None:
    page = bench.page
    bench.new_graph(chain(2))
    for digit, name in (("2", "box"), ("4", "brush"), ("5", "measure"), ("1", "click")):
        page.keyboard.press(digit)
        expect(page.locator(f"[data-test=tool-{name}]")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("7")
    expect(page.locator("[data-test=tool-click]")).to_have_attribute("aria-pressed", "true")


def test_board_and_view_may_have_all_there_is(bench: Bench) -> None:
    page = bench.page
    bench.new_graph(chain(2))
    before = page.locator(".left").bounding_box()
    page.keyboard.press("Shift+B")
    expect(page.locator("[data-test=canvas]")).to_be_hidden()
    wide = page.locator(".left").bounding_box()
    assert before
    assert wide
    assert wide["width"] == 1280
    page.keyboard.press("Shift+B")
    expect(page.locator("[data-test=canvas]")).to_be_visible()
    assert page.locator(".left").bounding_box() == before
    page.keyboard.press("Shift+V")
    canvas = page.locator("[data-test=canvas]").bounding_box()
    assert canvas
    assert canvas["width"] > 1180
    assert canvas["height"] > 640
    bench.settle()
    assert bench.pixels().std() > 1, "something is drawn"
    page.keyboard.press("Shift+V")
    assert page.locator(".left").bounding_box() == before
