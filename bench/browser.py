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
from tools.choosing import choose
from tools.pictures import CHROMIUM

__all__ = ["rows"]

ROOT = Path(__file__).resolve().parents[1]
DIALS = (("Settlement tile", "ridge_height"), ("Current vane", ""), ("Ribbed arch", ""), ("Barnacle crust", ""))
"""Demo graphs and the dial that is dragged; '' is the first one with a slider."""
MOVES = 9
EDITS = 1000
SIDE = 1000
"""The very large mesh is a grid of so many faces along each side."""
OPENED = 217
"""A grid of so many faces along each side has as many triangles as the demo that is opened."""
TURNS = 20
PAGE = Path(__file__).with_name("page")

FROM_SLIDER_TO_PIXELS = (PAGE / "slider_to_pixels.js").read_text()

LONGEST = """() => { window.held = 0; new PerformanceObserver((list) => list.getEntries().forEach((one) =>
    (window.held = Math.max(window.held, one.duration)))).observe({ entryTypes: ['longtask'] }) }"""
"""Keep the longest task of the page, in ms."""

FIRST_PICTURE = (PAGE / "first_picture.js").read_text()

TURN = (PAGE / "turn.js").read_text()

BARE = (PAGE / "bare.html").read_text()


def rows() -> Iterator[Row]:
    """Yield what was measured; says more on the way."""
    with _product() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        for part in (_opening, _lanes, _sliders, _large, _memory):
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
    page.wait_for_function("() => document.querySelector('[data-test=canvas]').dataset.drawn > 0")
    page.wait_for_timeout(4000)
    return page


def _graphs(address: str) -> dict[str, str]:
    client = Client(address)
    projects = client.get("/api/projects")["projects"]
    return {g["title"]: g["id"] for p in projects for g in client.get(f"/api/projects/{p['id']}/graphs")["graphs"]}


def _opening(browser: Browser, address: str) -> Iterator[Row]:
    """From opening the demo to its first picture, with an empty cache of the browser; and what comes over the wire."""
    graph = _graphs(address)["Settlement tile"]
    times = []
    for _ in range(4):
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.add_init_script("localStorage.setItem('reticula toured', 'yes')")
        page.add_init_script(FIRST_PICTURE)
        page.goto(f"{address}/#{graph}")
        times.append(page.wait_for_function("() => window.firstPicture").json_value() / 1000)
        size = page.evaluate(
            "performance.getEntriesByType('resource').reduce((sum, one) => sum + one.encodedBodySize, 0)"
        )
        page.context.close()
    ours, bare = statistics.median(times[1:]), _bare_opening(browser)
    work = f"Settlement tile, {size / 2**20:.1f} MB"
    yield Row("opening to first picture", work, ours, "three.js alone", bare, ours / bare)


def _lanes(browser: Browser, address: str) -> Iterator[Row]:
    """A graph of 500 nodes as lanes: opened, scrolled, dragged in; the longest task of each."""
    nodes: dict[str, Any] = {"n0": {"operator": "grid", "parameters": {"cells": [1, 1]}}}
    for number in range(1, 500):
        nodes[f"n{number}"] = {"operator": "transform", "skip": True, "inputs": {"geo": [f"n{number - 1}"]}}
    graph = _new_graph(address, nodes, "n0")
    page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    page.add_init_script("localStorage.setItem('reticula toured', 'yes')")
    page.goto(f"{address}/#{_graphs(address)['Settlement tile']}")
    page.wait_for_selector("[data-ready=true]")
    page.wait_for_timeout(4000)
    page.evaluate("(id) => { location.hash = id; location.reload() }", graph)
    page.wait_for_selector("[data-test=lanes] .lane")
    opened = page.evaluate("performance.now()")
    page.evaluate(LONGEST)
    page.wait_for_timeout(4000)
    yield Row("open 500 nodes as lanes", "500 nodes", opened / 1000, _held_up(page))
    page.evaluate("window.held = 0")
    page.evaluate(
        """async () => { const list = document.querySelector('[data-test=lanes]');
        for (let n = 0; n < 120; n++) { list.scrollTop += 90; await new Promise(requestAnimationFrame) } }"""
    )
    yield Row("scroll lanes", "120 frames", page.evaluate("window.held") / 1000, _held_up(page))
    page.evaluate("document.querySelector('[data-test=lanes]').scrollTop = 0")
    page.wait_for_timeout(500)
    page.evaluate("window.held = 0")
    box = page.locator("[data-test=card-n5] .title").bounding_box()
    assert box
    page.mouse.move(box["x"] + 10, box["y"] + 8)
    page.mouse.down()
    for step in range(40):
        page.mouse.move(box["x"] + 120, box["y"] + 8 + step * 7)
    page.wait_for_timeout(300)
    page.keyboard.press("Escape")
    page.mouse.up()
    yield Row("drag a row", "500 nodes", page.evaluate("window.held") / 1000, _held_up(page))
    page.context.close()


def _held_up(page: Page) -> str:
    return f"longest task {page.evaluate('window.held ?? 0'):.0f} ms"


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
    idle = "() => !document.querySelector('.stage[aria-busy=true], .bench[aria-busy=true]')"
    page.wait_for_function(idle, timeout=120_000)
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
    choose(page, "[data-test=color-by]", "values|face|area|")
    page.wait_for_selector("[data-test=legend]")
    page.wait_for_function("() => !document.querySelector('.stage[aria-busy=true]')")
    yield Row(
        "colour by a value of faces",
        size,
        page.evaluate("(performance.now() - window.before) / 1000"),
        f"page held up {page.evaluate('window.held'):.0f} ms",
    )
    page.context.close()


def _bare_opening(browser: Browser) -> float:
    """Return seconds from opening a page with nothing but three.js to its first picture of as many triangles."""
    times = []
    with _bare_page() as address:
        for _ in range(4):
            page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
            page.goto(address)
            page.wait_for_function("() => window.ready")
            times.append(page.evaluate("(side) => first(side)", OPENED) / 1000)
            page.context.close()
    return statistics.median(times[1:])


def _bare(browser: Browser, turns: int) -> float:
    """Return milliseconds that one picture of as many triangles takes in a page with nothing but three.js."""
    with _bare_page() as address:
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(address)
        page.wait_for_function("() => window.ready")
        page.evaluate("(side) => show(side)", SIDE)
        page.wait_for_timeout(1500)
        each: float = page.evaluate("(turns) => turn(turns)", turns)
        page.close()
    return each


@contextmanager
def _bare_page() -> Iterator[str]:
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
    try:
        yield f"http://127.0.0.1:{server.server_port}/"
    finally:
        server.shutdown()


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
      const runway = document.querySelector('.dials .el-slider__runway');
      const box = runway.getBoundingClientRect();
      for (let n = from; n < from + count; n++) {
        const share = ((n * 37) % 101) / 101;
        const spot = { clientX: box.left + share * box.width, clientY: box.top + 2, button: 0, bubbles: true };
        runway.dispatchEvent(new MouseEvent('mousedown', spot));
        await new Promise((wake) => setTimeout(wake, 30));
        window.dispatchEvent(new MouseEvent('mouseup', spot));
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
