"""The whole job through the real interface."""

from pathlib import Path

import numpy as np
from playwright.sync_api import expect

from reticula.core import Geo, ops
from tests.browser.conftest import Bench
from tools.choosing import choose

CHAIN = {
    "format": "reticula graph",
    "version": 1,
    "looking_at": "tall",
    "dials": {},
    "nodes": {
        "sheet": {"operator": "grid", "parameters": {"cells": [4, 4]}},
        "tall": {"operator": "extrude", "inputs": {"geo": ["sheet"]}, "parameters": {"distance": 0.5}},
    },
}


def drawn_share(picture: np.ndarray) -> float:
    return float((picture[..., 3] > 0).mean())


def test_the_demo_is_there_and_its_mesh_follows_a_slider(bench: Bench) -> None:
    bench.open()
    page = bench.page
    expect(page.locator(".card")).to_have_count(7)
    expect(page.locator("[data-test=graph]")).to_have_text("Settlement tile")
    expect(page.locator("[data-test=legend]")).to_contain_text("colours as they are")
    bench.settle()
    before = bench.pixels()
    assert drawn_share(before) > 0.15
    graph = page.url.partition("#")[2]
    height = bench.state(graph)["document"]["dials"]["ridge_height"]["value"]
    drawn = page.get_attribute("[data-test=canvas]", "data-drawn")
    slider = page.locator("[data-test=dial-ridge_height] .el-slider__runway")
    box = slider.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] * 0.4, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.9, box["y"] + box["height"] / 2, steps=6)
    page.wait_for_function("(old) => document.querySelector('[data-test=canvas]').dataset.drawn !== old", arg=drawn)
    bench.settle_picture()
    assert np.abs(bench.pixels().astype(int) - before).mean() > 1, "the mesh follows while the slider is held"
    assert bench.state(graph)["document"]["dials"]["ridge_height"]["value"] == height, "nothing is saved yet"
    page.mouse.up()
    bench.settle()
    assert bench.state(graph)["document"]["dials"]["ridge_height"]["value"] > 0.03
    page.click("[data-test=undo]")
    bench.settle()
    assert bench.state(graph)["document"]["dials"]["ridge_height"]["value"] == height
    assert np.abs(bench.pixels().astype(int) - before).mean() < 0.5


def test_a_length_that_goes_by_the_shape_has_a_slider_and_takes_metres_too(bench: Bench) -> None:
    bench.new_graph()
    page = bench.page
    bench.add("sphere")
    bench.set("radius", "0.01")
    bench.add("extr")
    field = page.locator(".card.open [data-test=field-distance]")
    expect(field.locator("textarea")).to_have_value("0.06 * extent")
    slider = field.get_by_role("slider")
    assert float(slider.get_attribute("aria-valuemax") or 0) == 0.5
    slider.press("End")
    bench.settle()
    expect(field.locator("textarea")).to_have_value("0.5 * extent")
    node = bench.state(page.url.partition("#")[2])["document"]["nodes"]["extrude_1"]
    assert node["parameters"]["distance"] == {"formula": "0.5 * extent"}
    field.locator("textarea").fill("0.003")
    field.locator("textarea").press("Enter")
    expect(field.locator(".unit")).to_have_text("m")


def test_build_from_nothing_undo_reload_and_find_the_same_mesh(bench: Bench, tmp_path: Path) -> None:
    graph = bench.new_graph()
    page = bench.page
    expect(page.locator(".stage .hint")).to_contain_text("Nothing here yet")
    bench.add("sheet of quads")
    bench.set("cells", "6")
    bench.add("mark")
    bench.set("name", "crest")
    bench.set("where", "position.x > 0")
    bench.add("extr")
    bench.set("where", "crest")
    bench.set("distance", "0.1 + 0.2 * random(1)")
    bench.add("smooth sub")
    by_hand = ops.group(ops.grid(cells=(6, 10)), name="crest", where="position.x > 0")
    by_hand = ops.smooth_subdivide(ops.extrude(by_hand, where="crest", distance="0.1 + 0.2 * random(1)"))
    page.click("[data-test=export]")
    with page.expect_download() as waiting:
        page.click("[data-test=download-file]")
    waiting.value.save_as(tmp_path / "a.ply")
    assert Geo.read(tmp_path / "a.ply").digest == by_hand.digest
    for _ in range(2):
        page.click("[data-test=undo]")
        bench.settle()
    state = bench.state(graph)
    assert (len(state["document"]["nodes"]), state["redo"]) == (3, "set distance of extrude")
    page.reload()
    bench.settle()
    expect(page.locator(".card")).to_have_count(3)
    for _ in range(2):
        page.click("[data-test=redo]")
        bench.settle()
    assert drawn_share(bench.pixels()) > 0.1
    page.click("[data-test=export]")
    with page.expect_download() as waiting:
        page.click("[data-test=download-file]")
    waiting.value.save_as(tmp_path / "b.ply")
    assert (tmp_path / "b.ply").read_bytes() == (tmp_path / "a.ply").read_bytes()


def test_upload_carry_a_colour_over_and_download(bench: Bench, tmp_path: Path) -> None:
    graph = bench.new_graph()
    page = bench.page
    scan = ops.set_attribute(ops.sphere(radius=0.6), name="color", value="vec4(normal * 0.5 + 0.5, 1)")
    scan.write(tmp_path / "my scan.ply")
    page.click("[data-test=open-shapes]")
    page.set_input_files("[data-test=upload] input", tmp_path / "my scan.ply")
    expect(page.locator(".card")).to_have_count(1)
    bench.settle()
    page.locator(".vue-flow__pane").click(position={"x": 30, "y": 480})
    bench.add("geodesic")
    bench.add("transfer")
    assert "nothing is connected to 'source'" in bench.report(graph)["transfer_attribute_1"]["error"]["message"]
    page.keyboard.press("Escape")
    page.locator(".vue-flow__pane").click(position={"x": 30, "y": 480})
    bench.settle()
    source = page.locator("[data-id=project_shape_1] .vue-flow__handle-bottom").bounding_box()
    target = page.locator("[data-id=transfer_attribute_1] .vue-flow__handle[data-handleid=source]").bounding_box()
    assert source
    assert target
    page.mouse.move(source["x"] + source["width"] / 2, source["y"] + source["height"] / 2)
    page.mouse.down()
    page.mouse.move(target["x"] + target["width"] / 2, target["y"] + target["height"] / 2, steps=8)
    page.mouse.up()
    bench.settle()
    assert bench.report(graph)["transfer_attribute_1"]["state"] == "done"
    expect(page.locator("[data-test=legend]")).to_contain_text("color")
    colors = bench.pixels()[..., :3][bench.pixels()[..., 3] > 0].reshape(-1, 3)
    assert len(np.unique(colors // 32, axis=0)) > 15, "many colours are seen"
    page.click("[data-test=export]")
    page.locator("[data-test=download-encoding]").get_by_text("ascii").click()
    with page.expect_download() as waiting:
        page.click("[data-test=download-file]")
    waiting.value.save_as(tmp_path / "out.ply")
    expected = ops.transfer_attribute(ops.geodesic_sphere(), scan)
    assert np.allclose(Geo.read(tmp_path / "out.ply").attribute("point", "color"), expected.attribute("point", "color"))


def test_a_broken_upload_is_explained_and_a_dropped_file_is_taken(bench: Bench, tmp_path: Path) -> None:
    bench.new_graph()
    page = bench.page
    (tmp_path / "bad.obj").write_text("v 1 2\n")
    page.click("[data-test=open-shapes]")
    page.set_input_files("[data-test=upload] input", tmp_path / "bad.obj")
    page.click("[data-test=read-files]")
    expect(page.locator(".el-message--error")).to_contain_text("bad.obj: line 1: a vertex has 2 numbers")
    page.evaluate(
        """() => { const files = new DataTransfer();
        files.items.add(new File(['v 0 0 0\\nv 1 0 0\\nv 0 1 0\\nf 1 2 3\\n'], 'drop.obj'));
        window.dispatchEvent(new DragEvent('drop', { dataTransfer: files, cancelable: true })) }"""
    )
    expect(page.locator("[data-test=arrivals]")).to_contain_text("Kept: faces, curves, uv")
    page.click("[data-test=read-files]")
    expect(page.locator(".card .title").first.locator("input")).to_have_value("project shape")
    bench.settle()
    expect(page.locator("[data-test=ledger-face]")).to_contain_text("1")
    bench.errors = [text for text in bench.errors if "422" not in text]


def test_a_failing_node_says_why_and_the_rest_still_shows(bench: Bench) -> None:
    graph = bench.new_graph(CHAIN)
    page = bench.page
    page.click("[data-test=card-tall] .title")
    bench.set("where", "hieght > 1")
    expect(page.locator("[data-test=field-where] .error")).to_contain_text("there is no 'hieght' on faces")
    expect(page.locator("[data-test=banner]")).to_contain_text("‘extrude’ has an error; its last good result is shown.")
    assert drawn_share(bench.pixels()) > 0.1
    bench.open(graph)
    expect(page.locator("[data-test=banner]")).to_contain_text("‘extrude’ has no result, so ‘grid’ is shown")
    page.click("[data-test=card-tall] .title")
    bench.set("where", "index < 2")
    field = page.locator("[data-test=field-distance] textarea")
    bench.answers.clear()
    field.fill("0.9")
    bench.wait_for_answer("/evaluations")
    field.press("Escape")
    bench.settle()
    assert bench.state(graph)["document"]["nodes"]["tall"]["parameters"]["distance"] == 0.5, (
        "Escape gives up what was typed"
    )
    expect(page.locator("[data-test=banner]")).to_have_count(0)
    assert bench.report(graph)["tall"]["notes"][0]["text"].startswith("Raised 2 faces")


def test_ledger_and_view_share_the_selection(bench: Bench) -> None:
    bench.new_graph(CHAIN)
    page = bench.page
    plain = bench.pixels()
    page.locator("[data-test=column-area]").click()
    page.locator("[data-test=column-area]").click()
    first = page.locator("[data-test=ledger-row]").first
    expect(first.locator(".cell").last).to_have_text("0.125")
    first.click()
    bench.frames()
    assert np.abs(bench.pixels().astype(int) - plain).max() > 40, "the selected face is seen in the view"
    page.keyboard.press("Escape")
    page.locator("[data-test=canvas]").click(position={"x": 400, "y": 240})
    expect(page.locator(".ledger .status")).to_contain_text("1 selected")
    page.fill("[data-test=ledger-where]", "side and index % 2 == 0")
    expect(page.locator(".ledger .status")).to_contain_text("8 rows")
    page.fill("[data-test=ledger-where]", "sidee")
    expect(page.locator(".ledger .status")).to_contain_text("there is no 'sidee'")
    page.click("[data-test=ledger-point]")
    expect(page.locator(".ledger .status")).to_contain_text("41 rows")


def test_false_colour_shows_the_real_range(bench: Bench) -> None:
    bench.new_graph(CHAIN)
    page = bench.page
    choose(page, "[data-test=color-by]", "values|face|area|")
    expect(page.locator("[data-test=legend-low]")).to_have_text("0.0625")
    expect(page.locator("[data-test=legend-high]")).to_have_text("0.125")
    expect(page.locator("[data-test=legend]")).to_contain_text("in m², per face")
    bench.settle()
    seen = bench.pixels()[..., :3].reshape(-1, 3).astype(int)
    assert ((seen[:, 0] > 150) & (seen[:, 1] > 140) & (seen[:, 2] < 90)).any(), "yellow, the largest"
    choose(page, "[data-test=color-by]", "values|face|top|")
    expect(page.locator("[data-test=legend]")).to_contain_text("in it: 16 faces")


def test_keys_duplicate_skip_look_remove(bench: Bench) -> None:
    graph = bench.new_graph(CHAIN)
    page = bench.page
    page.click("[data-test=card-tall] .title")
    page.locator("[data-test=card-tall] .about").click()
    page.keyboard.press("Control+d")
    expect(page.locator(".card")).to_have_count(3)
    bench.settle()
    page.keyboard.press("k")
    bench.settle()
    assert bench.state(graph)["document"]["nodes"]["extrude_1"]["skip"] is True
    page.keyboard.press("l")
    bench.settle()
    assert bench.state(graph)["document"]["looking_at"] == "extrude_1"
    page.keyboard.press("Delete")
    expect(page.locator(".card")).to_have_count(2)
    bench.settle()
    page.keyboard.press("Control+z")
    expect(page.locator(".card")).to_have_count(3)
    bench.settle()


def test_a_card_dropped_on_a_wire_goes_into_it(bench: Bench) -> None:
    document = {**CHAIN, "nodes": {**CHAIN["nodes"], "fine": {"operator": "smooth_subdivide", "place": [320, 20]}}}
    document["nodes"]["sheet"] = {**CHAIN["nodes"]["sheet"], "place": [0, 0]}
    document["nodes"]["tall"] = {**CHAIN["nodes"]["tall"], "place": [0, 330]}
    graph = bench.new_graph(document)
    page = bench.page
    card = page.locator("[data-test=card-fine]").bounding_box()
    above, below = (
        page.locator("[data-test=card-sheet]").bounding_box(),
        page.locator("[data-test=card-tall]").bounding_box(),
    )
    assert card
    assert above
    assert below
    page.mouse.move(card["x"] + 90, card["y"] + card["height"] - 14)
    page.mouse.down()
    middle = (above["y"] + above["height"] + below["y"]) / 2
    page.mouse.move(above["x"] + 90, middle + card["height"] / 2 - 14, steps=10)
    page.mouse.up()
    bench.settle()
    nodes = bench.state(graph)["document"]["nodes"]
    assert (nodes["tall"]["inputs"], nodes["fine"]["inputs"]) == ({"geo": ["fine"]}, {"geo": ["sheet"]})


def test_the_theme_is_kept_and_all_controls_have_names(bench: Bench) -> None:
    bench.new_graph(CHAIN)
    page = bench.page
    page.click("[data-test=card-tall] .title")
    bench.settle()
    nameless = page.evaluate(
        """() => [...document.querySelectorAll('button, input, select, textarea')].filter(e => e.offsetParent
        && !e.innerText?.trim() && !e.ariaLabel && !e.title && !e.labels?.length
        && !e.closest('[aria-label]')).map(e => e.outerHTML)"""
    )
    assert nameless == []
    with page.expect_response("**/api/settings"):
        page.click("[data-test=theme]")
    page.reload()
    page.wait_for_selector("html[data-theme=night]")
    with page.expect_response("**/api/settings"):
        page.click("[data-test=theme]")


def test_long_work_shows_progress_and_can_be_stopped(bench: Bench) -> None:
    nodes = {"n0": {"operator": "grid", "parameters": {"cells": [900, 900]}}}
    for i in range(1, 30):
        value = {"formula": f"noise(position * {i + 3.7}, 14)"}
        nodes[f"n{i}"] = {
            "operator": "set_attribute",
            "inputs": {"geo": [f"n{i - 1}"]},
            "parameters": {"name": "a", "value": value},
        }
    page = bench.page
    project = bench.client.post("/api/projects", {"title": "Long"})["id"]
    body = {
        "title": "Long",
        "document": {"format": "reticula graph", "version": 1, "nodes": nodes, "looking_at": "n29"},
    }
    graph = bench.client.post(f"/api/projects/{project}/graphs", body)["id"]
    page.goto(f"{bench.address}/#{graph}")
    expect(page.locator("[data-test=progress]")).to_contain_text("of 30")
    page.click("[data-test=stop]")
    expect(page.locator(".banner.bad")).to_contain_text("Stopped")
    expect(page.locator("[data-test=progress]")).to_have_count(0)


def test_two_windows_do_not_overwrite_each_other(bench: Bench) -> None:
    graph = bench.new_graph(CHAIN)
    page = bench.page
    other = [{"op": "add", "path": "/nodes/box", "value": {"operator": "box"}}]
    bench.client.post(f"/api/graphs/{graph}/edits", {"revision": 0, "patch": other, "label": "elsewhere"})
    page.click("[data-test=card-tall] .title")
    bench.set("distance", "0.75")
    nodes = bench.state(graph)["document"]["nodes"]
    assert (nodes["tall"]["parameters"]["distance"], "box" in nodes) == (0.75, True)
    expect(page.locator(".trouble")).to_have_count(0)
    bench.errors = [text for text in bench.errors if "409" not in text]
