"""A batch in the page: shapes and rows of a table, the results saved; a variant kept as preset; a sheet as a file."""

from __future__ import annotations

import zipfile
from pathlib import Path

import pytest
from playwright.sync_api import expect

from reticula.core import ops
from reticula.core.formats import write_bytes
from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node
from tests.helpers import wait_until
from tools.choosing import choose


@pytest.fixture
def survey(bench: Bench) -> str:
    """A graph that raises a scan, in a project with two of them."""
    nodes = {"scan": node("project_shape", shape="bay"), "up": node("extrude", "scan", distance={"formula": "lift"})}
    project = bench.client.post("/api/projects", {"title": "Batches"})["id"]
    for name, cells in (("bay", 2), ("west", 4)):
        bench.client.upload(
            f"/api/projects/{project}/assets",
            f"{name}.ply",
            write_bytes(ops.grid(cells=(cells, cells)), f"{name}.ply"),
        )
    document = {**graph(nodes, dials={"lift": {"type": "number", "value": 0.1, "unit": "m"}}), "looking_at": "up"}
    made = str(bench.client.post(f"/api/projects/{project}/graphs", {"title": "Raised", "document": document})["id"])
    bench.open(made)
    bench.page.click("[data-test=open-sheets]")
    bench.page.wait_for_selector("[data-test=plan]")
    return made


def test_a_batch_over_shapes_and_rows_is_made_and_saved(bench: Bench, survey: str, tmp_path: Path) -> None:
    page = bench.page
    table = tmp_path / "season.csv"
    table.write_text("name,lift,site\nlow,0.2,north\nhigh,0.6,south\n")
    page.set_input_files("[data-test=batch-file] input", table)
    expect(page.locator("[data-test=batch-columns]")).to_have_text(
        "Each row sets lift; keeps name, site beside the result."
    )
    page.locator("[data-test='shapes-scan.shape']").click()
    for name in ("bay", "west"):
        page.get_by_role("option", name=name, exact=True).click()
    page.keyboard.press("Escape")
    choose(page, "[data-test=batch-ending]", "ply")
    expect(page.locator("[data-test=make-sheet]")).to_have_text("Make 4 variants")
    page.click("[data-test=make-sheet]")
    state = page.locator("[data-test=sheet-state]")
    expect(state).to_have_attribute("data-state", "done")
    expect(state).to_have_text("4 of 4 made")
    expect(page.locator("[data-test=variant-1]")).to_contain_text("low")
    with page.expect_download() as begun:
        page.click("[data-test=sheet-more]")
        page.click("[data-test=sheet-results]")
    with zipfile.ZipFile(begun.value.path()) as archive:
        assert archive.namelist() == ["0001-low.ply", "0002-low.ply", "0003-high.ply", "0004-high.ply"]


def test_a_variant_becomes_a_preset_and_a_sheet_a_file(bench: Bench, survey: str, tmp_path: Path) -> None:
    page = bench.page
    choose(page, "[data-test=turn-lift] .choice", "list")
    page.fill("[data-test=turn-lift] .fields input", "0.3, 0.7")
    page.click("[data-test=make-sheet]")
    state = page.locator("[data-test=sheet-state]")
    expect(state).to_have_attribute("data-state", "done")
    page.locator("[data-test=wall] figure").nth(1).click()
    page.click("[data-test=keep-variant]")
    page.locator(".el-message-box input").fill("tall")
    page.get_by_role("button", name="Keep", exact=True).click()
    with page.expect_download() as begun:
        page.click("[data-test=sheet-more]")
        page.click("[data-test=sheet-file]")
    begun.value.save_as(tmp_path / "sheet.zip")
    with page.expect_file_chooser() as chooser:
        choose(page, "[data-test=which-sheet]", "/")
    chooser.value.set_files(tmp_path / "sheet.zip")
    project = bench.state(survey)["project_id"]

    def titles() -> list[str]:
        return [sheet["title"] for sheet in bench.client.get(f"/api/projects/{project}/sheets")["sheets"]]

    wait_until(lambda: len(titles()) == 2)
    assert len({*titles()}) == 1
    expect(page.locator("[data-test=wall] figure")).to_have_count(2)
    expect(state).to_have_text("2 of 2 made")

    page.keyboard.press("Escape")
    presets = page.locator("[data-test=graph-presets]")
    choose(page, "[data-test=graph-presets]", "=tall")
    expect(page.locator("[data-test=save-state]")).to_have_text("saved")
    document = bench.state(survey)["document"]
    assert (document["dials"]["lift"]["value"], document["presets"]) == (0.7, {"tall": {"lift": 0.7}})
    expect(presets).to_have_attribute("data-chosen", "=tall")
    choose(page, "[data-test=graph-presets]", "-")
    expect(presets).not_to_have_attribute("data-chosen", "=tall")
    bench.settle()
    assert bench.state(survey)["document"]["presets"] == {}
