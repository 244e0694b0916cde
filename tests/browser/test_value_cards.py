"""Groups picked by hand, colour gradients and numbers in sight in the real interface."""

from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tools.choosing import choose


def test_faces_picked_in_the_view_become_a_group_that_survives_a_change_upstream(bench: Bench) -> None:
    graph = bench.new_graph()
    page = bench.page
    bench.add("box")
    bench.add("group picked")
    expect(page.locator(".card.open [data-test=picked]")).to_contain_text("click faces in the view")
    canvas = page.locator("[data-test=canvas]").bounding_box()
    assert canvas
    page.mouse.click(canvas["x"] + canvas["width"] / 2, canvas["y"] + canvas["height"] * 0.42)
    page.locator("[data-test=picked-replace]").click()
    bench.settle()
    kept = bench.state(graph)["document"]["nodes"]["group_picked_1"]["parameters"]["elements"]
    assert len(kept) == 1
    expect(page.locator(".card.open")).to_contain_text("'picked' holds 1 of 6 faces")
    bench.client.post(
        f"/api/graphs/{graph}/edits",
        {
            "revision": bench.state(graph)["revision"],
            "label": "larger",
            "patch": [
                {"op": "add", "path": "/nodes/box_1/parameters", "value": {"size": [3, 1, 1]}},
            ],
        },
    )
    notes = bench.report(graph)["group_picked_1"]["notes"]
    assert notes[-1]["text"].startswith("'picked' holds 1 of 6 faces")


def test_a_gradient_is_edited_on_the_card(bench: Bench) -> None:
    graph = bench.new_graph()
    page = bench.page
    bench.add("grid")
    bench.add("remap")
    bench.set("value", "position.x")
    bench.set("name", "color")
    choose(page, ".card.open [data-test=field-through] .choice", "gradient")
    bench.settle()
    before = bench.pixels()
    gradient = page.locator("[data-test=gradient]")
    stops = gradient.locator(".stop")
    expect(stops).to_have_count(4)
    box = gradient.locator(".strip").bounding_box()
    assert box
    page.mouse.dblclick(box["x"] + box["width"] * 0.5, box["y"] + 5)
    bench.settle()
    expect(stops).to_have_count(5)
    gradient.locator(".el-color-picker__trigger").click()
    page.locator(".el-color-picker-panel:visible input").fill("#ff0000")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="OK", exact=True).click()
    bench.settle()
    made = bench.state(graph)["document"]["nodes"]["remap_1"]["parameters"]["gradient"]
    assert made[2] == [0.5, 1.0, 0.0, 0.0, 1.0]
    bench.expect_another_picture(before)
    gradient.locator("[data-test=step-choice]").get_by_text("constant").click()
    bench.settle()
    made = bench.state(graph)["document"]["nodes"]["remap_1"]["parameters"]["gradient"]
    assert made[2] == [0.5, 1.0, 0.0, 0.0, 1.0, "constant"]
    stops.nth(2).press("Delete")
    bench.settle()
    expect(stops).to_have_count(4)


def test_a_closed_card_keeps_its_numbers_in_sight(bench: Bench) -> None:
    nodes = {
        "sheet": {"operator": "grid", "parameters": {"cells": [5, 2]}},
        "every": {"operator": "group_by_pattern", "inputs": {"geo": ["sheet"]}},
        "heat": {"operator": "noise_values", "inputs": {"geo": ["every"]}},
    }
    document = {
        "format": "reticula graph",
        "version": 1,
        "title": "x",
        "dials": {},
        "nodes": nodes,
        "looking_at": "heat",
    }
    bench.new_graph(document)
    note = "[data-test=card-note]"
    expect(bench.page.locator(f"[data-test=card-every] {note}")).to_have_text("'pattern' holds 5 of 10 faces (50.0%).")
    expect(bench.page.locator(f"[data-test=card-heat] {note}")).to_contain_text("Values are ")


def test_another_graph_lets_go_of_the_colour_that_was_chosen(bench: Bench) -> None:
    first = bench.new_graph()
    bench.add("grid")
    bench.add("noise values")
    choose(bench.page, "[data-test=color-by]", "values|point|rough|")
    bench.settle()
    other = bench.client.get(f"/api/graphs/{first}")["project_id"]
    second = bench.client.post(f"/api/projects/{other}/graphs", {"title": "Second"})["id"]
    bench.open(second)
    expect(bench.page.locator("[data-test=color-by]")).to_have_attribute("data-chosen", "")
