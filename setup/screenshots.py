"""Takes the pictures in docs/screenshots from the demo project: ``python -m setup.screenshots`` while it runs.

Uses Debian's Chromium. Changes to the demo graph are undone again.
"""

from __future__ import annotations

import shutil
import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
CHROMIUM = ["--use-gl=angle", "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--no-sandbox"]


def main() -> None:
    address = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8765"
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        context = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="light")
        page = context.new_page()
        page.goto(address)
        page.wait_for_selector("[data-ready=true]")
        page.wait_for_timeout(3500)
        take(page, "bench_day")
        page.select_option("[data-test=color-by]", "point|cover|")
        page.click("[data-test=wire]")
        page.wait_for_timeout(1500)
        take(page, "false_colour")
        page.click("[data-test=wire]")
        page.select_option("[data-test=color-by]", "point|color|")
        page.click("[data-test=card-raise] .title")
        page.wait_for_timeout(1500)
        take(page, "card_open")
        field = page.locator("[data-test=field-where] textarea")
        field.fill("rigdes and area > 0.00001")
        field.press("Enter")
        page.wait_for_timeout(2500)
        take(page, "failing_node")
        page.click("[data-test=undo]")
        page.locator(".vue-flow__pane").click(position={"x": 420, "y": 40})
        page.wait_for_timeout(1500)
        page.click("[data-test=ledger-point]")
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
        page.wait_for_timeout(800)
        take(page, "ledger")
        page.keyboard.press("Escape")
        page.evaluate("localStorage.clear()")
        page.keyboard.press("/")
        page.fill("[data-test=finder]", "ra")
        page.wait_for_timeout(500)
        take(page, "finder")
        page.keyboard.press("Escape")
        page.click("[data-test=theme]")
        page.wait_for_timeout(300)
        page.reload()
        page.wait_for_selector("[data-ready=true]")
        page.wait_for_timeout(3500)
        take(page, "bench_night")
        page.click("[data-test=theme]")
        page.select_option("[data-test=graph]", label="Ribbed arch")
        page.wait_for_timeout(4500)
        page.click("[data-test=card-rails] .title")
        page.wait_for_timeout(1500)
        take(page, "ribbed_arch")
        page.select_option("[data-test=graph]", label="Fracture kit")
        page.wait_for_timeout(4500)
        page.select_option("[data-test=color-by]", "face|cell|")
        page.wait_for_timeout(1500)
        take(page, "fracture_kit")
        page.click("[data-test=open-finder]")
        page.fill("[data-test=finder]", "slice")
        page.keyboard.press("Enter")
        page.wait_for_timeout(3500)
        page.locator(".vue-flow__pane").click(position={"x": 60, "y": 300})
        page.wait_for_timeout(800)
        page.locator("[data-test=look-slice_1-below]").dispatch_event("click")
        page.wait_for_timeout(2500)
        take(page, "two_outputs")
        page.click("[data-test=undo]")
        page.wait_for_timeout(800)
        page.click("[data-test=undo]")
        page.wait_for_timeout(800)
        values(page)
        scripts(page)
        browser.close()


def values(page: Page) -> None:
    """The demos that are driven by values: an exposure as false colour, a gradient, densities, a group picked by hand."""
    page.select_option("[data-test=graph]", label="Current vane")
    page.wait_for_timeout(5000)
    page.select_option("[data-test=color-by]", "point|exposure|")
    page.wait_for_timeout(1500)
    take(page, "current_vane")
    page.select_option("[data-test=graph]", label="Survey drape")
    page.wait_for_timeout(4500)
    page.click("[data-test=card-colour] .title")
    page.wait_for_timeout(1500)
    take(page, "survey_drape")
    page.select_option("[data-test=graph]", label="Barnacle crust")
    page.wait_for_timeout(5000)
    take(page, "barnacle_crust")
    page.select_option("[data-test=graph]", label="Settlement tile")
    page.wait_for_timeout(4500)
    page.click("[data-test=open-finder]")
    page.fill("[data-test=finder]", "group picked")
    page.keyboard.press("Enter")
    page.wait_for_timeout(3500)
    canvas = page.locator("canvas").first.bounding_box()
    assert canvas
    page.keyboard.down("Shift")
    for across, down in ((0.5, 0.4), (0.51, 0.42), (0.49, 0.42), (0.5, 0.44), (0.52, 0.44)):
        page.mouse.click(canvas["x"] + canvas["width"] * across, canvas["y"] + canvas["height"] * down)
        page.wait_for_timeout(600)
    page.keyboard.up("Shift")
    page.click("[data-test=picked-replace]")
    page.wait_for_timeout(3000)
    take(page, "picked_group")
    page.click("[data-test=undo]")
    page.wait_for_timeout(800)
    page.click("[data-test=undo]")
    page.wait_for_timeout(800)


def scripts(page: Page) -> None:
    """The rope cradle: its result, the editor, completion, an error; and a formula drawn as value nodes."""
    page.select_option("[data-test=graph]", label="Rope cradle")
    page.wait_for_timeout(6000)
    take(page, "rope_cradle")
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
    take(page, "script_completion")
    page.keyboard.press("Escape")
    page.keyboard.type("closest(p).distanse", delay=20)
    page.wait_for_timeout(2500)
    take(page, "script_error")
    for _ in range(40):
        if page.locator("[data-test=undo]").is_disabled():
            break
        page.click("[data-test=undo]")
        page.wait_for_timeout(500)
    page.click("[data-test=show-ledger]")
    page.reload()
    page.wait_for_selector("[data-ready=true]")
    page.wait_for_timeout(4000)
    page.click("text=All cards")
    page.wait_for_timeout(1200)
    page.locator("[data-test=card-boulder]").click(force=True, position={"x": 60, "y": 60})
    page.wait_for_timeout(1500)
    page.hover("[data-test=field-value]")
    page.click("[data-test=as-nodes-value]")
    page.wait_for_timeout(3500)
    take(page, "value_nodes")
    page.click("[data-test=undo]")
    page.wait_for_timeout(800)


def take(page: Page, name: str) -> None:
    page.mouse.move(640, 2)
    for width in (1281, 1280):
        page.set_viewport_size({"width": width, "height": 800})
        page.wait_for_timeout(700)
    page.screenshot(path=FOLDER / f"{name}.png")
    print(name)


if __name__ == "__main__":
    main()
