"""Time in the page: keys by turned values and dragged handles, scrubbing, playing, curves, undo, and after a reload."""

from __future__ import annotations

import zipfile
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from playwright.sync_api import expect

from reticula.core.formats import read_bytes
from tests.browser.conftest import Bench
from tests.browser.test_looking import look_from, middle
from tests.browser.test_operators import select_cards
from tests.core.graph.building import graph, node
from tests.helpers import wait_until
from tools.choosing import choose

RISING = {"keys": [{"frame": 0, "value": 0.1, "way": "straight"}, {"frame": 10, "value": 0.3}]}


def moving(**more: Any) -> dict[str, Any]:
    nodes = {"sheet": node("grid", cells=[8, 8]), "up": node("extrude", "sheet", distance=RISING)}
    return graph(nodes, looking_at="up", time={"first": 0, "last": 10, "rate": 24}, **more)


def keys(bench: Bench, name: str, of: str, parameter: str) -> list[tuple[float, Any]]:
    stored = bench.state(name)["document"]["nodes"][of]["parameters"][parameter]
    return [(key["frame"], key["value"]) for key in stored["keys"]]


def go(bench: Bench, frame: str) -> None:
    bench.page.locator("[data-test=frame-field]").fill(frame)
    bench.page.locator("[data-test=frame-field]").press("Enter")
    bench.settle()


def drag_handle(bench: Bench, begun: int, steps: int) -> None:
    """Drag the handle, which was dragged by ``begun`` steps before, by so many more."""
    x, y = middle(bench)
    x, y = x + 10 * begun, y - 3 * begun
    bench.page.mouse.move(x + 3, y)
    bench.page.mouse.move(x, y)
    bench.page.mouse.down()
    for step in range(1, steps + 1):
        bench.page.mouse.move(x + 10 * step, y - 3 * step)
    bench.page.mouse.up()
    bench.settle()


def shown_at(bench: Bench, frame: int) -> None:
    expect(bench.page.locator("[data-test=track]")).to_have_attribute("aria-valuenow", str(frame))


def test_a_graph_without_time_has_no_strip_until_it_is_asked_for(bench: Bench) -> None:
    bench.new_graph(graph({"sheet": node("grid")}, looking_at="sheet"))
    strip = bench.page.locator("[data-test=time-strip]")
    expect(strip).to_have_count(0)
    bench.page.click("[data-test=show-time]")
    expect(strip).to_be_visible()


def test_a_handle_dragged_at_two_frames_sets_keys_and_the_picture_moves(bench: Bench) -> None:
    page = bench.page
    made = bench.new_graph(graph({"block": node("box"), "moved": node("transform", "block")}, looking_at="moved"))
    page.click("[data-test=show-time]")
    page.click("[data-test=arm]")
    select_cards(bench, "moved")
    look_from(bench, "front")
    page.click("[data-test=frame]")
    bench.settle()
    drag_handle(bench, 0, 4)
    go(bench, "20")
    drag_handle(bench, 4, 12)
    (first, near), (last, far) = keys(bench, made, "moved", "move")
    assert (first, last) == (0, 20)
    assert max(abs(part) for part in near) > 0.01
    assert np.abs(np.subtract(far, near)).max() > 0.05
    end = bench.pixels()
    go(bench, "0")
    start = bench.pixels()
    assert (start != end).mean() > 0.01
    go(bench, "5+5")
    shown_at(bench, 10)
    assert (bench.pixels() != start).mean() > 0.005
    assert (bench.pixels() != end).mean() > 0.005
    held = page.locator(".card.open [data-test=field-move] input").first
    assert float(held.input_value()) == pytest.approx((near[0] + far[0]) / 2, abs=0.01)
    page.click("button:has-text('Undo')")
    bench.settle()
    assert [frame for frame, _ in keys(bench, made, "moved", "move")] == [0]


def test_a_frame_that_was_seen_comes_back_at_once_and_asks_for_no_mesh(bench: Bench) -> None:
    page = bench.page
    bench.new_graph(moving())
    pictures = []
    for frame in (0, 10):
        go(bench, str(frame))
        pictures.append(bench.pixels())
    wait_until(lambda: page.locator("rect.ready").count() == 1)
    bench.settle()
    bench.answers.clear()
    page.locator("[data-test=track]").press("Home")
    bench.settle_picture()
    assert not [path for path in bench.answers if path.endswith("/evaluations")]
    np.testing.assert_array_equal(bench.pixels(), pictures[0])
    page.locator("[data-test=track]").press("End")
    shown_at(bench, 10)
    bench.settle()
    np.testing.assert_array_equal(bench.pixels(), pictures[1])


def test_playing_shows_other_frames_and_stops_at_the_end(bench: Bench) -> None:
    page = bench.page
    bench.new_graph(moving())
    page.click("[data-test=frame-settings]")
    page.locator(".settings .el-switch").click()
    page.keyboard.press("Escape")
    before = bench.pixels()
    page.click("[data-test=play]")
    bench.expect_another_picture(before, 0.01)
    expect(page.locator("[data-test=play]")).to_have_text("play")
    shown_at(bench, 10)
    bench.settle()
    expect(page.locator("[data-test=time-strip] .behind")).to_have_count(0)


def test_a_key_is_dragged_in_the_curves_typed_undone_and_there_after_a_reload(bench: Bench) -> None:
    page = bench.page
    made = bench.new_graph(moving())
    go(bench, "10")
    before = bench.pixels()
    page.click("[data-test=curves]")
    last = page.locator("[data-test=curve-key]").last
    expect(page.locator("[data-test=curve-line]")).to_have_count(1)
    box = last.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 4)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 44, steps=4)
    page.mouse.up()
    bench.settle()
    (_, first), (frame, lowered) = keys(bench, made, "up", "distance")
    assert (first, frame) == (0.1, 10)
    assert lowered < 0.28
    assert (bench.pixels() != before).mean() > 0.005
    page.click("button:has-text('Undo')")
    bench.settle()
    assert keys(bench, made, "up", "distance")[1] == (10, 0.3)
    last.click()
    page.locator("[data-test=key-value]").fill("0.5")
    page.locator("[data-test=key-value]").press("Enter")
    page.locator("[data-test=key-frame]").fill("frame - 2")
    page.locator("[data-test=key-frame]").press("Enter")
    bench.settle()
    choose(page, "[data-test=key-way]", value="hold")
    bench.settle()
    assert keys(bench, made, "up", "distance") == [(0, 0.1), (8, 0.5)]
    bench.open(made)
    assert bench.state(made)["document"]["nodes"]["up"]["parameters"]["distance"]["keys"][1]["way"] == "hold"
    expect(page.locator("[data-test=key-mark]")).to_have_count(2)


def test_keys_are_copied_and_deleted(bench: Bench) -> None:
    page = bench.page
    made = bench.new_graph(moving())
    page.click("[data-test=curves]")
    page.locator("[data-test=curve-key]").last.click()
    page.click("[data-test=copy-keys]")
    go(bench, "4")
    page.click("[data-test=paste-keys]")
    bench.settle()
    assert [frame for frame, _ in keys(bench, made, "up", "distance")] == [0, 4, 10]
    page.locator("[data-test=curve-key]").first.click()
    page.click("[data-test=delete-keys]")
    bench.settle()
    assert [frame for frame, _ in keys(bench, made, "up", "distance")] == [4, 10]


def test_a_click_beside_a_value_sets_a_key_and_takes_it_away(bench: Bench) -> None:
    page = bench.page
    made = bench.new_graph(moving())
    page.click("[data-test=card-up]")
    bench.settle()
    go(bench, "5")
    mark = page.locator(".card.open [data-test=key-distance]")
    mark.click()
    bench.settle()
    assert keys(bench, made, "up", "distance")[1] == (5, pytest.approx(0.2))
    expect(mark).to_have_attribute("aria-pressed", "true")
    mark.click()
    bench.settle()
    assert len(keys(bench, made, "up", "distance")) == 2


def test_what_is_no_frame_is_told_and_nothing_moves(bench: Bench) -> None:
    page = bench.page
    bench.new_graph(moving())
    page.locator("[data-test=frame-field]").fill("no_such")
    page.locator("[data-test=frame-field]").press("Enter")
    expect(page.locator("[data-test=time-strip] [role=alert]")).to_contain_text("no_such")
    shown_at(bench, 0)
    bench.errors.clear()


def test_a_film_is_made_and_read_back(bench: Bench, tmp_path: Path) -> None:
    page = bench.page
    bench.new_graph(moving())
    page.click("[data-test=frames]")
    page.fill("[data-test=film-width] input", "160")
    page.fill("[data-test=film-height] input", "100")
    page.keyboard.press("Tab")
    with page.expect_download() as download:
        page.click("[data-test=save-frames]")
    film = tmp_path / "film.mp4"
    download.value.save_as(film)
    assert download.value.suggested_filename.endswith(".mp4")
    with av.open(str(film)) as video:
        pictures = [frame.to_ndarray(format="rgb24").astype(int) for frame in video.decode(video=0)]
    assert len(pictures) == 11
    assert pictures[0].shape == (100, 160, 3)
    changed = [(np.abs(one - pictures[0]) > 24).any(axis=2).mean() for one in pictures]
    assert changed[-1] > 0.02, "the block is higher at the end"
    assert changed[5] < changed[-1]
    expect(page.locator("[data-test=frames-dialog]")).to_have_count(0)
    shown_at(bench, 0)


def test_the_mesh_of_every_other_frame_is_saved_as_numbered_files(bench: Bench, tmp_path: Path) -> None:
    page = bench.page
    bench.new_graph(moving())
    page.click("[data-test=frames]")
    page.locator("[data-test=save-files]").click()
    choose(page, "[data-test=mesh-format]", value="obj|")
    page.get_by_label("Every how many frames").first.fill("5")
    page.keyboard.press("Tab")
    with page.expect_download() as download:
        page.click("[data-test=save-frames]")
    saved = tmp_path / "frames.zip"
    download.value.save_as(saved)
    with zipfile.ZipFile(saved) as file:
        names = file.namelist()
        heights = [float(read_bytes("a.obj", file.read(name)).positions[:, 1].max()) for name in names]
    assert [name.split(".")[1] for name in names] == ["0000", "0005", "0010"]
    assert heights == pytest.approx([0.1, 0.2, 0.3])


def test_a_dial_follows_a_table_that_is_dropped_and_stops_with_its_own_value(bench: Bench, tmp_path: Path) -> None:
    nodes = {"sheet": node("grid", cells=[2, 2]), "up": node("transform", "sheet", move="vec3(0, water, 0)")}
    water = {"type": "number", "value": 0.15, "soft": [0, 3], "unit": "m", "help": "height of the water"}
    timed = {"first": 0, "last": 48, "rate": 24}
    made = bench.new_graph(graph(nodes, looking_at="up", dials={"water": water}, time=timed))
    log = tmp_path / "gauge.csv"
    log.write_text("hours,level [cm]\n0,100\n1,\n2,300\n")
    page = bench.page
    page.click("[data-test=edit-dial-water]")
    page.locator("[data-test=dial-source]").get_by_text("of a table").click()
    expect(page.locator("[data-test=keep-dial]")).to_be_disabled()
    page.set_input_files("[data-test=table-file] input", log)
    expect(page.locator("[data-test=table-said]")).to_contain_text("3 rows from 0 to 2 s. Rows without a value")
    choose(page, "[data-test=table-unit]", "h")
    for field, text in (("factor", "0.001"), ("pace", "1")):
        page.locator(f"[data-test=table-{field}]").fill(text)
        page.locator(f"[data-test=table-{field}]").press("Enter")
    expect(page.locator("[data-test=value-plot]")).to_contain_text("0.3 m")
    page.click("[data-test=keep-dial]")
    bench.settle()
    follows = bench.state(made)["document"]["dials"]["water"]["value"]
    assert follows["table"].startswith("gauge")
    assert (follows["time"], follows["value"], follows["speed"]) == ("hours", "level", 3600)
    expect(page.locator("[data-test=follows-water]")).to_contain_text("0.1 m")
    low = bench.pixels()
    go(bench, "24")
    expect(page.locator("[data-test=follows-water]")).to_contain_text("0.2 m")
    bench.expect_another_picture(low)
    page.reload()
    bench.settle()
    expect(page.locator("[data-test=follows-water]")).to_contain_text("follows gauge")
    page.locator("[data-test=follows-water]").get_by_text("stop").click()
    bench.settle()
    assert bench.state(made)["document"]["dials"]["water"]["value"] == 0.15
