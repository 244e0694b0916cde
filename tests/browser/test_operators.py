"""Folding, dials, ties, loops, publishing and importing through the real interface."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node
from tests.helpers import wait_until
from tools.choosing import choose


def lifted() -> dict[str, Any]:
    """Four cards in a row; the last is looked at."""
    nodes = {
        "sheet": node("grid", cells=[6, 6]),
        "mark": node("group", "sheet", name="marked", kind="face", where="index % 3 == 0"),
        "raise": node("extrude", "mark", where="marked", distance=0.2, together=False),
        "last": node("transform", "raise", scale=[1.0, 1.0, 1.0]),
    }
    return graph(nodes, looking_at="last")


def select_cards(bench: Bench, *cards: str) -> None:
    """Select cards, the first with a click, more with Ctrl."""
    for number, card in enumerate(cards):
        bench.page.locator(f"[data-test=card-{card}] .title").first.click(modifiers=["Control"] if number else [])


def fold(bench: Bench, title: str, *cards: str) -> None:
    bench.page.locator(".vue-flow__pane").click(position={"x": 470, "y": 500})
    select_cards(bench, *cards)
    bench.page.keyboard.press("g")
    bench.page.fill(".el-message-box input", title)
    bench.page.keyboard.press("Enter")
    bench.settle()


def counts(bench: Bench, graph_id: str, card: str) -> Any:
    return bench.report(graph_id)[card]["counts"]


def test_fold_go_in_make_a_dial_and_turn_it(bench: Bench) -> None:
    made = bench.new_graph(lifted())
    page = bench.page
    before = counts(bench, made, "last")
    fold(bench, "Buds", "mark", "raise")
    assert set(bench.state(made)["document"]["nodes"]) == {"sheet", "buds", "last"}
    assert counts(bench, made, "last") == before
    if not page.locator("[data-test=open-inside]").is_visible():
        select_cards(bench, "buds")
    page.click("[data-test=open-inside]")
    expect(page.locator("[data-test=trail]")).to_contain_text("Test graph")
    expect(page.locator("[data-test=card-raise]")).to_be_visible()
    bench.settle()
    select_cards(bench, "raise")
    page.locator("[data-test=more-distance]").drag_to(page.locator("[data-test=dials] header"))
    expect(page.locator("[data-test=dial-distance]")).to_be_visible()
    bench.settle()
    expect(page.locator("[data-test=row-distance]")).to_contain_text("dial distance")
    flat = bench.pixels()
    dial = page.locator("[data-test=dial-distance] textarea").first
    dial.fill("0.6")
    dial.press("Enter")
    bench.settle()
    bench.expect_another_picture(flat)
    assert bench.state(made)["document"]["nodes"]["buds"]["parameters"] == {"distance": 0.6}
    page.click("[data-test=edit-dial-distance]")
    page.fill("[data-test=dial-name]", "bud_height")
    page.fill("[data-test=dial-help]", "how far buds rise")
    page.fill("[data-test=dial-section]", "Buds")
    page.click("[data-test=keep-dial]")
    expect(page.locator("[data-test=dial-bud_height]")).to_be_visible()
    bench.settle()
    page.keyboard.press("Escape")
    page.locator(".vue-flow__pane").click(position={"x": 470, "y": 300})
    page.keyboard.press("Shift+Enter")
    expect(page.locator("[data-test=trail]")).to_have_count(0)
    select_cards(bench, "buds")
    expect(page.locator("[data-test=field-bud_height]")).to_be_visible()
    assert bench.state(made)["document"]["nodes"]["buds"]["parameters"] == {"bud_height": 0.6}
    page.click("[data-test=reset-card]")
    wait_until(lambda: bench.state(made)["document"]["nodes"]["buds"]["parameters"] == {})
    bench.settle()
    page.click("[data-test=unfold]")
    wait_until(lambda: set(bench.state(made)["document"]["nodes"]) == {"sheet", "mark", "raise", "last"})
    bench.settle()
    for _ in range(2):
        page.click("[data-test=undo]")
        bench.settle()
    assert bench.state(made)["document"]["nodes"]["buds"]["parameters"] == {"bud_height": 0.6}


def test_a_parameter_follows_another_and_both_show_it(bench: Bench) -> None:
    made = bench.new_graph(graph({"rings": node("torus"), "ball": node("sphere")}, looking_at="ball"))
    page = bench.page
    select_cards(bench, "ball")
    page.click("[data-test=more-radius]")
    page.click("[data-test=follow-radius]")
    choose(page, "[data-test=follow-choice-radius]", "rings.radius")
    expect(page.locator("[data-test=row-radius]")).to_contain_text("follows rings: radius")
    bench.settle()
    select_cards(bench, "rings")
    expect(page.locator("[data-test=followers-radius]")).to_contain_text("followed by ball: radius")
    title = page.locator("[data-test=card-rings] .title input")
    title.fill("Guide rings")
    title.press("Enter")
    bench.settle()
    nodes = bench.state(made)["document"]["nodes"]
    assert nodes["ball"]["parameters"]["radius"] == {"formula": "guide_rings.radius"}
    select_cards(bench, "guide_rings")
    bench.set("radius", "2.5")
    assert bench.report(made)["ball"]["state"] == "done"


def test_a_loop_is_built_and_one_round_looked_at(bench: Bench) -> None:
    made = bench.new_graph(graph({"block": node("box")}, looking_at="block"))
    page = bench.page
    select_cards(bench, "block")
    bench.add("repeat")
    bench.set("rounds", "4")
    page.click("[data-test=open-inside]")
    expect(page.locator("[data-test=card-start]")).to_be_visible()
    bench.settle()
    select_cards(bench, "start")
    bench.add("extrude")
    bench.set("where", "random(iteration) > 0.5")
    inner = bench.state(made)["document"]["nodes"]["repeat_1"]["graph"]
    assert inner["outputs"][0]["feed"] == "start"
    page.click("[data-test=ports]")
    choose(page, "[data-test=outputs-geo] [data-test=port-feed]", "extrude_1")
    page.keyboard.press("Escape")
    bench.settle()
    last = page.locator("[data-test=card-extrude_1] footer").inner_text()
    page.fill("[data-test=round]", "0")
    page.press("[data-test=round]", "Enter")
    bench.settle()
    expect(page.locator("[data-test=card-extrude_1] footer")).not_to_have_text(last)
    page.click("[data-test=go-out]")
    bench.settle()
    done = counts(bench, made, "repeat_1")
    assert done["faces"] > 6
    expect(page.locator("[data-test=card-repeat_1] footer")).to_contain_text(f"{done['faces']:,}")


def test_publish_use_update_pack_and_import(bench: Bench, tmp_path: Path) -> None:
    made = bench.new_graph(lifted())
    page = bench.page
    fold(bench, "Bud field", "mark", "raise")
    if not page.locator("[data-test=publish]").is_visible():
        select_cards(bench, "bud_field")
    page.click("[data-test=publish]")
    page.fill("[data-test=publish-summary]", "Raises every third face")
    page.fill("[data-test=publish-help]", "Connect a sheet.")
    page.click("[data-test=publish-try]")
    expect(page.locator("[data-test=publish-seen]")).to_contain_text("Its example runs.")
    page.click("[data-test=publish-go]")
    expect(page.locator("[data-test=operator-page] h2")).to_have_text("Bud field")
    expect(page.locator("[data-test=operator-page] img")).to_have_js_property("naturalWidth", 640)
    page.click("[data-test=add-from-catalogue]")
    bench.settle()
    nodes = bench.state(made)["document"]["nodes"]
    assert nodes["bud_field_1"]["operator"] == "bud_field@1.0.0"
    expect(page.locator("[data-test=release]")).to_contain_text("bud field 1.0.0")

    page.locator(".vue-flow__pane").click(position={"x": 470, "y": 500})
    select_cards(bench, "bud_field")
    page.click("[data-test=open-inside]")
    bench.settle()
    select_cards(bench, "raise")
    page.click("[data-test=more-distance]")
    page.click("[data-test=make-dial-distance]")
    bench.settle()
    page.locator(".vue-flow__pane").click(position={"x": 470, "y": 300})
    page.keyboard.press("Shift+Enter")
    select_cards(bench, "bud_field")
    page.click("[data-test=publish]")
    expect(page.locator("[data-test=publish-release]")).to_have_value("1.1.0")
    page.click("[data-test=publish-try]")
    expect(page.locator("[data-test=publish-seen]")).to_contain_text("new: the dial 'distance'")
    page.click("[data-test=publish-go]")
    expect(page.locator("[data-test=page-release]")).to_have_attribute("data-chosen", "bud_field@1.1.0")
    with page.expect_download() as loading:
        page.click("[data-test=download-package]")
    package = tmp_path / "bud_field.zip"
    loading.value.save_as(package)
    page.keyboard.press("Escape")
    select_cards(bench, "bud_field_1")
    expect(page.locator("[data-test=offer]")).to_contain_text("1.1.0 is there.")
    page.click("[data-test=differs]")
    expect(page.locator("[data-test=offer]")).to_contain_text("new: the dial 'distance'")
    page.click("[data-test=take-release]")
    bench.settle()
    assert bench.state(made)["document"]["nodes"]["bud_field_1"]["operator"] == "bud_field@1.1.0"

    page.click("[data-test=open-catalogue]")
    page.set_input_files("[data-test=package] input", package)
    expect(page.locator("[data-test=review]")).to_contain_text("there already, the same")
    page.click("[data-test=take-package]")
    expect(page.locator("[data-test=review]")).to_have_count(0)
    page.click("[data-test=send-to-depot]")
    page.get_by_text("Depot", exact=True).click()
    expect(page.locator(".depot")).to_contain_text("bud_field@1.1.0")
    page.click("[data-test='fetch-growth@1.0.0']")
    expect(page.locator("[data-test=review]")).to_contain_text("Growth")
    page.click("[data-test=take-package]")
    expect(page.locator("[data-test=operator-page] h2")).to_have_text("Growth")


def test_a_published_operator_is_looked_into_but_not_changed(bench: Bench) -> None:
    made = bench.new_graph(
        graph(
            {"s": node("project_shape"), "t": node("settlement_tile@1.0.0", inputs={"survey": ["s"]})}, looking_at="t"
        )
    )
    page = bench.page
    expect(page.locator("[data-test=card-t]")).to_contain_text("waits for")
    select_cards(bench, "t")
    page.click("[data-test=open-inside]")
    expect(page.locator("[data-test=trail]")).to_contain_text("published, cannot be changed")
    bench.settle()
    select_cards(bench, "niches")
    bench.set("name", "nooks")
    expect(page.locator(".trouble")).to_contain_text("A published operator never changes")
    assert bench.state(made)["revision"] == 0


def test_search_frames_jumps_and_cards_as_text(bench: Bench) -> None:
    made = bench.new_graph(lifted())
    page = bench.page
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    fold(bench, "Buds", "mark", "raise")
    page.locator(".vue-flow__pane").click(position={"x": 470, "y": 500})
    page.keyboard.press("Control+f")
    page.fill("[data-test=search-graph]", "marked distance")
    page.keyboard.press("Enter")
    expect(page.locator("[data-test=trail]")).to_be_visible()
    expect(page.locator("[data-test=card-raise].open")).to_be_visible()
    page.click("[data-test=leave-0]")
    bench.settle()
    select_cards(bench, "sheet", "buds")
    page.click("[data-test=frame]")
    expect(page.locator("[data-test=frame-frame]")).to_be_visible()
    bench.settle()
    assert bench.state(made)["document"]["frames"]["frame"]["nodes"] == ["sheet", "buds"]
    page.locator(".vue-flow__pane").click(position={"x": 470, "y": 560})
    select_cards(bench, "last")
    page.keyboard.press("j")
    page.fill(".el-message-box input", "the end")
    page.keyboard.press("Enter")
    bench.settle()
    assert bench.state(made)["document"]["jumps"] == {"the end": "last"}
    page.locator(".vue-flow__pane").click(position={"x": 470, "y": 560})
    select_cards(bench, "buds")
    page.evaluate("document.activeElement?.blur()")
    page.keyboard.press("Control+c")
    text = page.evaluate("navigator.clipboard.readText()")
    assert '"format": "reticula cards"' in text
    page.keyboard.press("Control+v")
    bench.settle()
    nodes = bench.state(made)["document"]["nodes"]
    assert nodes["folded_1"]["graph"] == nodes["buds"]["graph"]
    assert nodes["folded_1"]["inputs"] == {"geo": ["sheet"]}
