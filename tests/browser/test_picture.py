"""The picture: its qualities, ground, faces that are seen through, glides, keys, and large stills."""

from __future__ import annotations

from io import BytesIO

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node
from tools.choosing import choose

BALL = graph({"ball": node("geodesic_sphere", radius=0.5), "ribs": node("struts", "ball")}, looking_at="ribs")


def look(bench: Bench, entry: str) -> np.ndarray:
    """Choose an entry of the menu of the light, and return the picture."""
    bench.page.click("[data-test=look]")
    bench.page.locator(f"[data-test={entry}]").click()
    bench.calm()
    bench.settle_picture()
    return bench.pixels().astype(float)


def covered(pixels: np.ndarray) -> float:
    """The share of the canvas on which something is drawn."""
    return float((pixels[..., 3] > 8).mean())


def contrast(colors: np.ndarray, ground: tuple[int, int, int]) -> np.ndarray:
    """The contrast ratio of WCAG 2.1 between colours ``(N, 3)`` in 0..255 and one behind them."""

    def luminance(rgb: np.ndarray) -> np.ndarray:
        share = rgb / 255
        linear = np.where(share <= 0.04045, share / 12.92, ((share + 0.055) / 1.055) ** 2.4)
        return np.asarray(linear @ [0.2126, 0.7152, 0.0722]) + 0.05

    both = np.stack([luminance(colors), np.full(len(colors), luminance(np.array(ground, dtype=float)))])
    return np.asarray(both.max(axis=0) / both.min(axis=0))


def test_curves_stand_out_by_day_and_by_night(bench: Bench) -> None:
    """3 to 1 is what WCAG 2.1 asks of graphics (1.4.11)."""
    bench.new_graph(graph({"sheet": node("grid"), "net": node("edges_to_curves", "sheet")}, looking_at="net"))
    for backdrop in ((248, 245, 236), (21, 48, 58)):
        bench.settle()
        pixels = bench.pixels().astype(float)
        drawn = pixels[pixels[..., 3] > 160][:, :3]
        assert len(drawn) > 50
        assert np.median(contrast(drawn, backdrop)) > 3
        bench.page.click("[data-test=theme]")


def test_a_renderer_without_a_graphics_card_is_given_the_fast_picture(bench: Bench) -> None:
    bench.new_graph(BALL)
    bench.page.click("[data-test=look]")
    expect(bench.page.locator("[data-test=quality-by-itself]")).to_have_text("by itself (now fast)")


def test_qualities_differ_by_ground_shadow_corners_and_outlines(bench: Bench) -> None:
    bench.new_graph(BALL)
    fast = look(bench, "quality-fast")
    plain = look(bench, "quality-plain")
    studio = look(bench, "quality-studio")
    assert covered(plain) > covered(fast) + 0.08, "the ground lies under the shape"
    middle = (slice(45, 85), slice(80, 120), slice(0, 3))
    assert studio[middle].mean() < plain[middle].mean() - 1, "ribs are outlined, and darker where they meet"
    assert np.abs(studio[middle] - plain[middle]).mean() > 3
    bare = look(bench, "ground")
    assert covered(bare) == pytest.approx(covered(fast), abs=0.03)
    look(bench, "ground")
    assert covered(look(bench, "quality-by-itself")) == pytest.approx(covered(fast), abs=0.01)


def test_colours_that_stand_for_numbers_stay_those_of_the_legend(bench: Bench) -> None:
    nodes = {"sheet": node("grid", cells=[1, 1]), "v": node("set_attribute", "sheet", name="level", value=3.0)}
    bench.new_graph(graph(nodes, looking_at="v"))
    choose(bench.page, "[data-test=color-by]", "values|point|level|")
    bench.settle()
    fast = look(bench, "quality-fast")
    studio = look(bench, "quality-studio")
    at = tuple(np.argwhere(fast[..., 3] > 250).mean(0).astype(int))
    assert np.abs(fast[at][:3] - studio[at][:3]).max() < 40


def test_faces_are_seen_through(bench: Bench) -> None:
    bench.new_graph(BALL)
    solid = look(bench, "quality-fast")
    through = look(bench, "veil-see-through")
    rays = look(bench, "veil-x-ray")
    at = tuple(np.argwhere(solid[..., 3] > 250).mean(0).astype(int))
    assert solid[at][3] == 255
    assert 60 < through[at][3] < 230
    assert rays[at][3] < through[at][3]
    assert look(bench, "veil-solid")[at][3] == 255


def test_arrows_turn_the_picture_and_the_scale_bar_says_how_large_it_is(bench: Bench) -> None:
    bench.new_graph(graph({"block": node("box", size=[0.1, 0.2, 0.3])}, looking_at="block"))
    page = bench.page
    bar = page.locator("[data-test=scale-bar]")
    expect(bar).to_contain_text("cm")
    before = bench.pixels().astype(int)
    page.locator("[data-test=canvas]").focus()
    for _ in range(4):
        page.keyboard.press("ArrowRight")
    bench.settle_picture()
    assert np.abs(bench.pixels().astype(int) - before).mean() > 1
    said = bar.inner_text()
    for _ in range(14):
        page.keyboard.press("+")
    bench.settle_picture()
    assert bar.inner_text() != said


def test_a_large_still_is_drawn_in_tiles_without_seams(bench: Bench) -> None:
    bench.new_graph(graph({"ball": node("geodesic_sphere", radius=0.5)}, looking_at="ball"))
    page = bench.page
    page.click("[data-test=tool-click]")
    page.click("[data-test=still]")
    with page.expect_download() as loading:
        page.click("[data-test=still-large]")
    large = Image.open(loading.value.path())
    assert large.width == 3840
    small = page.locator("[data-test=canvas]")
    size = small.bounding_box()
    assert size
    assert large.height == pytest.approx(3840 * size["height"] / size["width"], abs=2)
    page.click("[data-test=still]")
    with page.expect_download() as loading:
        page.click("[data-test=still-backdrop]")
    seen = Image.open(BytesIO(loading.value.path().read_bytes())).convert("RGB")
    again = np.asarray(large.convert("RGB").resize(seen.size, Image.Resampling.BOX), float)
    assert np.abs(again - np.asarray(seen, float)).mean() < 4
