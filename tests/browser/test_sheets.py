"""A proof sheet in the page: planned, filled, brushed, one taken and taken back; stopped and gone on with."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node
from tests.helpers import wait_until
from tools.choosing import choose

DIALS: dict[str, Any] = {
    "lift": {"type": "number", "value": 0.1, "soft": [0, 0.4], "unit": "m"},
    "cells": {"type": "integer", "value": 3, "soft": [2, 9]},
}


@pytest.fixture
def tile(bench: Bench) -> str:
    nodes: dict[str, Any] = {
        "sheet": node("grid", cells={"formula": "vec2(cells, cells)"}),
        "up": node("extrude", "sheet", distance={"formula": "lift"}),
    }
    made = bench.new_graph({**graph(nodes, dials=DIALS), "looking_at": "up"})
    bench.page.click("[data-test=open-sheets]")
    bench.page.wait_for_selector("[data-test=plan]")
    return made


def turn(bench: Bench, dial: str, how: str) -> None:
    choose(bench.page, f"[data-test=turn-{dial}] .choice", how)


def make(bench: Bench, count: int) -> None:
    expect(bench.page.locator("[data-test=make-sheet]")).to_have_text(f"Make {count} variants")
    bench.page.click("[data-test=make-sheet]")
    bench.page.wait_for_selector("[data-test=wall]")


def test_a_sheet_fills_is_brushed_and_one_is_taken(bench: Bench, tile: str) -> None:
    page = bench.page
    turn(bench, "lift", "even")
    turn(bench, "cells", "uniform")
    page.fill("[data-test=draws] input", "8")
    make(bench, 40)
    expect(page.locator("[data-test=sheet-state]")).to_have_attribute("data-state", "done")
    expect(page.locator("[data-test=sheet-state]")).to_have_text("40 of 40 made")
    drawn = page.locator("[data-test=variant-1] canvas")
    expect(drawn).to_have_attribute("data-drawn", re.compile(r"\.drawn$"))
    expect(page.locator("[data-test=variant-1]")).to_contain_text("lift 0 m")
    inked = drawn.evaluate(
        """canvas => canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height).data
            .filter((value, at) => at % 4 === 3 && value > 200).length / (canvas.width * canvas.height)"""
    )
    assert 0.05 < inked < 0.9, "the shape covers a part of its picture"
    with page.expect_download() as begun:
        page.click("[data-test=sheet-more]")
        page.click("[data-test=sheet-csv]")
    assert len(begun.value.path().read_text().splitlines()) == 41

    page.fill("[data-test=where]", "faces > 20 and lift >= 0.3")
    expect(page.locator("[data-test=shown]")).to_be_visible()
    expect(page.locator("[data-test=variant-1]")).to_have_count(0)
    page.fill("[data-test=where]", "height > 1")
    expect(page.locator(".sheets [role=alert]")).to_contain_text("height")
    page.fill("[data-test=where]", "")
    expect(page.locator("[data-test=shown]")).to_have_count(0)

    chart = page.locator(".sheets [data-test=chart][data-ready=true]").bounding_box()
    assert chart
    page.mouse.move(chart["x"] + chart["width"] * 0.7, chart["y"] + 40)
    page.mouse.down()
    page.mouse.move(chart["x"] + chart["width"] - 24, chart["y"] + chart["height"] - 40, steps=6)
    page.mouse.up()
    expect(page.locator("[data-test=clear-brush]")).to_contain_text("brushed")
    brushed = re.search(r"\((\d+) brushed", page.locator("[data-test=clear-brush]").inner_text())
    assert brushed
    assert 0 < int(brushed[1]) < 40
    expect(page.locator("[data-test=shown]")).to_have_text(f"{brushed[1]} shown")
    page.click("[data-test=clear-brush]")
    expect(page.locator("[data-test=shown]")).to_have_count(0)

    choose(page, "[data-test=order]", "values.lift")
    page.click("[data-test=direction]")
    page.locator("[data-test=wall] figure").first.click()
    expect(page.locator("[data-test=chosen]")).to_contain_text("lift 0.4 m")
    page.locator("[data-test=wall] figure").nth(1).click(modifiers=["Shift"])
    page.click("[data-test=compare]")
    expect(page.locator("[data-test=wall] figure")).to_have_count(2)
    page.click("[data-test=compare]")
    page.locator("[data-test=wall] figure").first.click()
    page.click("[data-test=take-variant]")
    expect(page.locator("[data-test=save-state]")).to_have_text("saved")
    assert bench.state(tile)["document"]["dials"]["lift"]["value"] == 0.4
    expect(page.locator("[data-test=undo]")).to_have_attribute("title", "Undo: take variant 33 (Ctrl+Z)")
    page.click("[data-test=undo]")
    wait_until(lambda: bench.state(tile)["document"]["dials"]["lift"]["value"] == 0.1)


def test_a_sheet_is_stopped_and_gone_on_with(bench: Bench, tile: str) -> None:
    page = bench.page
    turn(bench, "cells", "even")
    page.locator("[data-test=turn-cells] input").nth(2).fill("200")
    page.locator("[data-test=turn-cells] input").nth(3).fill("600")
    page.locator("[data-test=turn-cells] input").nth(3).press("Tab")
    make(bench, 199)
    page.click("[data-test=stop-sheet]")
    page.wait_for_selector("[data-test=sheet-state][data-state=stopped]")
    expect(page.locator("[data-test=sheet-state]")).to_contain_text("stopped")
    page.reload()
    page.click("[data-test=open-sheets]")
    expect(page.locator("[data-test=sheet-state]")).to_have_attribute("data-state", "stopped")
    page.click("[data-test=run-sheet]")
    expect(page.locator("[data-test=sheet-state]")).to_have_attribute("data-state", "done")
    expect(page.locator("[data-test=sheet-state]")).to_have_text("199 of 199 made")


def test_a_variant_that_fails_says_why(bench: Bench, tile: str) -> None:
    page = bench.page
    turn(bench, "cells", "list")
    page.fill("[data-test=turn-cells] .fields input", "2, -4")
    make(bench, 2)
    expect(page.locator("[data-test=sheet-state]")).to_have_text("1 of 2 made, 1 failed")
    expect(page.locator("[data-test=variant-2]")).to_contain_text("cells")
    page.click("[data-test=sheet-more]")
    page.click("[data-test=sheet-drop]")
    page.get_by_role("button", name="Delete").click()
    expect(page.locator("[data-test=wall]")).to_have_count(0)


def test_the_best_is_sought_marked_and_taken(bench: Bench, tile: str) -> None:
    page = bench.page
    page.locator("[data-test=plan-mode]").get_by_text("Seek the best").click()
    turn(bench, "lift", "uniform")
    turn(bench, "cells", "uniform")
    expect(page.locator("[data-test=make-sheet]")).to_be_disabled()
    page.fill("[data-test=aim-0]", "weight")
    expect(page.locator("[data-test=plan-trouble]")).to_contain_text("aim 'weight'")
    page.fill("[data-test=aim-0]", "area")
    page.click("[data-test=add-aim]")
    page.fill("[data-test=aim-1]", "faces")
    choose(page, "[data-test=goal-1]", "largest")
    page.fill("[data-test=conditions]", "lift >= 0.1")
    page.fill("[data-test=tries] input", "24")
    expect(page.locator("[data-test=make-sheet]")).to_have_text("Seek with 24 tries")
    page.click("[data-test=make-sheet]")
    page.wait_for_selector("[data-test=wall]")
    state = page.locator("[data-test=sheet-state]")
    expect(state).to_have_attribute("data-state", "done")
    told = re.fullmatch(r"24 of 24 tries, (\d+) best", state.inner_text())
    assert told
    best = int(told[1])
    assert 0 < best < 24
    first = page.locator("[data-test=wall] figure").first
    expect(first).to_contain_text("★")
    expect(first).to_contain_text("area")
    first.click()
    wide = page.locator("[data-test=chosen]").bounding_box()
    plots = page.locator(".sheets .plots").bounding_box()
    assert wide
    assert plots
    assert wide["x"] + wide["width"] <= plots["x"] + 1, "what is said of one pushes nothing aside"
    page.locator("[data-test=only-best]").click()
    expect(page.locator("[data-test=shown]")).to_have_text(f"{best} shown")
    page.click("[data-test=take-variant]")
    expect(page.locator("[data-test=sheets]")).to_be_hidden()
    wait_until(lambda: bench.state(tile)["document"]["dials"]["lift"]["value"] >= 0.1)
    bench.page.keyboard.press("Control+z")
    wait_until(lambda: bench.state(tile)["document"]["dials"]["lift"]["value"] == 0.1)
