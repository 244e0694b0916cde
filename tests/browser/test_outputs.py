"""Cards with several outputs, response curves and instances in the real interface."""

import numpy as np
from playwright.sync_api import expect

from tests.browser.conftest import Bench


def test_looking_at_the_second_output_and_going_on_from_it(bench: Bench) -> None:
    graph = bench.new_graph()
    page = bench.page
    bench.add("box")
    bench.add("slice")
    page.locator("[data-test=look-slice_1-below]").click()
    bench.settle()
    assert bench.state(graph)["document"]["looking_at"] == "slice_1:below"
    expect(bench.page.locator("[data-test=ledger-face]")).to_contain_text("6")
    page.locator(".vue-flow__pane").click(position={"x": 30, "y": 520})
    bench.add("triangulate")
    assert bench.state(graph)["document"]["nodes"]["triangulate_1"]["inputs"] == {"geo": ["slice_1:below"]}
    assert bench.report(graph)["triangulate_1"]["counts"]["faces"] == 12
    expect(page.locator("[data-test=card-triangulate_1]")).to_be_in_viewport()


def test_a_point_added_to_a_response_curve_changes_the_mesh(bench: Bench) -> None:
    graph = bench.new_graph()
    page = bench.page
    bench.add("line")
    bench.set("segments", "6")
    bench.add("sweep")
    bench.unfold("taper")
    curve = page.locator("[data-test=response-curve]")
    curve.scroll_into_view_if_needed()
    before = bench.pixels()
    box = curve.bounding_box()
    assert box
    page.mouse.dblclick(box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.9)
    bench.settle()
    points = bench.state(graph)["document"]["nodes"]["sweep_1"]["parameters"]["taper"]
    assert len(points) == 3
    assert points[1][0] == 0.5
    assert points[1][1] < 0.5
    bench.expect_another_picture(before)
    curve.locator("circle").nth(1).press("ArrowUp")
    bench.settle()
    assert bench.state(graph)["document"]["nodes"]["sweep_1"]["parameters"]["taper"][1][1] > points[1][1]
    curve.locator("circle").nth(1).press("Delete")
    bench.settle()
    assert "taper" not in bench.state(graph)["document"]["nodes"]["sweep_1"]["parameters"]


def test_instances_are_drawn_without_being_flattened(bench: Bench) -> None:
    nodes = {
        "sheet": {"operator": "grid", "parameters": {"cells": [4, 4]}},
        "pin": {"operator": "cone", "parameters": {"radius": 0.08, "height": 0.3}},
        "pins": {"operator": "place_instances", "inputs": {"geo": ["sheet"], "shapes": ["pin"]}},
    }
    bench.new_graph({"format": "reticula graph", "version": 1, "nodes": nodes, "looking_at": "pins"})
    assert (bench.pixels()[..., 3] > 0).mean() > 0.05, "something is drawn"
    bench.page.click("[data-test=ledger-instance]")
    expect(bench.page.locator(".ledger")).to_contain_text("25 rows")
    assert np.unique(bench.pixels().reshape(-1, 4), axis=0).shape[0] > 20
