"""Instances in the view: coloured, picked and shown as points and edges, as meshes are."""

from __future__ import annotations

import numpy as np
from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node
from tools.choosing import choose

NODES = {
    "spots": node("grid", cells=[1, 1], size=[2.0, 2.0]),
    "shell": node("box", size=[0.6, 0.6, 0.6]),
    "heat": node("set_attribute", "shell", name="heat", value={"formula": "position.y"}),
    "placed": node("place_instances", "spots", inputs={"shapes": ["heat"]}),
    "named": node("set_attribute", "placed", name="load", kind="instance", value={"formula": "index"}),
}


def vivid(bench: Bench) -> float:
    """The share of what is drawn that is not clay: false colours are far from grey."""
    bench.settle_picture()
    pixels = bench.pixels().astype(int)
    drawn = pixels[pixels[..., 3] > 200][:, :3]
    return float((drawn.max(axis=1) - drawn.min(axis=1) > 70).mean())


def test_instances_show_their_own_values_and_those_of_their_shape(bench: Bench) -> None:
    bench.new_graph(graph(NODES, looking_at="named"))
    assert vivid(bench) < 0.02
    choose(bench.page, "[data-test=color-by]", "values|instance|load|")
    bench.settle()
    expect(bench.page.locator("[data-test=legend]")).to_contain_text("load")
    assert vivid(bench) > 0.3
    by_instance = bench.pixels()
    choose(bench.page, "[data-test=color-by]", "values|point|heat|")
    bench.settle()
    expect(bench.page.locator("[data-test=legend]")).to_contain_text("heat")
    bench.expect_another_picture(by_instance)
    assert vivid(bench) > 0.3


def test_instances_show_their_points_and_edges(bench: Bench) -> None:
    bench.new_graph(graph(NODES, looking_at="named"))
    bench.settle_picture()
    bare = bench.pixels()
    choose(bench.page, "[data-test=edges]", "all")
    bench.expect_another_picture(bare)
    choose(bench.page, "[data-test=edges]", "off")
    bench.settle_picture()
    choose(bench.page, "[data-test=points]", "dots")
    bench.expect_another_picture(bare)


def test_an_instance_is_picked_by_a_click_and_by_its_row(bench: Bench) -> None:
    bench.new_graph(graph(NODES, looking_at="named"))
    page = bench.page
    bench.settle_picture()
    solid = np.argwhere(bench.pixels()[..., 3] > 200)
    down, across = solid[len(solid) // 2]
    canvas = page.locator("[data-test=canvas]").bounding_box()
    assert canvas is not None
    height, width = bench.pixels().shape[:2]
    bare = bench.pixels()
    page.mouse.click(
        canvas["x"] + (across + 0.5) * canvas["width"] / width, canvas["y"] + (down + 0.5) * canvas["height"] / height
    )
    expect(page.locator("[data-test=chosen-count]")).to_have_text("1 picked")
    expect(page.get_by_role("radio", name="Pick instances")).to_have_attribute("aria-checked", "true")
    bench.expect_another_picture(bare)
    expect(page.locator("[data-test=ledger-instance]")).to_have_attribute("aria-selected", "true")
    page.locator("[data-test=ledger-row]").nth(2).click()
    expect(page.locator("[data-test=chosen-count]")).to_have_text("1 picked")
