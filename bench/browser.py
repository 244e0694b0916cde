"""In the browser, through the real interface: from slider to changed pixels, memory over many edits, and a very large
mesh.

``python -m bench browser`` starts the product by its own launcher and drives Debian's Chromium. Drawing is compared
with a bare page of three.js that shows the same number of triangles in the same run.
"""

from __future__ import annotations

import functools
import http.server
import os
import re
import shutil
import statistics
import subprocess
import sys
import tempfile
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, CDPSession, Page, sync_playwright

from bench.measure import Row
from reticula.launch.client import Client

__all__ = ["rows"]

ROOT = Path(__file__).resolve().parents[1]
CHROMIUM = ["--use-gl=angle", "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--no-sandbox"]
DIALS = (("Settlement tile", "ridge_height"), ("Current vane", ""), ("Ribbed arch", ""), ("Barnacle crust", ""))
"""Demo graphs and the dial that is dragged; '' is the first one with a input."""
MOVES = 9
EDITS = 1000
SIDE = 1000
"""The very large mesh is a grid of so many faces along each side."""
TURNS = 20
PAGE = Path(__file__).with_name("page")

FROM_SLIDER_TO_PIXELS = (PAGE / "slider_to_pixels.js").read_text()

TURN = (PAGE / "turn.js").read_text()

BARE = (PAGE / "bare.html").read_text()


def rows() -> Iterator[Row]:
    """Yield what was measured; says more on the way."""
    with _product() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        for part in (_sliders, _large, _memory):
            yield from part(browser, address)
        browser.close()


@contextmanager
def _product() -> Iterator[str]:
    with tempfile.TemporaryDirectory() as var:
        command = [sys.executable, "-u", "-m", "reticula.launch", "--var", var, "--port", "8940"]
        quiet = {**os.environ, "RETICULA_BUILD": "off"}
        process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, env=quiet)
        assert process.stdout is not None
        found = next((match for line in process.stdout if (match := re.search(r"ready at (http\S+)", line))), None)
        if found is None:
            raise RuntimeError("the product did not start")
        try:
            yield found[1]
        finally:
            process.terminate()
            process.wait(60)


def _page(browser: Browser, address: str, graph: str) -> Page:
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.add_init_script("localStorage.setItem('reticula toured', 'yes')")
    page = context.new_page()
    page.set_default_timeout(60_000)
    page.goto(f"{address}/#{graph}")
    page.reload()
    page.wait_for_selector("[data-ready=true]")
    page.wait_for_function("document.querySelector('[data-test=canvas]').dataset.drawn > 2")
    page.wait_for_timeout(4000)
    return page


def _graphs(address: str) -> dict[str, str]:
    client = Client(address)
    projects = client.get("/api/projects")["projects"]
    return {g["title"]: g["id"] for p in projects for g in client.get(f"/api/projects/{p['id']}/graphs")["graphs"]}


def _sliders(browser: Browser, address: str) -> Iterator[Row]:
    graphs = _graphs(address)
    for title, dial in DIALS:
        page = _page(browser, address, graphs[title])
        found = []
        for move in range(MOVES + 2):
            found.append(page.evaluate(FROM_SLIDER_TO_PIXELS, [dial, 0.3 + 0.04 * move]))
            page.wait_for_timeout(700)
        parts = {key: statistics.median(one[key] for one in found[2:]) for key in found[0]}
        faces = page.inner_text("[data-test=ledger-face]").split()[-1]
        split = ", ".join(f"{key} {parts[key]:.0f} ms" for key in ("server", "transfer", "drawing"))
        yield Row(f"slider to pixels, {title}", f"{faces} faces", parts["total"] / 1000, split)
        page.context.close()


def _new_graph(address: str, nodes: dict[str, Any], looking_at: str, dials: dict[str, Any] | None = None) -> str:
    client = Client(address)
    project = client.post("/api/projects", {"title": "Bench"})["id"]
    document = {
        "format": "reticula graph",
        "version": 1,
        "nodes": nodes,
        "looking_at": looking_at,
        "dials": dials or {},
    }
    return str(client.post(f"/api/projects/{project}/graphs", {"title": "Bench", "document": document})["id"])


def _large(browser: Browser, address: str) -> Iterator[Row]:
    bump = {"formula": "noise(position * 6) * 0.1"}
    nodes = {
        "sheet": {"operator": "grid", "parameters": {"cells": [SIDE, SIDE]}},
        "hills": {"operator": "push", "inputs": {"geo": ["sheet"]}, "parameters": {"amount": bump}},
    }
    size = f"{SIDE * SIDE:,} faces"
    page = _page(browser, address, _new_graph(address, nodes, "hills"))
    page.wait_for_function("!document.querySelector('.stage[aria-busy=true], .bench[aria-busy=true]')", timeout=120_000)
    page.wait_for_timeout(2000)
    turned = page.evaluate(TURN, TURNS)
    bare = _bare(browser, TURNS)
    yield Row("orbit, a picture", size, turned["each"] / 1000, "three.js alone", bare / 1000, turned["each"] / bare)
    yield Row("  longest the page was held up", size, turned["longest"] / 1000, "")
    longest = (
        "new PerformanceObserver((l) => l.getEntries().forEach((e) => (window.held = "
        "Math.max(window.held ?? 0, e.duration)))).observe({ entryTypes: ['longtask'] })"
    )
    page.evaluate(longest)
    box = page.locator("[data-test=canvas]").bounding_box()
    assert box
    for what in ("pick a face, the first time", "pick another one"):
        page.evaluate("window.held = 0; window.before = performance.now()")
        page.mouse.click(box["x"] + box["width"] / 2 + (what[5] == "a" and 20), box["y"] + box["height"] * 0.55)
        page.wait_for_selector("[data-test=chosen-count]")
        yield Row(
            what,
            size,
            page.evaluate("(performance.now() - window.before) / 1000"),
            f"page held up {page.evaluate('window.held'):.0f} ms",
        )
        page.keyboard.press("Escape")
        page.mouse.click(box["x"] + box["width"] - 20, box["y"] + 20)
        page.wait_for_selector("[data-test=chosen-count]", state="detached")
    page.evaluate(
        "window.held = 0; window.drawn = document.querySelector('[data-test=canvas]').dataset.drawn; "
        "window.before = performance.now()"
    )
    page.select_option("[data-test=color-by]", "values|face|area|")
    page.wait_for_selector("[data-test=legend]")
    page.wait_for_function("!document.querySelector('.stage[aria-busy=true]')")
    yield Row(
        "colour by a value of faces",
        size,
        page.evaluate("(performance.now() - window.before) / 1000"),
        f"page held up {page.evaluate('window.held'):.0f} ms",
    )
    page.context.close()


def _bare(browser: Browser, turns: int) -> float:
    """Return milliseconds that one picture of as many triangles takes in a page with nothing but three.js."""
    folder = ROOT / "web" / "node_modules" / "three"

    class Handler(http.server.SimpleHTTPRequestHandler):
        def do_GET(self) -> None:
            if self.path != "/":
                return super().do_GET()
            self.send_response(200)
            self.send_header("Content-Type", "text/html")
            self.end_headers()
            self.wfile.write(BARE.encode())
            return None

        def log_message(self, *said: Any) -> None:
            pass

    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), functools.partial(Handler, directory=str(folder)))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.add_init_script("localStorage.setItem('reticula toured', 'yes')")
    page.goto(f"http://127.0.0.1:{server.server_port}/")
    page.wait_for_function("window.ready")
    page.evaluate("(side) => show(side)", SIDE)
    page.wait_for_timeout(1500)
    each: float = page.evaluate("(turns) => turn(turns)", turns)
    page.close()
    server.shutdown()
    return each


def _held(session: CDPSession) -> dict[str, float]:
    """Return what the page holds after a clean-up: megabytes of the heap with its arrays, and nodes of the document."""
    session.send("HeapProfiler.collectGarbage")
    session.send("HeapProfiler.collectGarbage")
    usage = session.send("Runtime.getHeapUsage")
    nodes = session.send("Memory.getDOMCounters")["nodes"]
    return {"heap": (usage["usedSize"] + usage.get("backingStorageSize", 0)) / 2**20, "nodes": nodes}


def _memory(browser: Browser, address: str) -> Iterator[Row]:
    page = _page(browser, address, _graphs(address)["Settlement tile"])
    session = page.context.new_cdp_session(page)
    move = """async ([from, count]) => {
      const input = document.querySelector('.dials input[type=range]');
      for (let n = from; n < from + count; n++) {
        input.value = Number(input.min) + ((n * 37) % 101) / 101 * (input.max - input.min);
        input.dispatchEvent(new Event('input', { bubbles: true }));
        await new Promise((wake) => setTimeout(wake, 30));
        input.dispatchEvent(new Event('change', { bubbles: true }));
        while (document.querySelector('.bench[aria-busy=true], .stage[aria-busy=true]')
            || document.querySelector('[data-test=save-state]').innerText !== 'saved')
            await new Promise((wake) => setTimeout(wake, 15));
      }
    }"""
    page.evaluate(move, [0, 100])
    page.wait_for_timeout(1500)
    before = _held(session)
    for batch in range(EDITS // 50):
        page.evaluate(move, [100 + 50 * batch, 50])
    page.wait_for_timeout(1500)
    after = _held(session)
    nodes = f"{before['nodes']:.0f} and {after['nodes']:.0f} nodes of the document"
    yield Row(
        f"memory after {EDITS:,} edits",
        nodes,
        after["heap"],
        "before them",
        before["heap"],
        after["heap"] / before["heap"],
        "MB",
    )
    page.context.close()
