"""Files of every format through the page: several in at once, a glTF with its parts, and any of them out."""

import json
from pathlib import Path

from playwright.sync_api import expect

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.formats import FORMATS, read_bytes, write_bytes
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
    endings = ("glb", "usdc", "3mf", "dxf", "laz", "svg", "off")
    files = []
    for ending in endings:
        with collecting():
            data = write_bytes(ops.box(), f"of_{ending}.{ending}")
        files.append(tmp_path / f"of_{ending}.{ending}")
        files[-1].write_bytes(data)
    page.click("[data-test=open-shapes]")
    page.set_input_files("[data-test=upload] input", files)
    for ending in endings:
        expect(page.locator(".el-message--success", has_text=f"of_{ending}.{ending}")).to_be_visible(timeout=60_000)
    bench.settle()
    expect(page.locator("[data-test=open-shapes]")).to_contain_text(str(len(endings)))


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
    expect(page.locator(".el-message--success", has_text="reef.gltf")).to_be_visible(timeout=60_000)
    bench.settle()
    expect(page.locator("[data-test=ledger-face]")).to_contain_text("12")
    expect(page.locator("[data-test=open-shapes]")).to_contain_text("1")


def test_any_format_is_downloaded_with_its_options(bench: Bench, tmp_path: Path) -> None:
    bench.new_graph(GROUND)
    page = bench.page
    bench.settle()
    for ending in FORMATS:
        page.click("[data-test=export]")
        choose(page, "[data-test=download-format]", ending)
        expect(page.locator("[data-test=download-keeps]")).to_have_text(FORMATS[ending].keeps)
        if ending == "gltf":
            page.locator("[data-test=download-values]").get_by_text("plain").click()
        with page.expect_download(timeout=60_000) as waiting:
            page.click("[data-test=download-file]")
        waiting.value.save_as(tmp_path / f"a.{ending}")
        with collecting():
            back = read_bytes(f"a.{ending}", (tmp_path / f"a.{ending}").read_bytes())
        assert back.counts["points"] > 0, ending
        expect(page.locator("[data-test=download-file]")).to_be_hidden()
    assert Geo.read(tmp_path / "a.glb").digest == Geo.read(tmp_path / "a.ply").digest
    assert len((tmp_path / "a.gltf").read_bytes()) < 4000
