"""Looking closer and touching through the real interface: checks, trace, comparison, choices, handles, scales,
stills.
"""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.browser.test_operators import select_cards
from tests.core.graph.building import graph, node
from tools.choosing import choose


def middle(bench: Bench, across: float = 0.5, down: float = 0.5) -> tuple[float, float]:
    box = bench.page.locator("[data-test=canvas]").bounding_box()
    assert box
    return box["x"] + box["width"] * across, box["y"] + box["height"] * down


def look_from(bench: Bench, direction: str) -> None:
    """Move the camera by its menu, and wait until that is gone: it lies over the picture."""
    bench.page.click("[data-test=camera]")
    bench.page.click(f"[data-test=camera-{direction}]")
    expect(bench.page.locator(f"[data-test=camera-{direction}]")).to_be_hidden()


def test_checks_show_where_and_offer_what_mends(bench: Bench) -> None:
    made = bench.new_graph(
        graph({"sheet": node("grid", cells=[4, 4]), "apart": node("unshare", "sheet")}, looking_at="apart")
    )
    page = bench.page
    page.click("[data-test=panel-checks]")
    expect(page.locator("[data-test=check-open-borders]")).to_contain_text("64")
    before = bench.pixels()
    page.click("[data-test=check-points-in-one-place] button >> nth=0")
    expect(page.locator("[data-test=chosen-count]")).to_have_text("60 picked")
    bench.settle()
    bench.expect_another_picture(before)
    page.click("[data-test=check-points-in-one-place] button >> nth=1")
    bench.settle()
    assert bench.state(made)["document"]["nodes"]["weld_1"]["inputs"] == {"geo": ["apart"]}
    expect(page.locator("[data-test=check-points-in-one-place]")).to_have_count(0)
    expect(page.locator("[data-test=check-open-borders]")).to_contain_text("16")


def test_a_trace_leads_through_the_board(bench: Bench) -> None:
    nodes = {
        "block": node("box", cells=[2, 2, 2]),
        "fine": node("smooth_subdivide", "block"),
        "moved": node("transform", "fine"),
        "other": node("grid"),
    }
    bench.new_graph(graph(nodes, looking_at="moved"))
    page = bench.page
    page.click("[data-test=panel-trace]")
    expect(page.locator("[data-test=inspector]")).to_contain_text("Pick a point, edge, corner or face")
    page.mouse.click(*middle(bench))
    steps = page.locator("[data-test=inspector] li")
    expect(steps).to_have_count(3)
    expect(steps.last).to_contain_text("box")
    expect(page.locator(".card.traced")).to_have_count(3)
    page.keyboard.press("t")
    expect(page.locator(".card.traced")).to_have_count(0)


def test_two_results_are_compared_with_colours_and_a_ghost(bench: Bench) -> None:
    nodes = {"ball": node("sphere"), "large": node("transform", "ball", scale=[1.5, 1.5, 1.5])}
    bench.new_graph(graph(nodes, looking_at="large"))
    page = bench.page
    before = bench.pixels()
    page.click("[data-test=panel-compare]")
    choose(page, "[data-test=against]", "ball")
    expect(page.locator("[data-test=farthest]")).to_contain_text("points are off it")
    expect(page.locator("[data-test=legend]")).to_contain_text("distance")
    bench.settle()
    bench.expect_another_picture(before, 0.05)
    select_cards(bench, "ball")
    page.click("[data-test=ghost-ball]")
    page.click("[data-test=inspector] [aria-label=Close]")
    expect(page.locator("[data-test=legend]")).to_have_count(0)


def test_a_box_picks_grows_and_becomes_a_group(bench: Bench) -> None:
    made = bench.new_graph(graph({"sheet": node("grid", cells=[10, 10])}, looking_at="sheet"))
    page = bench.page
    page.keyboard.press("2")
    page.mouse.move(*middle(bench, 0.44, 0.44))
    page.mouse.down()
    page.mouse.move(*middle(bench, 0.56, 0.56), steps=5)
    page.mouse.up()
    picked = page.locator("[data-test=chosen-count]")
    expect(picked).to_be_visible()
    few = int(picked.inner_text().split()[0])
    assert 0 < few < 60
    page.click("[data-test=spread-grow]")
    expect(picked).not_to_have_text(f"{few} picked")
    more = int(picked.inner_text().split()[0])
    page.click("[data-test=tool-click]")
    bench.add("group picked")
    page.click("[data-test=picked-replace]")
    bench.settle()
    assert len(bench.state(made)["document"]["nodes"]["group_picked_1"]["parameters"]["elements"]) == more


def test_a_handle_is_dragged_and_the_mesh_follows(bench: Bench) -> None:
    made = bench.new_graph(graph({"block": node("box"), "away": node("transform", "block")}, looking_at="away"))
    page = bench.page
    select_cards(bench, "away")
    expect(page.locator("[data-test=handle]")).to_contain_text("0, 0, 0 m")
    look_from(bench, "front")
    page.click("[data-test=frame]")
    bench.settle()
    before = bench.pixels()
    x, y = middle(bench)
    page.mouse.move(x + 3, y)
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(1, 9):
        page.mouse.move(x + 12 * step, y - 3 * step)
    page.mouse.up()
    bench.settle()
    move = bench.state(made)["document"]["nodes"]["away"]["parameters"]["move"]
    assert max(abs(part) for part in move) > 0.05
    bench.expect_another_picture(before)
    assert bench.state(made)["undo"] == "move move"


def test_the_scale_is_chosen_and_fitted_to_a_part_of_the_values(bench: Bench) -> None:
    nodes = {
        "sheet": node("grid", cells=[8, 8]),
        "v": node("set_attribute", "sheet", name="heat", value={"formula": "position.x"}),
    }
    bench.new_graph(graph(nodes, looking_at="v"))
    page = bench.page
    choose(page, "[data-test=color-by]", "values|point|heat|")
    expect(page.locator("[data-test=legend-low]")).to_have_text("-0.5")
    expect(page.locator("[data-test=histogram] i")).to_have_count(40)
    even = bench.pixels()
    choose(page, "[data-test=scale]", "signed")
    bench.settle()
    bench.expect_another_picture(even, 0.05)
    page.focus("[data-test=range-high]")
    for _ in range(10):
        page.keyboard.press("ArrowLeft")
    expect(page.locator("[data-test=legend-high]")).to_have_text("0.3")
    page.click("[data-test=real-range]")
    expect(page.locator("[data-test=legend-high]")).to_have_text("0.5")
    choose(page, "[data-test=labels-of]", "index")
    expect(page.locator("[data-test=labels] text").first).to_be_visible()
    choose(page, "[data-test=strokes]", "face|normal")
    bench.settle()
    assert len(np.unique(bench.pixels().reshape(-1, 4), axis=0)) > 10


def test_a_dialog_begun_from_a_menu_keeps_the_keyboard(bench: Bench) -> None:
    """What is typed at once must not go to the button of the menu, which gets the focus back when the menu closes."""
    bench.new_graph(graph({"block": node("box")}, looking_at="block"))
    page = bench.page
    page.evaluate(
        "() => { window.focused = [];"
        " document.addEventListener('focusin', (event) => window.focused.push(event.target.tagName), true) }"
    )
    page.click("[data-test=camera]")
    page.click("[data-test=camera-keep]")
    expect(page.locator(".el-message-box input")).to_be_focused()
    bench.calm()
    bench.settle()
    focused = page.evaluate("window.focused")
    assert focused[-2:] == ["BUTTON", "INPUT"]
    assert focused.count("INPUT") == 1


def test_standpoints_stills_freezing_and_shortcuts(bench: Bench, tmp_path: Path) -> None:
    made = bench.new_graph(graph({"block": node("box", size=[1, 2, 1])}, looking_at="block"))
    page = bench.page
    corner = bench.pixels()
    look_from(bench, "front")
    bench.settle()
    front = bench.pixels()
    assert (front != corner).mean() > 0.05
    look_from(bench, "parallel")
    bench.settle()
    page.click("[data-test=camera]")
    page.click("[data-test=camera-keep]")
    page.fill(".el-message-box input", "crest")
    page.keyboard.press("Enter")
    bench.settle()
    there = bench.pixels()
    assert bench.state(made)["document"]["standpoints"]["crest"]["parallel"] is True
    look_from(bench, "top")
    bench.settle()
    bench.expect_another_picture(there, 0.05)
    page.click("[data-test=camera]")
    page.click("[data-test=standpoint-crest]")
    expect(page.locator("[data-test=standpoint-crest]")).to_be_hidden()
    bench.settle()
    assert (bench.pixels() != there).mean() < 0.01
    page.click("[data-test=still]")
    with page.expect_download() as loading:
        page.click("[data-test=still-backdrop]")
    loading.value.save_as(tmp_path / "still.png")
    assert (tmp_path / "still.png").read_bytes().startswith(b"\x89PNG")
    page.keyboard.press("/")
    page.fill("[data-test=finder]", "freeze")
    page.keyboard.press("Enter")
    page.fill(".el-message-box input", "Block by hand")
    page.keyboard.press("Enter")
    expect(page.locator("[data-test=open-shapes]")).to_contain_text("1")
    project = bench.state(made)["project_id"]
    assert bench.client.get(f"/api/projects/{project}/assets")["assets"][0]["name"] == "block_by_hand"
    expect(page.locator(".el-message-box")).to_have_count(0)
    page.wait_for_function("!document.querySelector('.el-overlay:not([style*=\"display: none\"])')")
    page.keyboard.press("?")
    expect(page.locator("[data-test=shortcuts]")).to_contain_text("fold")


def test_the_ledger_edits_values_names_and_types_as_cards(bench: Bench) -> None:
    nodes = {
        "sheet": node("grid", cells=[3, 1]),
        "v": node("set_attribute", "sheet", name="heat", kind="face", value={"formula": "index * 2"}),
    }
    made = bench.new_graph(graph(nodes, looking_at="v"))
    page = bench.page
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    page.click("[data-test=ledger-face]")
    page.dblclick("[data-test=cell-1-heat]")
    page.fill("[data-test=cell-1-heat] input", "7")
    page.keyboard.press("Enter")
    expect(page.locator("[data-test=cell-1-heat]")).to_have_text("7")
    bench.settle()
    page.dblclick("[data-test=cell-2-heat]")
    page.fill("[data-test=cell-2-heat] input", "-1")
    page.keyboard.press("Enter")
    expect(page.locator("[data-test=cell-2-heat]")).to_have_text("-1")
    bench.settle()
    nodes = bench.state(made)["document"]["nodes"]
    assert [node["operator"] for node in nodes.values()] == ["grid", "set_attribute", "edit_values"]
    assert sorted(nodes["edit_values_1"]["parameters"]["edits"].values()) == [-1, 7]
    page.click("[data-test=more-column-heat]")
    page.click("[data-test=rename-column-heat]")
    page.fill(".el-message-box input", "warmth")
    page.keyboard.press("Enter")
    expect(page.locator("[data-test=column-warmth]")).to_be_visible()
    bench.settle()
    page.click("[data-test=copy-csv]")
    expect(page.locator(".el-message--success")).to_contain_text("3 rows")
    lines = page.evaluate("navigator.clipboard.readText()").splitlines()
    assert lines[0] == "index,warmth,area"
    assert lines[2].startswith("1,7,")
    page.click("[data-test=more-column-warmth]")
    page.click("[data-test=remove-column-warmth]")
    expect(page.locator("[data-test=column-warmth]")).to_have_count(0)
    bench.settle()
    assert len(bench.state(made)["document"]["nodes"]) == 5


def test_measure_cut_open_loop_and_ask_a_wire(bench: Bench) -> None:
    nodes = {"block": node("box", cells=[4, 4, 4]), "away": node("transform", "block")}
    bench.new_graph(graph(nodes, looking_at="away"))
    page = bench.page
    look_from(bench, "front")
    page.click("[data-test=frame]")
    page.click("[data-test=tool-measure]")
    expect(page.locator("[data-test=measured]")).to_have_text("click a place of the surface")
    page.mouse.click(*middle(bench, 0.45, 0.5))
    page.mouse.click(*middle(bench, 0.55, 0.5))
    expect(page.locator("[data-test=measured]")).to_contain_text(" m")
    page.mouse.click(*middle(bench, 0.55, 0.4))
    expect(page.locator("[data-test=measured]")).to_contain_text("°")
    page.click("[data-test=tool-click]")
    expect(page.locator("[data-test=measured]")).to_have_count(0)
    bench.settle()
    whole = bench.pixels()
    page.click("[data-test=section]")
    page.click("[data-test=section-x]")
    expect(page.locator("[data-test=section-x]")).to_be_hidden()
    expect(page.locator("[data-test=cut]")).to_be_visible()
    bench.settle()
    bench.expect_another_picture(whole, 0.03)
    page.click("[aria-label='Pick edges']")
    page.mouse.click(*middle(bench, 0.46, 0.46))
    expect(page.locator("[data-test=chosen-count]")).to_have_text("1 picked")
    page.click("[data-test=spread-ring]")
    expect(page.locator("[data-test=chosen-count]")).to_have_text("16 picked")
    select_cards(bench, "block")
    page.keyboard.press("i")
    expect(page.locator("[data-test=through]")).to_contain_text("98 points")
    expect(page.locator("[data-test=through]")).to_contain_text("-0.5 … 0.5")


def test_strokes_are_painted_with_mouse_and_pen_and_taken_back_one_by_one(bench: Bench) -> None:
    made = bench.new_graph(graph({"sheet": node("grid", size=[2, 2], cells=[30, 30])}, looking_at="sheet"))
    page = bench.page
    select_cards(bench, "sheet")
    bench.add("paint")
    expect(page.locator("[data-test=tool-paint]")).to_have_attribute("aria-pressed", "true")
    field = page.locator("[data-test=field-radius] textarea").first
    field.fill("0.3")
    field.press("Enter")
    bench.settle()
    choose(page, "[data-test=color-by]", "values|point|painted|")
    bench.settle()
    plain = bench.pixels()
    page.mouse.move(*middle(bench, 0.45, 0.5))
    page.mouse.down()
    page.mouse.move(*middle(bench, 0.6, 0.5), steps=8)
    page.mouse.up()
    bench.settle()
    one = bench.pixels()
    assert (one != plain).mean() > 0.01
    [first] = bench.state(made)["document"]["nodes"]["paint_1"]["parameters"]["strokes"]
    assert len(first["dabs"]) > 3
    assert all(dab[3] == 1 for dab in first["dabs"])
    assert len(first["anchors"]) == len(first["dabs"])
    assert "world" not in first
    x, y = middle(bench, 0.5, 0.62)
    page.evaluate(
        """([x, y]) => { const canvas = document.querySelector('[data-test=canvas]');
        const drawn = [['pointerdown', x, 0.2], ['pointermove', x + 40, 0.6], ['pointerup', x + 40, 0]];
        const pen = { clientY: y, pointerType: 'pen', button: 0, pointerId: 1, bubbles: true };
        for (const [type, clientX, pressure] of drawn)
          canvas.dispatchEvent(new PointerEvent(type, { ...pen, clientX, pressure })) }""",
        [x, y],
    )
    bench.settle()
    strokes = bench.state(made)["document"]["nodes"]["paint_1"]["parameters"]["strokes"]
    assert [round(dab[3], 3) for dab in strokes[1]["dabs"]] == [0.2, 0.6]
    page.click("[data-test=undo]")
    bench.settle()
    assert len(bench.state(made)["document"]["nodes"]["paint_1"]["parameters"]["strokes"]) == 1


def test_what_is_brushed_in_a_chart_is_selected_and_listed(bench: Bench) -> None:
    nodes = {
        "sheet": node("grid", cells=[10, 10]),
        "v": node("set_attribute", "sheet", name="level", kind="face", value={"formula": "index"}),
        "low": node("group", "v", name="low", kind="face", where="level < 20"),
    }
    bench.new_graph(graph(nodes, looking_at="low"))
    page = bench.page
    page.click("[data-test=show-charts]")
    choose(page, "[data-test=chart-first]", label="level")
    chart = page.locator("[data-test=chart]")
    expect(chart).to_have_attribute("data-ready", "true")
    box = chart.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] - 4, box["y"] + box["height"] / 2, steps=6)
    page.mouse.up()
    expect(page.locator("[data-test=chosen-count]")).to_have_text(re.compile(r"^(3\d|4\d) picked$"))
    page.click("[data-test=chart-where]")
    expect(page.locator("[data-test=ledger-where]")).to_have_value(re.compile(r"^level >= \d+"))
    expect(page.locator("[data-test=ledger-row]").first).to_be_visible()
    page.click("[data-test=show-charts]")
    for form in ("against", "by group", "cards"):
        page.locator("[data-test=chart-form]").get_by_text(form, exact=True).click()
        expect(page.locator("[data-test=charts] [role=status]")).not_to_contain_text("fetching")
    expect(page.locator("[data-test=chart]")).to_have_attribute("aria-label", "what each card makes and takes")
