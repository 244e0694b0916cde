"""Two browsers at one graph: they see each other and each other's edits, and end with the same document."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import jsonpatch
import pytest
from playwright.sync_api import Browser, expect

from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node
from tests.helpers import PATIENCE, wait_until


@pytest.fixture
def other(browser: Browser, address: str) -> Iterator[Bench]:
    """A second person, in a browser of their own."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="light")
    context.add_init_script("localStorage.setItem('reticula toured', 'yes')")
    made = Bench(context.new_page(), address)
    made.page.set_default_timeout(1000 * PATIENCE)
    yield made
    context.close()


def field(bench: Bench, parameter: str) -> Any:
    return bench.page.locator(f".card.open [data-test=field-{parameter}] textarea").first


def type_into(bench: Bench, parameter: str, text: str) -> None:
    field(bench, parameter).fill(text)
    field(bench, parameter).press("Enter")


def test_two_people_see_each_other_and_what_they_do(bench: Bench, other: Bench) -> None:
    nodes: dict[str, Any] = {
        "sheet": node("grid"),
        "wall": node("extrude", "sheet", distance=0.1),
        "ball": node("sphere"),
    }
    made = bench.new_graph({**graph(nodes), "looking_at": "wall"})
    other.open(made)
    expect(bench.page.locator("[data-test=people] .person")).to_have_count(1)
    expect(other.page.locator("[data-test=people] .person")).to_have_count(1)
    expect(bench.page.locator("[data-test=card-wall] .lookers")).to_be_visible()

    bench.page.click("[data-test=card-wall] .title")
    other.page.click("[data-test=card-ball] .title")
    type_into(bench, "distance", "0.4")
    type_into(other, "radius", "0.75")
    for one in (bench, other):
        expect(one.page.locator("[data-test=save-state]")).to_have_text("saved")
    expect(other.page.locator("[data-test=card-wall]")).to_contain_text("0.4")
    expect(bench.page.locator("[data-test=card-ball]")).to_contain_text("0.75")
    expect(bench.page.locator(".trouble")).to_have_count(0)
    expect(other.page.locator(".trouble")).to_have_count(0)

    # One is away for a while; both work on, and on the same value too.
    other.page.context.set_offline(True)
    type_into(other, "radius", "0.9")
    type_into(bench, "distance", "0.6")
    bench.settle()
    other.page.context.set_offline(False)
    expect(other.page.locator("[data-test=save-state]")).to_have_text("saved")
    expect(other.page.locator("[data-test=card-wall]")).to_contain_text("0.6")
    expect(bench.page.locator("[data-test=card-ball]")).to_contain_text("0.9")

    other.open_card("wall")
    expect(field(other, "distance")).to_have_value("0.6")
    type_into(other, "distance", "0.8")
    expect(bench.page.locator(".el-message")).to_contain_text("went over your ‘")
    expect(field(bench, "distance")).to_have_value("0.8")

    state = bench.state(made)
    parameters = {name: one["parameters"] for name, one in state["document"]["nodes"].items()}
    assert (parameters["wall"]["distance"], parameters["ball"]["radius"]) == (0.8, 0.9)
    edits = bench.client.get(f"/api/graphs/{made}/edits")["edits"]
    assert [one["kind"] for one in edits] == ["edit"] * state["revision"]
    other.page.context.close()

    def alone() -> bool:
        bench.frames(1)
        return not bench.page.locator("[data-test=people]").count()

    wait_until(alone)


def test_the_document_is_the_log_replayed(bench: Bench, other: Bench) -> None:
    nodes: dict[str, Any] = {f"box_{number}": node("box") for number in range(6)}
    made = bench.new_graph({**graph(nodes), "looking_at": "box_0"})
    first = bench.state(made)["document"]
    other.open(made)
    for one in (bench, other):
        one.page.locator("[data-test=board-form]").get_by_text("lanes", exact=True).click()
        one.settle()
    for turn in range(6):
        one = (bench, other)[turn % 2]
        one.page.click(f"[data-test=card-box_{turn}] .title")
        one.page.keyboard.press("Delete")
    for one in (bench, other):
        expect(one.page.locator("[data-test=save-state]")).to_have_text("saved")
    expect(bench.page.locator(".lane")).to_have_count(0)
    expect(other.page.locator(".lane")).to_have_count(0)
    document = first
    revision = bench.state(made)["revision"]
    for number in range(1, revision + 1):
        moment = bench.client.get(f"/api/graphs/{made}/moments/{number}")["document"]
        document = jsonpatch.apply_patch(document, jsonpatch.make_patch(document, moment))
    assert document == bench.state(made)["document"]
    assert document["nodes"] == {}


def test_what_one_is_typing_stays_when_another_sets_the_value(bench: Bench) -> None:
    made = bench.new_graph({**graph({"sheet": node("grid") | {"title": "Sheet"}}), "looking_at": "sheet"})
    page = bench.page
    page.click("[data-test=card-sheet] .title")
    title = page.locator("[data-test=card-sheet] header input")
    title.fill("Sea flo")
    change = {"op": "replace", "path": "/nodes/sheet/title", "value": "Ground"}
    bench.client.post(f"/api/graphs/{made}/edits", {"revision": 0, "patch": [change], "label": "rename"})
    wait_until(lambda: page.locator("[data-test=save-state]").text_content() and bench.state(made)["revision"] == 1)
    bench.settle()
    expect(title).to_have_value("Sea flo")
    title.press("End")
    title.press_sequentially("or")
    title.press("Enter")
    wait_until(lambda: bench.state(made)["document"]["nodes"].get("sea_floor", {}).get("title") == "Sea floor")
