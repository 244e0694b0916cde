"""Files of every format through the page: several in at once, a glTF with its parts, and any of them out."""

import json
from pathlib import Path

import imageio.v3 as imageio
import numpy as np
from playwright.sync_api import expect

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.formats import WRITTEN, read_bytes, write_bytes
from tests.browser.conftest import Bench
from tools.choosing import choose

GROUND = {
    "format": "reticula graph",
    "version": 1,
    "nodes": {"sheet": {"operator": "grid", "parameters": {"cells": [3, 2]}}},
    "looking_at": "sheet",
    "dials": {},
}


def test_several_files_at_once_become_shapes(bench: Bench, tmp_path: Path) -> None:
    bench.new_graph()
    page = bench.page
    endings = [one for one in WRITTEN if one not in ("usd", "usda", "usdc")]  # usdz stands for all of them
    files = []
    for ending in endings:
        with collecting():
            data = write_bytes(ops.box(), f"of_{ending}.{ending}")
        files.append(tmp_path / f"of_{ending}.{ending}")
        files[-1].write_bytes(data)
    page.click("[data-test=open-shapes]")
    page.set_input_files("[data-test=upload] input", files)
    told = page.locator("[data-test=arrivals]")
    expect(told).to_contain_text("of_3mf.3mf")
    expect(told).to_contain_text("Kept: curves with layers, names, colours and widths")
    page.click("[data-test=read-files]")
    expect(page.locator("[data-test=open-shapes]")).to_contain_text(str(len(endings)))
    bench.settle()
    for ending in endings:
        expect(page.locator(".card", has_text=f"of_{ending}").first).to_be_attached()


def test_a_gltf_is_dropped_with_its_bytes_beside_it(bench: Bench) -> None:
    bench.new_graph()
    page = bench.page
    told = json.loads(write_bytes(ops.box(), "a.gltf", values="plain"))
    uri = told["buffers"][0]["uri"]
    told["buffers"][0]["uri"] = "parts/box%20bytes.bin"
    page.evaluate(
        """async ([text, uri]) => { const files = new DataTransfer();
        const bytes = new Uint8Array(Array.from(atob(uri.split(',')[1]), (letter) => letter.charCodeAt(0)));
        files.items.add(new File([text], 'reef.gltf')); files.items.add(new File([bytes], 'box bytes.bin'));
        window.dispatchEvent(new DragEvent('drop', { dataTransfer: files, cancelable: true })) }""",
        [json.dumps(told), uri],
    )
    expect(page.locator("[data-test=arrivals]")).to_contain_text("Comes with box bytes.bin.")
    page.click("[data-test=read-files]")
    expect(page.locator(".el-message--success", has_text="reef.gltf")).to_be_visible()
    bench.settle()
    expect(page.locator("[data-test=ledger-face]")).to_contain_text("12")
    expect(page.locator("[data-test=open-shapes]")).to_contain_text("1")


def test_any_format_is_downloaded_with_its_options(bench: Bench, tmp_path: Path) -> None:
    bench.new_graph(GROUND)
    page = bench.page
    bench.settle()
    for ending in WRITTEN:
        page.click("[data-test=export]")
        choose(page, "[data-test=download-format]", ending)
        expect(page.locator("[data-test=download-keeps]")).to_have_text(WRITTEN[ending].keeps)
        if ending == "gltf":
            page.locator("[data-test=download-values]").get_by_text("plain").click()
        with page.expect_download() as waiting:
            page.click("[data-test=download-file]")
        waiting.value.save_as(tmp_path / f"a.{ending}")
        with collecting():
            back = read_bytes(f"a.{ending}", (tmp_path / f"a.{ending}").read_bytes())
        assert back.counts["points"] > 0, ending
        expect(page.locator("[data-test=download-file]")).to_be_hidden()
    assert Geo.read(tmp_path / "a.glb").digest == Geo.read(tmp_path / "a.ply").digest
    assert len((tmp_path / "a.gltf").read_bytes()) < 4000


def test_what_is_missing_is_said_and_bows_are_chosen_before_reading(bench: Bench, tmp_path: Path) -> None:
    graph = bench.new_graph()
    page = bench.page
    (tmp_path / "ring.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><circle r="96" cx="0" cy="0"/></svg>')
    (tmp_path / "tile.obj").write_text("mtllib clay.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl clay\nf 1 2 3\n")
    (tmp_path / "notes.docx").write_text("x")
    page.click("[data-test=open-shapes]")
    page.set_input_files(
        "[data-test=upload] input", [tmp_path / name for name in ("ring.svg", "tile.obj", "notes.docx")]
    )
    told = page.locator("[data-test=arrivals]")
    expect(told).to_contain_text("Names clay.mtl, which is not here")
    expect(told).to_contain_text("No format has this ending")
    page.locator("[data-test=read-error] input").fill("0.01")
    page.locator("[data-test=read-silent]").click()
    page.click("[data-test=read-files]")
    expect(page.locator(".el-message--success", has_text="tile.obj")).to_be_visible()
    bench.settle()
    nodes = bench.state(graph)["document"]["nodes"].values()
    assert {"shape": "ring", "error": 0.00001} in [node["parameters"] for node in nodes]
    (tmp_path / "again.obj").write_text("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n")
    page.click("[data-test=open-shapes]")
    page.set_input_files("[data-test=upload] input", tmp_path / "again.obj")
    expect(page.locator(".el-message--success", has_text="again.obj")).to_be_visible()


def test_a_picture_becomes_a_sheet_and_lifts_another_one(bench: Bench, tmp_path: Path) -> None:
    bench.new_graph()
    page = bench.page
    heights = np.linspace(0, 65535, 64, dtype=np.uint16)[None].repeat(48, axis=0)
    imageio.imwrite(tmp_path / "sand.png", heights)
    page.click("[data-test=open-shapes]")
    page.set_input_files("[data-test=upload] input", tmp_path / "sand.png")
    expect(page.locator("[data-test=arrivals]")).to_contain_text("Becomes a sheet by read picture")
    page.click("[data-test=read-files]")
    expect(page.locator(".el-message--success", has_text="sand.png")).to_be_visible()
    bench.settle()
    expect(page.locator("[data-test=ledger-point]")).to_contain_text("3,072")
