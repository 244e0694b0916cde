"""Takes the pictures in docs/screenshots from the demo project: ``python -m tools.screenshots`` while it runs.

Uses Debian's Chromium. Changes to the demo graph are undone again. With the word ``packages`` it takes the pictures
that go into the demo's packages instead; ``python -m demo.operators`` puts them there. With the words ``people NAME
PASSWORD`` it takes the one of an installation where people sign in.
"""

from __future__ import annotations

import shutil
import sys
from pathlib import Path

from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
from playwright.sync_api import Page, sync_playwright

from demo.operators import publish_growth, publish_tile
from reticula.core.packages import sign_package, write_package
from tools.choosing import choose
from tools.pictures import CHROMIUM, picture_of

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
        take(page, "bench_day")
        choose(page, "[data-test=color-by]", "values|point|cover|")
        choose(page, "[data-test=edges]", "all")
        page.wait_for_timeout(1500)
        take(page, "false_colour")
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
        page.click("[data-test=card-raise] .title")
        page.wait_for_timeout(1200)
        field = page.locator("[data-test=field-where] textarea")
        field.fill("rigdes and area > 0.00001")
        field.press("Enter")
        page.wait_for_timeout(2500)
        take(page, "failing_node")
        page.click("[data-test=undo]")
        page.locator(".vue-flow__pane").click(position={"x": 420, "y": 40})
        page.wait_for_timeout(1500)
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
        values(page)
        curves(page)
        table(page)
        scripts(page)
        operators(page)
        wide(page)
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
    """A demo driven by values, and one with places that are dragged."""
    choose(page, "[data-test=graph]", label="Barnacle crust")
    page.wait_for_timeout(5000)
    take(page, "barnacle_crust")
    choose(page, "[data-test=graph]", label="Planting line")
    page.wait_for_timeout(5000)
    page.keyboard.press("Control+f")
    page.wait_for_timeout(400)
    page.keyboard.type("Planting line")
    page.wait_for_timeout(600)
    page.keyboard.press("Enter")
    page.wait_for_timeout(1500)
    choose(page, "[data-test=edges]", "kinds")
    page.wait_for_timeout(2000)
    take(page, "handles")
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


def operators(page: Page) -> None:
    """Operators of one's own: one in use, one from the inside, the catalogue, and a package before it is imported."""
    choose(page, "[data-test=graph]", label="Reef module")
    page.wait_for_timeout(6000)
    page.click("[data-test=card-east_tile] .title")
    page.wait_for_timeout(1500)
    take(page, "open_row")
    choose(page, "[data-test=graph]", label="Coral rounds")
    page.wait_for_timeout(4500)
    page.click("[data-test=card-rounds] .title")
    page.wait_for_timeout(900)
    page.click("[data-test=open-inside]")
    page.wait_for_timeout(2500)
    page.fill("[data-test=round]", "2")
    page.press("[data-test=round]", "Enter")
    choose(page, "[data-test=color-by]", "values|face|grown_in|")
    page.wait_for_timeout(2500)
    page.click("[data-test=go-out]")
    page.wait_for_timeout(3000)
    page.click("[data-test=open-catalogue]")
    page.wait_for_timeout(1500)
    take(page, "catalogue")
    page.set_input_files(
        "[data-test=package] input", {"name": "reef_wall.zip", "mimeType": "application/zip", "buffer": colliding()}
    )
    page.wait_for_timeout(1500)
    page.click("[data-test='beside-settlement_tile@1.0.0']")
    page.wait_for_timeout(500)
    take(page, "import_review")


def colliding() -> bytes:
    """A package whose settlement tile is another one than that of the demo."""
    tile, definition, shapes = publish_tile()
    growth, other, _ = publish_growth()
    definition["summary"] = "Tile for larvae, of another studio: finer ridges"
    definition["graph"]["dials"]["ridge_density"]["value"] = 30.0
    nodes = {
        "in_survey": {"operator": "input", "parameters": {"name": "survey"}},
        "tile": {"operator": tile, "inputs": {"survey": ["in_survey"]}},
        "grown": {"operator": growth, "inputs": {"geo": ["tile"]}},
    }
    graph = {"format": "reticula graph", "version": 1, "nodes": nodes}
    graph |= {"inputs": [{"name": "survey"}], "outputs": [{"name": "geo", "feed": "grown"}]}
    wall = {
        "format": "reticula operator",
        "version": 1,
        "name": "reef_wall",
        "release": "1.0.0",
        "title": "Reef wall",
        "summary": "A tile on which growth is suggested, for walls",
        "graph": graph,
    }
    data = write_package("reef_wall@1.0.0", {tile: definition, growth: other, "reef_wall@1.0.0": wall}, shapes, {})
    return sign_package(data, Ed25519PrivateKey.from_private_bytes(bytes(32)), "Northern reef studio")


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
