"""Chromium as pictures are taken with it, a page of the running product, and what its view shows as a picture."""

from __future__ import annotations

import base64
import io
import shutil
from collections.abc import Iterator
from contextlib import contextmanager

from PIL import Image
from playwright.sync_api import Page, sync_playwright

__all__ = ["CHROMIUM", "QUIET", "as_webp", "bench_page", "picture_of", "show_studio"]

CHROMIUM = ["--use-gl=angle", "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--no-sandbox"]

QUIET = ".bench[aria-busy=false] .stage[aria-busy=false]"
"""The bench once all is evaluated and drawn."""

_DRAWN = """([type, quality]) => {
  const source = document.querySelector('[data-test=canvas]'), made = document.createElement('canvas')
  made.width = 640; made.height = 400
  const paper = made.getContext('2d'), style = getComputedStyle(document.documentElement)
  const back = paper.createLinearGradient(0, 0, 0, 400)
  back.addColorStop(0, style.getPropertyValue('--backdrop-top'))
  back.addColorStop(1, style.getPropertyValue('--backdrop-bottom'))
  paper.fillStyle = back; paper.fillRect(0, 0, 640, 400)
  const scale = Math.max(640 / source.width, 400 / source.height)
  const width = source.width * scale, height = source.height * scale
  paper.drawImage(source, (640 - width) / 2, (400 - height) / 2, width, height)
  return made.toDataURL(type, quality)
}"""


def picture_of(page: Page, kind: str) -> bytes:
    """Return what the view shows, on its backdrop, 640 by 400 pixels, as ``png`` or ``webp``."""
    return base64.b64decode(page.evaluate(_DRAWN, [f"image/{kind}", 0.86]).partition(",")[2])


def as_webp(picture: bytes, size: tuple[int, int]) -> bytes:
    """Return a picture at another size (pixels), as WebP."""
    made = io.BytesIO()
    Image.open(io.BytesIO(picture)).resize(size, Image.Resampling.LANCZOS).save(made, "webp", quality=82)
    return made.getvalue()


@contextmanager
def bench_page() -> Iterator[Page]:
    """A page of 1280 by 800 pixels in which the product can be opened; nobody is shown round in it."""
    with sync_playwright() as playwright:
        playwright.selectors.set_test_id_attribute("data-test")
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.add_init_script("localStorage.setItem('reticula toured', 'yes')")
        yield page
        browser.close()


def show_studio(page: Page, address: str) -> None:
    """Open the product with its view alone, drawn as well as can be."""
    page.goto(address)
    page.wait_for_selector("[data-ready=true]")
    page.keyboard.press("Shift+V")
    page.click("[data-test=look]")
    page.click("[data-test=quality-studio]")
