"""Chromium as pictures are taken with it, and what the view of a page shows as a picture of its own."""

from __future__ import annotations

import base64

from playwright.sync_api import Page

__all__ = ["CHROMIUM", "picture_of"]

CHROMIUM = ["--use-gl=angle", "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--no-sandbox"]

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
