"""Why a value is so, and what a text gives for the picked element, in the real interface."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import expect

from reticula.core import ops
from reticula.core.formats import write_bytes
from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node

LOOP = """near = geo.near(position, 0.6, most=4)
total = 0.0
for q in near:
    total += q.cover * 2
here.height = total / len(near)
"""


def pick(bench: Bench, kind: str, column: str, number: int) -> None:
    """Pick an element in the ledger."""
    bench.page.click(f"[data-test=ledger-{kind}]")
    bench.page.locator(f"[data-test='cell-{number}-{column}']").click()
    bench.settle()


WHERE = """([number, words]) => {
    const line = document.querySelectorAll('[data-test=script-text] .cm-line')[number]
    const walk = document.createTreeWalker(line, NodeFilter.SHOW_TEXT)
    const range = document.createRange()
    for (let at = walk.nextNode(); at; at = walk.nextNode()) {
        const found = at.data.indexOf(words)
        if (found < 0) continue
        range.setStart(at, found); range.setEnd(at, found + 1)
        const { left, top, width, height } = range.getBoundingClientRect()
        return [left + width / 2, top + height / 2]
    }
}"""


def point_at(bench: Bench, line: int, words: str) -> None:
    """Point at the first letter of some words in a line of the script."""
    bench.page.mouse.move(*bench.page.evaluate(WHERE, [line, words]))


@pytest.fixture
def surveyed(bench: Bench) -> str:
    """A graph that carries values of a file to a tile, lifts it and turns it."""
    project = bench.client.post("/api/projects", {"title": "Insight"})["id"]
    survey = ops.set_attribute(ops.grid(cells=(4, 4)), name="cover", value="index * 0.1")
    bench.client.upload(f"/api/projects/{project}/assets", "survey.ply", write_bytes(survey, "survey.ply"))
    nodes: dict[str, Any] = {
        "scan": node("project_shape", shape="survey.ply"),
        "tile": node("grid", size=[0.5, 0.5], cells=[2, 2]),
        "taken": node("transfer_attribute", "tile", inputs={"source": ["scan"]}, attributes="cover"),
        "lift": node("script", "taken", source=LOOP),
        "turned": node("transform", "lift", turn=[0, 90, 0]),
    }
    body = {"title": "Surveyed", "document": {**graph(nodes), "looking_at": "turned"}}
    made: str = bench.client.post(f"/api/projects/{project}/graphs", body)["id"]
    bench.open(made)
    return made


def test_why_leads_from_a_cell_back_to_the_file(bench: Bench, surveyed: str) -> None:
    page = bench.page
    pick(bench, "point", "height", 4)
    page.locator("[data-test='cell-4-height']").hover()
    page.locator("[data-test='why-4-height']").click()
    chain = page.locator("[data-test=why-chain] li")
    expect(chain).to_have_count(1)
    expect(chain.last).to_contain_text("height of point 4")
    expect(chain.last).to_contain_text("passed on as it was by transform")
    expect(chain.last).to_contain_text("here.height = total / len(near)")
    expect(page.locator("[data-test=card-lift].traced")).to_be_visible()
    chain.last.locator("[data-test=cause-cover]").first.click()
    expect(chain).to_have_count(2)
    expect(chain.last).to_contain_text("transfer attribute")
    chain.last.locator("[data-test=cause-cover]").first.click()
    expect(chain).to_have_count(3)
    expect(chain.last).to_contain_text("brought it with the shape that was read")
    expect(chain.last).to_contain_text("survey.ply")
    expect(chain.last).to_contain_text("That is where it begins.")
    expect(page.locator(".card.traced")).to_have_count(3)
    chain.first.locator("button").click()
    expect(chain).to_have_count(1)


def test_a_script_shows_the_values_of_the_picked_element_round_by_round(bench: Bench, surveyed: str) -> None:
    page = bench.page
    pick(bench, "point", "height", 4)
    page.click("[data-test=card-lift]")
    page.click("[data-test=edit-script]")
    line = page.locator("[data-test=script-text] .cm-line")
    expect(page.locator("[data-test=live-element]")).to_have_text("values of point 4")
    expect(line.nth(2)).to_contain_text("round 4 of 4")
    height = page.locator("[data-test=script-text] .cm-line >> nth=4 >> .live-value").inner_text()
    last = line.nth(3).locator(".live-value").inner_text()
    assert float(height) == pytest.approx(float(last) / 4, rel=1e-5)
    for _ in range(3):
        line.nth(2).get_by_title("The round before").click()
    expect(line.nth(2)).to_contain_text("round 1 of 4")
    expect(line.nth(3).locator(".live-value")).not_to_have_text(last)
    point_at(bench, 4, "total")
    expect(page.locator(".cm-live-tip")).to_have_text(f"{last}number")
    bench.page.keyboard.press("Escape")


def test_a_formula_and_the_wires_show_values_of_the_picked_element(bench: Bench) -> None:
    nodes: dict[str, Any] = {
        "sheet": node("grid", cells=[3, 3]),
        "half": {"operator": "maths_value", "parameters": {"how": "*", "a": {"formula": "index"}, "b": 0.5}},
        "wall": node("extrude", "sheet", distance={"wire": "half"}, where="index < 7"),
    }
    bench.new_graph({**graph(nodes), "looking_at": "sheet"})
    page = bench.page
    bench.as_cards()
    pick(bench, "face", "area", 5)
    page.click("[data-test=look-wall]")
    bench.settle()
    pick(bench, "face", "area", 5)
    expect(page.locator(".vue-flow__edge-text")).to_have_text("2.5")
    page.click("[data-test=card-wall]")
    told = page.locator("[data-test=row-where] [data-test=live-formula]")
    expect(told).to_contain_text("yes")
    told.locator(".line span").nth(8).hover()
    expect(told).to_contain_text("7 · integer")


def test_a_switch_leaves_what_it_does_not_choose_alone(bench: Bench) -> None:
    nodes: dict[str, Any] = {
        "ball": node("sphere"),
        "sheet": node("grid"),
        "one": node("switch", inputs={"choices": ["ball", "sheet"]}, chosen=1),
    }
    bench.new_graph({**graph(nodes), "looking_at": "one"})
    bench.as_cards()
    expect(bench.page.locator("[data-test=card-ball]")).to_contain_text("not chosen further on")
    bench.page.click("[data-test=look-ball]")
    bench.settle()
    expect(bench.page.locator("[data-test=card-ball]")).not_to_contain_text("not chosen further on")
