"""A notebook is executed, and what it shows is drawn by a browser that reaches no network.

The page stands for a notebook's: it gives the widget's script a model with the state that the kernel has sent, as the
interface of front-end modules (https://anywidget.dev/en/afm/) says.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

import nbformat
import pytest
from nbclient import NotebookClient
from playwright.sync_api import Browser, Page, expect

from tests.helpers import PATIENCE

CELLS = (
    "import reticula\nfrom reticula.core import load_package, ops\n"
    "reef = ops.set_attribute(ops.torus(), name='heat', value='position.y')",
    "reef",
    "reticula.show(reef, ops.box(), color='heat', titles=['Reef', 'Box'])",
    "shown = reticula.controls(load_package('tests/core/packages/samples/version_1.zip'), ops.box())\nshown",
    "shown.values = {'height': 4.0}\nshown.geo.bounds[0, 1]",
)
PAGE = """
<!doctype html><title>Notebook</title><body><div id="at"></div><script type="module">
const { state, buffers } = JSON.parse(window.told)
const bytes = (text) => new DataView(Uint8Array.from(atob(text), (one) => one.charCodeAt(0)).buffer)
for (const { path, data } of buffers)
  path.reduce((at, part, k) => (k < path.length - 1 ? at[part] : (at[part] = bytes(data))), state)
const listening = {}
const model = {
  get: (name) => state[name],
  set: (name, value) => (state[name] = value),
  save_changes: () => (window.saved = JSON.stringify({ color: state.color, values: state.values })),
  on: (event, then) => (listening[event] ??= []).push(then),
  off: () => {},
}
const script = URL.createObjectURL(new Blob([state._esm], { type: 'text/javascript' }))
const widget = (await import(script)).default
widget.render({ model, el: document.querySelector('#at') })
document.body.dataset.ready = 'yes'
</script></body>
"""


@pytest.fixture(scope="module")
def executed() -> Any:
    notebook = nbformat.v4.new_notebook(cells=[nbformat.v4.new_code_cell(text) for text in CELLS])
    return NotebookClient(notebook, timeout=PATIENCE, kernel_name="python3").execute()


def widget_of(notebook: Any, cell: int) -> dict[str, Any]:
    view = notebook.cells[cell].outputs[0]["data"]["application/vnd.jupyter.widget-view+json"]
    kept: dict[str, Any] = notebook.metadata["widgets"]["application/vnd.jupyter.widget-state+json"]["state"]
    return {"state": kept[view["model_id"]]["state"], "buffers": kept[view["model_id"]].get("buffers", [])}


@pytest.fixture
def blank(browser: Browser) -> Iterator[Page]:
    context = browser.new_context(viewport={"width": 1000, "height": 620}, offline=True)
    page = context.new_page()
    page.set_default_timeout(1000 * PATIENCE)
    yield page
    context.close()


def drawn(page: Page, told: dict[str, Any]) -> Page:
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.add_init_script(f"window.told = {json.dumps(json.dumps(told))}")
    page.goto("about:blank")
    page.evaluate("page => { document.open(); document.write(page); document.close() }", PAGE)
    page.wait_for_selector("body[data-ready=yes]")
    page.wait_for_selector("canvas[data-drawn]")
    assert errors == []
    return page


def tones(page: Page, number: int = 0) -> int:
    """How many different colours a picture has."""
    count: int = (
        page.locator("canvas")
        .nth(number)
        .evaluate(
            """canvas => { const flat = document.createElement('canvas'); flat.width = 90; flat.height = 60
          const on = flat.getContext('2d'); on.drawImage(canvas, 0, 0, 90, 60)
          return new Set(new Uint32Array(on.getImageData(0, 0, 90, 60).data.buffer)).size }"""
        )
    )
    return count


def test_a_geometry_draws_itself(executed: Any, blank: Page) -> None:
    page = drawn(blank, widget_of(executed, 1))
    expect(page.locator("figcaption")).to_contain_text("768 faces")
    assert tones(page) > 50
    # Its first frame lets the page behind it be seen.
    opaque = page.locator("canvas").evaluate(
        """canvas => { const gl = canvas.getContext('webgl2'), out = new Uint8Array(4)
          gl.readPixels(1, 1, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, out); return [canvas.dataset.drawn, out[3]] }"""
    )
    assert opaque[1] == 0, opaque


def test_two_are_beside_each_other_with_a_legend(executed: Any, blank: Page) -> None:
    page = drawn(blank, widget_of(executed, 2))
    expect(page.locator("figure")).to_have_count(2)
    expect(page.locator(".legend")).to_have_count(1)
    expect(page.locator(".legend")).to_contain_text("heat")
    expect(page.locator(".legend .ends")).to_contain_text("0.15")
    assert min(tones(page, 0), tones(page, 1)) > 20
    page.get_by_label("Colour by").select_option("corner uv x")
    assert json.loads(page.evaluate("() => window.saved"))["color"] == {"kind": "corner", "name": "uv", "part": "x"}
    page.get_by_role("button", name="Turn").click()
    expect(page.get_by_role("button", name="Turn")).to_have_attribute("aria-pressed", "true")
    before = page.locator("canvas").first.get_attribute("data-drawn")
    expect(page.locator("canvas").first).not_to_have_attribute("data-drawn", before or "")


def test_a_package_has_its_dials_and_ran_in_the_kernel(executed: Any, blank: Page) -> None:
    assert executed.cells[4].outputs[0]["data"]["text/plain"].endswith("3.5)")
    page = drawn(blank, widget_of(executed, 3))
    slider = page.get_by_role("slider", name="height")
    expect(slider).to_have_attribute("max", "9")
    slider.fill("2.5")
    assert json.loads(page.evaluate("() => window.saved"))["values"]["height"] == 2.5
