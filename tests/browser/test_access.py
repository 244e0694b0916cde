"""Keyboard, names for screen readers and contrast, by axe-core (Deque, MPL-2.0), which checks the rules of WCAG 2.1 A
and AA.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.browser.test_operators import select_cards
from tests.core.graph.building import graph, node
from tools.choosing import choose

AXE = (Path(__file__).resolve().parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
RULES = {"runOnly": {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"]}}
NODES: dict[str, Any] = {
    "sheet": node("grid", cells=[6, 6]),
    "v": node("set_attribute", "sheet", name="heat", kind="face", value={"formula": "position.x"}),
    "cut": node("slice", "v"),
    "wrong": node("group", "v", where="nonsense > 2"),
}
DIALS = {"tall": {"type": "number", "value": 0.5, "unit": "m", "soft": [0, 2], "section": "Size"}}


def troubles(bench: Bench) -> list[str]:
    bench.calm()
    bench.page.evaluate(AXE)
    found = bench.page.evaluate("(rules) => axe.run(document, rules)", RULES)["violations"]
    return [
        f"{one['id']}: {at['target']} {at['html'][:150]} {at['any'][0]['message'] if at['any'] else ''}"
        for one in found
        for at in one["nodes"]
    ]


@pytest.fixture(params=["day", "night"])
def theme(bench: Bench, request: pytest.FixtureRequest) -> Iterator[str]:
    """The theme is a setting of the service, so it is put back."""

    def choose_theme(name: str) -> None:
        script = (
            "(theme) => fetch('/api/settings', { method: 'PUT', headers: { 'Content-Type': "
            "'application/json' }, body: JSON.stringify({ theme }) })"
        )
        bench.page.evaluate(script, name)

    bench.open()
    choose_theme(request.param)
    yield request.param
    choose_theme("day")


def test_the_bench_can_be_read_and_named(bench: Bench, theme: str) -> None:
    bench.new_graph(graph(NODES, dials=DIALS, looking_at="v"))
    page = bench.page
    expect(page.locator("html")).to_have_attribute("data-theme", theme)
    choose(page, "[data-test=color-by]", "values|face|heat|")
    choose(page, "[data-test=edges]", "kinds")
    page.click("[data-test=statistics]")
    page.click("[data-test=panel-checks]")
    select_cards(bench, "cut")
    bench.settle()
    assert troubles(bench) == []
    page.click("[data-test=panel-compare]")
    choose(page, "[data-test=against]", "sheet")
    page.click("[data-test=form-across]")
    page.locator(".vue-flow__pane").click(position={"x": 470, "y": 8})
    page.get_by_role("button", name="All cards").click()
    bench.settle()
    select_cards(bench, "wrong")
    bench.settle()
    assert troubles(bench) == []


def test_dialogs_can_be_read_and_named(bench: Bench, theme: str) -> None:
    assert theme in ("day", "night")
    bench.new_graph(graph(NODES, dials=DIALS, looking_at="v"))
    page = bench.page
    page.keyboard.press("/")
    page.fill("[data-test=finder]", "ex")
    assert troubles(bench) == [], "finder"
    page.keyboard.press("Escape")
    page.keyboard.press("c")
    expect(page.locator(".el-dialog:visible")).to_be_visible()
    assert troubles(bench) == [], "catalogue"
    page.keyboard.press("Escape")
    expect(page.locator(".el-dialog:visible")).to_have_count(0)
    page.keyboard.press("?")
    expect(page.locator("[data-test=shortcuts]")).to_be_visible()
    assert troubles(bench) == [], "shortcuts"


def test_the_tour_walks_through_the_bench_once(bench: Bench) -> None:
    bench.new_graph(graph(NODES, dials=DIALS, looking_at="v"))
    page = bench.page
    page.keyboard.press("/")
    page.fill("[data-test=finder]", "tour")
    page.keyboard.press("Enter")
    step = page.locator(".el-tour__content")
    expect(step).to_be_visible()
    titles = []
    for _ in range(12):
        titles.append(step.locator(".el-tour__title").inner_text())
        after = step.locator(".el-tour__footer button, .el-tour-indicators ~ button").last
        after.click()
        page.wait_for_function(
            "(old) => document.querySelector('.el-tour__content .el-tour__title')?.innerText !== old", arg=titles[-1]
        )
        bench.calm()
        if not step.is_visible():
            break
    assert len(titles) == len(set(titles)) >= 4
    expect(step).to_be_hidden()
    page.keyboard.press("/")
    expect(page.locator("[data-test=finder]")).to_be_visible()


def test_all_is_reached_by_keyboard(bench: Bench) -> None:
    """Tab goes through the controls without a trap, and each one that has it shows that it has the focus."""
    bench.new_graph(graph({"block": node("box")}, looking_at="block"))
    page = bench.page
    seen: list[str] = []
    for _ in range(70):
        page.keyboard.press("Tab")
        seen.append(
            page.evaluate(
                "(() => { const e = document.activeElement; const s = getComputedStyle(e"
                ".closest('.el-select__wrapper, .el-input__wrapper') ?? e); return e "
                "=== document.body ? '' :"
                " (e.dataset.test || e.getAttribute('aria-label') || e.innerText || e.tagName) + '|' "
                "+ (s.outlineStyle !== 'none' || s.boxShadow !== 'none') })()"
            )
        )
    names = {one.split("|")[0] for one in seen if one}
    for wanted in (
        "Colour by",
        "Edges",
        "tool-box",
        "panel-checks",
        "frame",
        "camera",
        "Width of the board",
        "ledger-point",
        "ledger-where",
        "canvas",
    ):
        assert wanted in names, wanted
    assert not [one for one in seen if one.endswith("|false")]


def test_a_shortcut_is_changed_and_kept(bench: Bench) -> None:
    made = bench.new_graph(graph({"block": node("box"), "cut": node("bevel", "block")}, looking_at="cut"))
    page = bench.page
    page.keyboard.press("?")
    page.click("[data-test=key-Skip]")
    page.keyboard.press("G")
    expect(page.locator("[data-test=key-said]")).to_have_text("G was ‘Fold’, which has no key now.")
    expect(page.locator("[data-test=key-Skip]")).to_have_text("G")
    page.keyboard.press("Escape")
    bench.open(made)
    select_cards(bench, "cut")
    page.keyboard.press("G")
    bench.settle()
    assert bench.state(made)["document"]["nodes"]["cut"]["skip"] is True
    page.keyboard.press("?")
    page.click("[data-test=usual-keys]")
    expect(page.locator("[data-test=key-Skip]")).to_have_text("K")
    expect(page.locator("[data-test=key-Fold]")).to_have_text("G")


def test_a_whole_job_is_done_by_keyboard_alone(bench: Bench) -> None:
    """A shape, a group by a formula, a raise of it, and a look at the numbers, without a mouse."""
    made = bench.new_graph(graph({}))
    page = bench.page

    def add(words: str) -> None:
        page.keyboard.press("/")
        page.keyboard.type(words)
        page.keyboard.press("Enter")
        page.wait_for_selector(".card.open")
        bench.settle()

    def focus(selector: str) -> None:
        for _ in range(160):
            page.keyboard.press("Tab")
            if page.evaluate("(wanted) => document.activeElement?.matches(wanted)", selector):
                return
        raise AssertionError(f"{selector} is not reached by Tab")

    add("grid")
    add("extrude")
    focus(".card.open [data-test=field-where] textarea")
    page.keyboard.type("index < 10")
    page.keyboard.press("Enter")
    bench.settle()
    focus("[data-test=canvas]")
    page.keyboard.press("ArrowLeft")
    focus("[data-test=ledger-where]")
    page.keyboard.type("area > 0")
    expect(page.locator("[data-test=ledger-row]").first).to_be_visible()
    nodes = bench.state(made)["document"]["nodes"]
    assert nodes["extrude_1"]["parameters"]["where"] == "index < 10"
    assert bench.report(made)["extrude_1"]["state"] == "done"
