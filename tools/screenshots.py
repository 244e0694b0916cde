"""Takes the pictures in docs/screenshots from the demo project: ``python -m tools.screenshots`` while it runs.

Uses Debian's Chromium. Changes to the demo graph are undone again. With the word ``insight`` it takes only those of
live values, why and history, with ``help`` those of help, with ``sheets`` those of a proof sheet and a batch. With the
word ``packages`` it takes the pictures that go into the demo's packages instead; ``python -m demo.operators`` puts them
there. With the words ``people NAME PASSWORD`` it takes the one of an installation where people sign in.
"""

from __future__ import annotations

import shutil
import sys
import tempfile
from pathlib import Path

import imageio.v3 as imageio
import numpy as np
from playwright.sync_api import Page, sync_playwright

from reticula.bundle import DEMO
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.launch.client import Client
from tools.choosing import choose
from tools.pictures import CHROMIUM, picture_of
from tools.sheet_picture import plan_batch, show_sheet

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def main() -> None:
    address = next((word for word in sys.argv[1:] if word.startswith("http")), "http://127.0.0.1:8765")
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        context = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="light")
        context.add_init_script("localStorage.setItem('reticula toured', 'yes')")
        context.add_init_script("localStorage.setItem('reticula quality', 'studio')")
        page = context.new_page()
        page.goto(address)
        if "people" in sys.argv:
            sharing(page, *sys.argv[sys.argv.index("people") + 1 :][:2])
            browser.close()
            return
        page.wait_for_selector("[data-ready=true]")
        page.wait_for_timeout(3500)
        if "packages" in sys.argv:
            package_picture(page, "Settlement tile", "settlement_tile")
            package_picture(page, "Coral rounds", "growth")
            browser.close()
            return
        if "insight" in sys.argv:
            insight(page, address)
            browser.close()
            return
        if "sheets" in sys.argv:
            show_sheet(page)
            take(page, "proof_sheet")
            page.keyboard.press("Escape")
            plan_batch(page)
            take(page, "batch")
            browser.close()
            return
        if "help" in sys.argv:
            help_pages(page, address)
            browser.close()
            return
        take(page, "bench_day")
        choose(page, "[data-test=color-by]", "values|point|cover|")
        choose(page, "[data-test=edges]", "all")
        page.wait_for_timeout(1500)
        choose(page, "[data-test=edges]", "off")
        choose(page, "[data-test=color-by]", "values|point|color|")
        page.click("[data-test=card-raise] .title")
        page.wait_for_timeout(1500)
        page.locator(".vue-flow__pane").click(position={"x": 420, "y": 40})
        page.click("[data-test=panel-compare]")
        choose(page, "[data-test=against]", "raise")
        page.click("[data-test=form-across]")
        page.wait_for_timeout(3000)
        take(page, "compare")
        page.click("[data-test=form-colours]")
        page.click("[data-test=panel-compare]")
        page.wait_for_timeout(1200)
        page.click("[data-test=ledger-point]")
        page.click("[data-test=statistics]")
        page.locator("[data-test=column-cover]").click()
        page.locator("[data-test=column-cover]").click()
        divider = page.locator("[aria-label='Height of the drawer']").bounding_box()
        assert divider
        page.mouse.move(divider["x"] + 200, divider["y"] + 3)
        page.mouse.down()
        page.mouse.move(divider["x"] + 200, divider["y"] - 180, steps=5)
        page.mouse.up()
        page.wait_for_timeout(1200)
        for number in range(4):
            page.locator("[data-test=ledger-row]").nth(number).click(modifiers=["Shift"])
        choose(page, "[data-test=color-by]", "values|point|cover|")
        page.wait_for_timeout(2500)
        take(page, "ledger")
        page.keyboard.press("Escape")
        page.evaluate("localStorage.clear()")
        page.click("[data-test=theme]")
        page.wait_for_timeout(300)
        page.reload()
        page.wait_for_selector("[data-ready=true]")
        page.wait_for_timeout(3500)
        take(page, "bench_night")
        page.click("[data-test=theme]")
        values(page)
        curves(page)
        table(page)
        scripts(page)
        reading(page, address)
        wide(page)
        help_pages(page, address)
        browser.close()


def curves(page: Page) -> None:
    """A graph that moves: the time strip, and its values with keys as curves."""
    choose(page, "[data-test=graph]", label="Current drift")
    page.wait_for_timeout(3500)
    page.click("[data-test=curves]")
    page.fill("[data-test=frame-field]", "64")
    page.press("[data-test=frame-field]", "Enter")
    page.wait_for_timeout(4500)
    page.locator("[data-test=curve-key]").nth(4).click()
    page.wait_for_timeout(1000)
    take(page, "curves")
    page.click("[data-test=close-curves]")


def table(page: Page) -> None:
    """A dial that follows a table."""
    choose(page, "[data-test=graph]", label="Coral growth")
    page.wait_for_timeout(3500)
    page.fill("[data-test=frame-field]", "60")
    page.press("[data-test=frame-field]", "Enter")
    page.wait_for_timeout(6000)
    page.click("[data-test=edit-dial-water]")
    page.wait_for_selector("[data-test=value-plot]")
    page.wait_for_timeout(800)
    take(page, "dial_table")
    page.keyboard.press("Escape")


def sharing(page: Page, name: str, password: str) -> None:
    """Sign in, give somebody a role, and make a link for looking."""
    page.fill("#sign-in-name", name)
    page.fill("#sign-in-password", password)
    page.keyboard.press("Enter")
    page.wait_for_selector("[data-ready=true]")
    page.wait_for_timeout(4000)
    page.click("[data-test=share]")
    page.click("[data-test=who]")
    page.locator(".el-select-dropdown__item:visible").first.click()
    page.click("[data-test=add-member]")
    page.click("[data-test=make-link]")
    page.wait_for_timeout(1200)
    take(page, "sharing")


def values(page: Page) -> None:
    """A demo driven by values."""
    choose(page, "[data-test=graph]", label="Barnacle crust")
    page.wait_for_timeout(5000)
    choose(page, "[data-test=edges]", "off")
    page.wait_for_timeout(800)


def scripts(page: Page) -> None:
    """A script in the editor, with completion; and a formula drawn as value nodes."""
    choose(page, "[data-test=graph]", label="Rope cradle")
    page.wait_for_timeout(6000)
    page.click("[data-test=look-bent]")
    page.wait_for_timeout(2500)
    page.click("[data-test=frame]")
    page.click("[data-test=card-bent] .title")
    page.wait_for_timeout(1500)
    page.click("[data-test=edit-script]")
    page.wait_for_timeout(2500)
    take(page, "script_editor")
    page.locator("[data-test=script-text] .cm-content").click()
    page.keyboard.press("Control+End")
    page.keyboard.type("here.far = rock.", delay=30)
    page.wait_for_timeout(1800)
    for _ in range(40):
        if page.locator("[data-test=undo]").is_disabled():
            break
        page.click("[data-test=undo]")
        page.wait_for_timeout(500)
    page.click("[data-test=show-ledger]")
    page.reload()
    page.wait_for_selector("[data-ready=true]")
    page.wait_for_timeout(4000)
    page.locator("[data-test=board-form]").get_by_text("cards", exact=True).click()
    page.wait_for_timeout(1200)
    page.click("[data-test=all-cards]")
    page.wait_for_timeout(1200)
    page.locator("[data-test=card-boulder]").click(force=True, position={"x": 60, "y": 60})
    page.wait_for_timeout(1500)
    page.hover("[data-test=field-value]")
    page.click("[data-test=as-nodes-value]")
    page.wait_for_timeout(3500)
    take(page, "value_nodes")
    page.click("[data-test=undo]")
    page.wait_for_timeout(800)


def help_pages(page: Page, address: str) -> None:
    """The page of an operator, and a tutorial beside the work."""
    page.click("[data-test=open-catalogue]")
    page.click("[data-test=catalogue-drape]")
    page.wait_for_timeout(2500)
    take(page, "catalogue")
    page.goto(f"{address}/?demo=first_tile")
    page.wait_for_selector("[data-test=card-soft]")
    page.wait_for_timeout(4000)
    page.keyboard.press("/")
    page.fill("[data-test=finder]", "Documentation")
    page.keyboard.press("Enter")
    frame = page.frame_locator("[data-test=help-page]")
    frame.locator("article a", has_text="Tutorials").click()
    frame.locator("article a", has_text="A first tile").click()
    page.wait_for_timeout(2500)
    take(page, "tutorial")


def reading(page: Page, address: str) -> None:
    """Files before they are read, in a graph of its own that is removed again."""
    client = Client(address)
    project = client.get("/api/projects")["projects"][0]["id"]
    graph = client.post(f"/api/projects/{project}/graphs", {"title": "Survey of the north slope"})["id"]
    ripples = np.add.outer(np.cos(np.arange(192) / 17), np.sin(np.arange(256) / 21))
    with tempfile.TemporaryDirectory() as folder:
        place = Path(folder)
        (place / "mooring plate.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><circle r="96"/></svg>')
        (place / "rope guide.obj").write_text("mtllib clay.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl clay\nf 1 2 3\n")
        imageio.imwrite(place / "sand ripples.png", ((ripples + 2) / 4 * 65535).astype(np.uint16))
        with collecting():
            scan = ops.smooth_subdivide(Geo.read(DEMO / "survey_scan.ply"), levels=1)
            share = "clamp(0.5 + position.y * 60 + 0.3 * noise(position * 40), 0, 1)"
            tint = f"mix(vec4(0.05, 0.1, 0.14, 1), vec4(0.75, 0.55, 0.3, 1), {share})"
            scan = ops.set_attribute(scan, name="color", value=tint)
            Geo.of(scan.positions, color=scan.attribute("point", "color")).write(place / "north slope.laz")
        page.goto(f"{address}/#{graph}")
        page.wait_for_selector("[data-ready=true]")
        page.click("[data-test=open-shapes]")
        page.set_input_files("[data-test=upload] input", sorted(place.iterdir()))
        page.wait_for_selector("[data-test=arrivals]")
        page.wait_for_timeout(1500)
        page.screenshot(path=FOLDER / "read_files.png")
        page.click("[data-test=read-files]")
        page.wait_for_selector("[data-test=arrivals]", state="hidden")
        page.wait_for_timeout(15_000)
    page.request.delete(f"{address}/api/graphs/{graph}")
    for shape in client.get(f"/api/projects/{project}/assets")["assets"]:
        if shape["name"] in ("mooring_plate", "rope_guide", "sand_ripples", "north_slope"):
            page.request.delete(f"{address}/api/assets/{shape['id']}")


def listed(page: Page, where: str) -> None:
    """Have the ledger list only some rows."""
    field = page.locator("[data-test=ledger-where] input, input[data-test=ledger-where]").first
    field.fill(where)
    page.wait_for_timeout(900)


def insight(page: Page, address: str) -> None:
    """Live values in a loop, why a value is so on the board, and the history of a graph."""
    client = Client(address)
    project = next(one["id"] for one in client.get("/api/projects")["projects"] if one["title"] == "Reef studio")
    source = (
        "reach: number(0, 1) = 0.35\nnear = geo.near(position, reach, most=8)\nshelter = 0.0\n"
        "for q in near:\n    gap = distance(position, q.position)\n    shelter += q.cover / (1 + gap * gap)\n"
        "mean = shelter / max(len(near), 1)\nhere.shelter = mean\nhere.position = position + normal * mean * 0.15\n"
    )
    nodes = {
        "plate": {"operator": "grid", "title": "Plate", "parameters": {"cells": [14, 14], "size": [2, 2]}},
        "cover": {
            "operator": "set_attribute",
            "title": "Cover",
            "inputs": {"geo": ["plate"]},
            "parameters": {"name": "cover", "value": {"formula": "0.5 + 0.5 * noise(position * 2)"}},
        },
        "own": {
            "operator": "script",
            "title": "Shelter",
            "inputs": {"geo": ["cover"]},
            "parameters": {"source": source},
        },
        "tile": {
            "operator": "extrude",
            "title": "Tile",
            "inputs": {"geo": ["own"]},
            "parameters": {"distance": 0.1},
        },
    }
    document = {"format": "reticula graph", "version": 1, "looking_at": "tile", "dials": {}, "nodes": nodes}
    body = {"title": "Sheltered plate", "document": document}
    graph = client.post(f"/api/projects/{project}/graphs", body)["id"]
    page.goto(f"{address}/#{graph}")
    page.reload()
    page.wait_for_selector("[data-ready=true]")
    page.wait_for_timeout(2500)
    page.click("[data-test=ledger-point]")
    page.wait_for_timeout(600)
    listed(page, "index > 110")
    page.click("[data-test='cell-112-shelter']", position={"x": 60, "y": 10})
    page.click("[data-test=card-own] .title")
    page.click("[data-test=edit-script]")
    page.wait_for_timeout(1500)
    for _ in range(4):
        page.get_by_title("The round before").first.click()
    page.wait_for_timeout(800)
    take(page, "live_values")
    page.click("[data-test=show-ledger]")
    page.wait_for_timeout(700)
    listed(page, "index > 110")
    page.hover("[data-test='cell-112-shelter']")
    page.click("[data-test='why-112-shelter']")
    page.wait_for_timeout(900)
    page.locator("[data-test=cause-cover]").first.click()
    page.wait_for_timeout(1200)
    page.click("[data-test=card-tile] .title")
    page.wait_for_timeout(700)
    take(page, "why")
    revision = 0

    def edit(path: str, value: object, label: str) -> None:
        nonlocal revision
        patch = [{"op": "add", "path": path, "value": value}]
        body = {"revision": revision, "patch": patch, "label": label}
        revision = client.post(f"/api/graphs/{graph}/edits", body)["revision"]

    revision = client.get(f"/api/graphs/{graph}")["revision"]
    for step in (12, 16, 20):
        edit("/nodes/plate/parameters/cells", [step, step], f"set cells to {step} × {step}")
    edit("/nodes/tile/parameters/distance", 0.25, "set distance to 0.25 m")
    edit("/nodes/cover/parameters/value", {"formula": "noise(position * 4)"}, "set value")
    for _ in range(2):
        revision = client.post(f"/api/graphs/{graph}/undo", {"revision": revision})["revision"]
    edit("/nodes/own/title", "Shelter of neighbours", "call it Shelter of neighbours")
    edit("/nodes/tile/parameters/distance", 0.16, "set distance to 0.16 m")
    page.reload()
    page.wait_for_selector("[data-ready=true]")
    page.click("[data-test=open-history]")
    page.wait_for_timeout(900)
    rows = page.locator("[data-test=moments] .moment")
    rows.filter(has_text="0.25 m").click()
    page.wait_for_timeout(700)
    page.click("[data-test=mark]")
    rows.filter(has_text="16 × 16").click()
    page.wait_for_timeout(700)
    page.click("[data-test=compare-moments]")
    page.wait_for_timeout(1500)
    take(page, "history")


def package_picture(page: Page, graph: str, name: str) -> None:
    """Keep what the view shows of a graph as the picture of an operator's page."""
    choose(page, "[data-test=graph]", label=graph)
    page.wait_for_timeout(6000)
    folder = FOLDER.parents[1] / "demo" / "pictures"
    folder.mkdir(exist_ok=True)
    (folder / f"{name}.png").write_bytes(picture_of(page, "png"))


def wide(page: Page) -> None:
    """The gallery; and the whole bench on a large screen, with a chart in the drawer."""
    page.reload()
    page.wait_for_selector("[data-ready=true]")
    page.wait_for_timeout(3000)
    choose(page, "[data-test=graph]", label="Demos…")
    page.wait_for_timeout(2500)
    take(page, "gallery")
    page.click("[data-test=demo-ribbed_arch]")
    page.set_viewport_size({"width": 2560, "height": 1440})
    page.wait_for_timeout(5000)
    page.click("[data-test=frame]")
    page.click("[data-test=show-charts]")
    page.wait_for_timeout(3000)
    page.wait_for_selector(".bench[aria-busy=false] .stage[aria-busy=false]", timeout=90_000)
    page.screenshot(path=FOLDER / "large_screen.png")
    print("large_screen")


def take(page: Page, name: str) -> None:
    page.wait_for_selector(".bench[aria-busy=false] .stage[aria-busy=false]", timeout=90_000)
    page.mouse.move(640, 2)
    for width in (1281, 1280):
        page.set_viewport_size({"width": width, "height": 800})
        page.wait_for_timeout(700)
    page.screenshot(path=FOLDER / f"{name}.png")
    print(name)


if __name__ == "__main__":
    main()
