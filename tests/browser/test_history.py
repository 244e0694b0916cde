"""The history panel: moments looked at, named, compared and gone back to, branches too."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node


def edit(bench: Bench, made: str, revision: int, height: float) -> None:
    patch = [{"op": "add", "path": "/nodes/wall/parameters/distance", "value": height}]
    body = {"revision": revision, "patch": patch, "label": f"raise to {height:g}"}
    bench.client.post(f"/api/graphs/{made}/edits", body)


def test_any_moment_is_looked_at_and_nothing_changes_until_one_goes_back(bench: Bench) -> None:
    nodes: dict[str, Any] = {"sheet": node("grid"), "wall": node("extrude", "sheet", distance=0.1)}
    made = bench.new_graph({**graph(nodes), "looking_at": "wall"})
    page = bench.page
    for revision, height in enumerate((0.2, 0.3)):
        edit(bench, made, revision, height)
    bench.client.post(f"/api/graphs/{made}/undo", {"revision": 2})
    edit(bench, made, 3, 0.9)
    bench.open(made)
    now = bench.pixels()
    page.click("[data-test=open-history]")
    rows = page.locator("[data-test=moments] .moment")
    expect(rows).to_have_count(4)
    expect(rows.nth(0)).to_contain_text("raise to 0.9")
    expect(rows.nth(0)).to_contain_text("now")
    expect(page.locator("[data-test=moment-2]")).to_have_class("moment away")
    bench.settle()
    with_panel = bench.pixels()

    page.click("[data-test=moment-2]")
    expect(page.locator("[data-test=past]")).to_contain_text("as it was at")
    bench.expect_another_picture(with_panel, 0.01)
    page.click("[data-test=card-wall]")
    bench.frames()
    field = page.locator(".card.open [data-test=field-distance] textarea").first
    expect(field).to_have_value("0.3")
    field.fill("7")
    field.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("You look at an earlier moment.")
    assert bench.state(made)["revision"] == 4, "nothing changed"

    page.click("[data-test=name-moment]")
    page.locator(".el-message-box input").fill("Too low")
    page.locator(".el-message-box").get_by_role("button", name="Name it").click()
    expect(page.locator("[data-test=moment-2]")).to_contain_text("Too low")
    page.click("[data-test=mark]")
    page.click("[data-test=moment-4]")
    expect(page.locator("[data-test=past]")).to_have_count(0)
    page.click("[data-test=compare-moments]")
    expect(page.locator("[data-test=compared]")).to_contain_text("distance 0.3 → 0.9")

    page.click("[data-test=moment-1]")
    page.click("[data-test=go-back]")
    expect(page.locator("[data-test=past]")).to_have_count(0)
    bench.settle()
    state = bench.state(made)
    assert (state["revision"], state["document"]["nodes"]["wall"]["parameters"]["distance"]) == (5, 0.2)
    assert state["undo"] == "back to ‘raise to 0.2’"
    expect(rows.nth(0)).to_contain_text("back to ‘raise to 0.2’")
    page.click("[data-test=undo]")
    bench.settle()
    assert bench.state(made)["document"]["nodes"]["wall"]["parameters"]["distance"] == 0.9
    page.get_by_label("History").get_by_label("Close", exact=True).click()
    bench.settle()
    assert (bench.pixels() == now).mean() > 0.9
