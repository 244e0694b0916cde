"""Comparing, and the ways to see the whole, through the real interface: pixels on both sides, and the data behind
them.
"""

from __future__ import annotations

import time

import numpy as np
from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.browser.test_looking import look_from, middle
from tests.browser.test_operators import select_cards
from tests.core.graph.building import graph, node
from tools.choosing import choose


def halves(bench: Bench) -> tuple[np.ndarray, np.ndarray]:
    picture = bench.pixels()
    middle = picture.shape[1] // 2
    return picture[:, :middle], picture[:, middle:]


def differs(a: np.ndarray, b: np.ndarray) -> float:
    return float((a != b).any(axis=2).mean())


def test_two_results_are_seen_beside_each_other_and_across_a_line(bench: Bench) -> None:
    nodes = {"ball": node("sphere"), "block": node("box", cells=[3, 3, 3])}
    bench.new_graph(graph(nodes, looking_at="block"))
    page = bench.page
    page.click("[data-test=panel-compare]")
    choose(page, "[data-test=against]", "ball")
    page.click("[data-test=form-across]")
    expect(page.locator("[data-test=dividing-line]")).to_be_visible()
    bench.settle()
    before = halves(bench)
    page.focus("[data-test=dividing-line]")
    for _ in range(30):
        page.keyboard.press("ArrowLeft")
    bench.settle()
    after = halves(bench)
    assert differs(before[0], after[0]) > 0.05, "the block took the place of the ball"
    assert differs(before[1], after[1]) < 0.01
    page.click("[data-test=form-beside]")
    bench.settle()
    left, right = halves(bench)
    assert (left[..., 3] > 0).mean() > 0.05
    assert (right[..., 3] > 0).mean() > 0.05
    assert differs(left, right) > 0.02, "a ball and a block"
    choose(page, "[data-test=against]", "")
    bench.settle()
    expect(page.locator("[data-test=dividing-line]")).to_have_count(0)


def test_tied_cameras_show_both_from_the_same_side(bench: Bench) -> None:
    nodes = {"one": node("box", size=[1, 0.4, 0.6]), "two": node("transform", "one")}
    bench.new_graph(graph(nodes, looking_at="two"))
    page = bench.page
    page.click("[data-test=panel-compare]")
    choose(page, "[data-test=against]", "one")
    page.click("[data-test=form-beside]")
    bench.settle()
    left, right = halves(bench)
    assert differs(left[5:-5, 5:-5], right[5:-5, 5:-5]) < 0.02, "the same shape twice"
    look_from(bench, "top")
    bench.settle()
    top_left, top_right = halves(bench)
    assert differs(left, top_left) > 0.03
    assert differs(top_left[5:-5, 5:-5], top_right[5:-5, 5:-5]) < 0.02


def test_a_card_is_compared_with_itself_before_an_edit(bench: Bench) -> None:
    made = bench.new_graph(graph({"block": node("box", size=[1, 1, 1])}, looking_at="block"))
    page = bench.page
    select_cards(bench, "block")
    field = page.locator(".card.open [data-test=field-size] input").first
    field.fill("3")
    field.press("Enter")
    bench.settle()
    page.click("[data-test=panel-compare]")
    page.click("[data-test=against]")
    expect(page.get_by_role("option").last).to_have_text("before ‘set size of box’")
    page.keyboard.press("Escape")
    choose(page, "[data-test=against]", "@0")
    expect(page.locator("[data-test=farthest]")).to_contain_text("8 points are off it, 1 m at most")
    assert bench.state(made)["revision"] == 1


def test_a_line_of_colours_is_one_scale_for_both(bench: Bench) -> None:
    nodes = {
        "low": node("set_attribute", "sheet", name="heat", value=0.0),
        "sheet": node("grid", cells=[4, 4]),
        "high": node("set_attribute", "sheet", name="heat", value={"formula": "position.x + 0.5"}),
    }
    bench.new_graph(graph(nodes, looking_at="high"))
    page = bench.page
    choose(page, "[data-test=color-by]", "values|point|heat|")
    page.click("[data-test=panel-compare]")
    choose(page, "[data-test=against]", "low")
    page.click("[data-test=form-beside]")
    bench.settle()
    left, right = halves(bench)
    colors = lambda half: len(np.unique(half[half[..., 3] == 255][:, :3] // 24, axis=0))  # noqa: E731
    assert colors(right) > 2 * colors(left), "the low end of the same scale, everywhere"


def test_edges_groups_pieces_material_and_uv_change_the_picture(bench: Bench) -> None:
    nodes = {
        "block": node("box", cells=[4, 4, 4]),
        "top": node("group", "block", name="top", where="normal.y > 0.9"),
        "side": node("group", "top", name="side", where="normal.x > 0.9"),
    }
    bench.new_graph(graph(nodes, looking_at="side"))
    page = bench.page
    plain = bench.pixels()
    choose(page, "[data-test=edges]", "kinds")
    expect(page.locator("[data-test=edge-legend]")).to_contain_text("48 creases")
    bench.settle()
    assert differs(plain, bench.pixels()) > 0.005
    choose(page, "[data-test=edges]", "off")
    choose(page, "[data-test=color-by]", "groups|face||")
    expect(page.locator("[data-test=group-top]")).to_contain_text("16 (16.7 %)")
    seen = []
    for choice in ("groups|face||", "material|face||", "values|face|piece|", "checker|corner||"):
        choose(page, "[data-test=color-by]", choice)
        bench.settle()
        seen.append(bench.pixels())
    for n, one in enumerate(seen):
        for other in [plain, *seen[:n]]:
            assert differs(one, other) > 0.03
    page.click("[data-test=flat]")
    bench.settle()
    flat = bench.pixels()
    assert differs(flat, seen[-1]) > 0.05
    page.mouse.click(*middle(bench))
    expect(page.locator("[data-test=chosen-count]")).to_have_text("1 picked")
    page.click("[data-test=flat]")
    bench.settle()
    assert differs(bench.pixels(), seen[-1]) < 0.05, "the camera goes back to where it was"


def test_cards_count_what_checks_found_and_lead_there(bench: Bench) -> None:
    nodes = {
        "sheet": node("grid", cells=[4, 4]),
        "twice": node("join", inputs={"geometries": ["sheet", "sheet"]}),
        "group": node("group", "twice"),
    }
    made = bench.new_graph(graph(nodes, looking_at="group"))
    page = bench.page
    expect(page.locator("[data-test=checks-twice]")).to_have_text("50 points in one place")
    page.click("[data-test=checks-twice]")
    expect(page.locator("[data-test=check-points-in-one-place]")).to_have_class("entry fault")
    expect(page.locator("[data-test=check-open-borders]")).to_contain_text("to be expected here")
    bench.settle()
    assert bench.state(made)["document"]["looking_at"] == "twice"
    expect(page.locator("[data-test=checks-sheet]")).to_have_count(0)
    expect(page.locator("[data-test=checks-group]")).to_have_count(0)


def test_a_plane_is_turned_by_its_arrow_where_the_shape_stands(bench: Bench) -> None:
    nodes = {
        "ball": node("geodesic_sphere"),
        "placed": node("set_place", "ball", move=[2.0, 0.0, 0.0]),
        "cut": node("slice", "placed"),
    }
    made = bench.new_graph(graph(nodes, looking_at="placed"))
    page = bench.page
    look_from(bench, "front")
    page.click("[data-test=frame]")
    select_cards(bench, "cut")
    choose(page, "[data-test=handle-of]", label="direction")
    expect(page.locator("[data-test=handle-value]")).to_have_text("0, 1, 0")
    bench.settle()
    x, y = middle(bench, 0.5, 0.148)
    page.mouse.move(x + 40, y - 4)
    page.mouse.move(x + 40, y)
    page.mouse.down()
    page.mouse.move(x + 100, y, steps=6)
    page.mouse.up()
    bench.settle()
    way = bench.state(made)["document"]["nodes"]["cut"]["parameters"]["direction"]
    assert abs(np.linalg.norm(way) - 1) < 1e-3
    assert way[0] > 0.1


def test_places_are_added_by_clicks_and_the_mesh_follows(bench: Bench) -> None:
    nodes = {
        "guide": node("curve_through", places=[[0, 0.3, 0]]),
        "sheet": node("grid", size=[2, 2], cells=[20, 20]),
        "near": node("proximity_deform", inputs={"geo": ["sheet"], "source": ["guide"]}),
    }
    made = bench.new_graph(graph(nodes, looking_at="near"))
    page = bench.page
    select_cards(bench, "guide")
    before = bench.pixels()
    page.click("[data-test=tool-places]")
    page.mouse.click(*middle(bench, 0.62, 0.6))
    bench.settle()
    places = bench.state(made)["document"]["nodes"]["guide"]["parameters"]["places"]
    assert len(places) == 2
    assert abs(places[1][0]) <= 1
    assert differs(before, bench.pixels()) > 0.01
    expect(page.locator("[data-test=handle-of]")).to_have_attribute("data-chosen", "1")
    page.click("[data-test=add-place]")
    bench.settle()
    assert len(bench.state(made)["document"]["nodes"]["guide"]["parameters"]["places"]) == 3
    page.click("[data-test=undo]")
    bench.settle()
    assert len(bench.state(made)["document"]["nodes"]["guide"]["parameters"]["places"]) == 2


def test_a_picked_face_is_followed_when_a_card_before_it_splits_it(bench: Bench) -> None:
    made = bench.new_graph(graph({"sheet": node("grid", cells=[3, 3])}, looking_at="sheet"))
    page = bench.page
    page.mouse.click(*middle(bench))
    expect(page.locator("[data-test=chosen-count]")).to_have_text("1 picked")
    bench.add("group picked")
    page.click("[data-test=picked-replace]")
    bench.settle()
    picked = bench.state(made)["document"]["nodes"]["group_picked_1"]["parameters"]["elements"]
    assert picked[0].endswith("+")
    patch = [
        {"op": "add", "path": "/nodes/finer", "value": node("split_faces", "sheet")},
        {"op": "replace", "path": "/nodes/group_picked_1/inputs/geo", "value": ["finer"]},
    ]
    revision = bench.state(made)["revision"]
    bench.client.post(f"/api/graphs/{made}/edits", {"revision": revision, "patch": patch, "label": "finer"})
    bench.open(made)
    expect(page.locator("[data-test=card-group_picked_1]")).to_contain_text("'picked' holds 4 of 36 faces")
    notes = bench.report(made)["group_picked_1"]["notes"]
    assert any("were split since; all their 4 parts are taken" in note["text"] for note in notes)


def test_panes_are_put_away_and_come_back_as_they_were(bench: Bench) -> None:
    bench.new_graph(graph({"block": node("box")}, looking_at="block"))
    page = bench.page
    width = page.locator("[data-test=canvas]").bounding_box()["width"]  # type: ignore[index]
    page.focus("[aria-label='Width of the board']")
    page.keyboard.press("Enter")
    expect(page.locator("[data-test=back-board]")).to_be_visible()
    assert page.locator("[data-test=canvas]").bounding_box()["width"] > width + 300  # type: ignore[index]
    page.reload()
    page.wait_for_selector("[data-ready=true]")
    page.click("[data-test=back-board]")
    expect(page.locator("[data-test=card-block]")).to_be_visible()
    assert abs(page.locator("[data-test=canvas]").bounding_box()["width"] - width) < 2  # type: ignore[index]


def test_elements_are_picked_with_a_brush_and_kept_as_a_group(bench: Bench) -> None:
    made = bench.new_graph(graph({"sheet": node("grid", cells=[20, 20])}, looking_at="sheet"))
    page = bench.page
    page.click("[data-test=tool-brush]")
    page.mouse.move(*middle(bench, 0.42, 0.5))
    page.mouse.down()
    page.mouse.move(*middle(bench, 0.58, 0.5), steps=10)
    page.mouse.up()
    picked = page.locator("[data-test=chosen-count]")
    expect(picked).to_be_visible()
    bench.settle()
    few = int(picked.inner_text().split()[0])
    assert 5 < few < 200
    page.keyboard.down("Shift")
    page.mouse.move(*middle(bench, 0.5, 0.62))
    page.mouse.down()
    page.mouse.up()
    page.keyboard.up("Shift")
    expect(picked).not_to_have_text(f"{few} picked")
    more = int(picked.inner_text().split()[0])
    assert more > few
    page.click("[data-test=make-group]")
    bench.settle()
    kept = bench.state(made)["document"]["nodes"]["group_picked_1"]
    assert len(kept["parameters"]["elements"]) == more
    assert kept["inputs"] == {"geo": ["sheet"]}


def test_points_are_drawn_as_large_as_they_are(bench: Bench) -> None:
    nodes = {
        "sheet": node("grid", cells=[3, 3]),
        "size": node("set_attribute", "sheet", name="size", value={"formula": "0.02 + 0.12 * (position.x + 0.5)"}),
    }
    bench.new_graph(graph(nodes, looking_at="size"))
    page = bench.page
    look_from(bench, "top")
    bench.settle()
    none = bench.pixels()
    choose(page, "[data-test=points]", "dots")
    bench.settle()
    small = differs(none, bench.pixels())
    choose(page, "[data-test=points]", "size")
    bench.settle()
    real = bench.pixels()
    assert differs(none, real) > 3 * small > 0
    half = real.shape[1] // 2
    assert differs(none[:, half:], real[:, half:]) > 1.5 * differs(none[:, :half], real[:, :half])


def test_a_mouse_paints_as_a_simulated_pen(bench: Bench) -> None:
    made = bench.new_graph(graph({"sheet": node("grid", size=[2, 2], cells=[30, 30])}, looking_at="sheet"))
    page = bench.page
    select_cards(bench, "sheet")
    bench.add("paint")
    page.check("[data-test=simulated-pen]")
    mouse = page.context.new_cdp_session(page)
    at = time.time()
    # A slow hand presses harder. The events say their own seconds, so that a busy machine alters nothing.
    for down, pause in ((0.45, 0.04), (0.6, 0.002)):
        for step in range(10):
            x, y = middle(bench, 0.42 + 0.02 * min(step, 8), down)
            kind = "mousePressed" if step == 0 else "mouseReleased" if step == 9 else "mouseMoved"
            at += pause
            event = {"type": kind, "x": x, "y": y, "button": "left", "buttons": 1, "clickCount": 1, "timestamp": at}
            mouse.send("Input.dispatchMouseEvent", event)
        bench.settle()
    slow, fast = bench.state(made)["document"]["nodes"]["paint_1"]["parameters"]["strokes"]
    mean = lambda stroke: sum(dab[3] for dab in stroke["dabs"]) / len(stroke["dabs"])  # noqa: E731
    assert 0.15 <= mean(fast) < mean(slow) < 1
    page.click("[data-test=reset-strokes]")
    bench.settle()
    assert "strokes" not in bench.state(made)["document"]["nodes"]["paint_1"]["parameters"]
    page.click("[data-test=undo]")
    bench.settle()
    assert len(bench.state(made)["document"]["nodes"]["paint_1"]["parameters"]["strokes"]) == 2
