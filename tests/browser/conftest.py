"""The whole product as a user has it: started by its own launcher, driven through Debian's Chromium."""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Browser, Page, Request, Response, WebSocket, expect, sync_playwright

from reticula.launch.client import Client
from tests.helpers import PATIENCE, any_port, wait_until

HERE = Path(__file__).parent

CHROMIUM = [
    "--use-gl=angle",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


STILL = """() => {
    const cards = [...document.querySelectorAll('.card')].map((card) => card.innerText).join()
    const now = cards + document.querySelector('[data-test=canvas]').dataset.drawn
    const busy = document.querySelector('.bench[aria-busy=true], .stage[aria-busy=true]')
    const seen = (window.seen ??= { now: '', since: 0, frames: 0 })
    if (busy || now !== seen.now) window.seen = { now, since: performance.now(), frames: 0 }
    else if (++seen.frames > 8 && performance.now() - seen.since > 240) return (window.seen = null) === null
    return false
}"""
"""Whether cards and picture have been the same for a quarter of a second and some frames, and nothing is worked out."""


CALM = """() => document.getAnimations().every((one) => one.playState !== 'running'
    || one.effect?.getComputedTiming().iterations === Infinity)"""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Mark what drives the product through Chromium, so that it can be left out."""
    for item in items:
        if item.path.is_relative_to(HERE):
            item.add_marker(pytest.mark.browser)


@contextmanager
def launched(var: Path, env: dict[str, str]) -> Iterator[str]:
    """Start the product in a folder, and return its address when it is ready."""
    command = [sys.executable, "-u", "-m", "reticula.launch", "--var", str(var), "--port", str(any_port())]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, env=env)
    said = ""
    assert process.stdout is not None
    for line in process.stdout:
        said += line
        found = re.search(r"ready at (http\S+)", line)
        if found:
            break
    else:
        raise RuntimeError(said)
    try:
        yield found[1]
    finally:
        process.terminate()
        process.wait(60)


@pytest.fixture(scope="session")
def address(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    with launched(tmp_path_factory.mktemp("bench"), {**os.environ, "RETICULA_BUILD": "off"}) as found:
        yield found


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        expect.set_options(timeout=1000 * PATIENCE)
        made = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        yield made
        made.close()


class Bench:
    """A page, and short words for what tests do on it."""

    def __init__(self, page: Page, address: str) -> None:
        self.page = page
        self.address = address
        self.client = Client(address)
        self.errors: list[str] = []
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.on("console", lambda said: self.errors.append(said.text) if said.type == "error" else None)
        page.on("response", self._look_at)
        self.on_their_way: set[Request] = set()
        page.on("request", lambda request: request.url.endswith("/company") or self.on_their_way.add(request))
        page.on("requestfinished", lambda request: self.on_their_way.discard(request))
        page.on("requestfailed", lambda request: self.on_their_way.discard(request))
        self.asked: dict[int, str] = {}
        self.answers: list[str] = []
        page.on("websocket", self._listen)

    def _listen(self, line: WebSocket) -> None:
        """Follow what goes over the line of the page."""
        self.asked.clear()
        line.on("framesent", lambda frame: self._sent(str(frame)))
        line.on("framereceived", lambda frame: self._received(frame) if isinstance(frame, str) else None)
        line.on("close", lambda _: self.asked.clear())

    def _sent(self, frame: str) -> None:
        head = json.loads(frame.partition("\n")[0])
        if not head["path"].endswith("/company"):  # that waits until others do something
            self.asked[head["id"]] = head["path"]

    def _received(self, frame: str) -> None:
        head, _, body = frame.partition("\n")
        told = json.loads(head)
        if "status" not in told:
            return
        path = self.asked.pop(told["id"], "")
        self.answers.append(path)
        if told["status"] == 422:
            self.errors.append(f"{path} refused: {body}")

    def _look_at(self, got: Response) -> None:
        if got.status == 422 and "/api/graphs/" in got.url:
            self.errors.append(f"{got.url} refused: {got.text()}")

    def open(self, graph: str = "") -> None:
        self.on_their_way.clear()
        self.asked.clear()
        there = self.page.url.startswith(self.address)
        self.page.goto(f"{self.address}/#{graph}")
        if there:
            self.page.reload()
        self.page.wait_for_selector("[data-ready=true]")
        self.settle()

    def new_graph(self, document: dict[str, Any] | None = None) -> str:
        """Make a project with one graph and open it; returns the graph's id."""
        project = self.client.post("/api/projects", {"title": "Browser test"})["id"]
        body = {"title": "Test graph"} | ({"document": document} if document else {})
        graph = self.client.post(f"/api/projects/{project}/graphs", body)["id"]
        self.open(graph)
        return graph

    def settle(self) -> None:
        """Wait until all is saved, answered and drawn, and nothing has changed for a few frames.

        What was just clicked gets a few frames to begin, however busy the machine is.
        """
        self.frames()
        expect(self.page.locator("[data-test=save-state]")).to_have_text("saved")
        for _ in range(100):
            self.page.wait_for_function(STILL, polling="raf")
            if not self.on_their_way and not self.asked:
                return

    def wait_for_answer(self, path: str) -> None:
        """Wait until something that was asked over the line has been answered."""

        def answered() -> bool:
            self.frames(1)
            return any(path in one for one in self.answers)

        wait_until(answered)

    def settle_picture(self) -> None:
        """Wait until the picture stays the same, while something may still be held."""
        self.page.wait_for_function(STILL, polling="raf")

    def calm(self) -> None:
        """Wait until nothing fades or slides any more."""
        self.page.wait_for_function(CALM, polling="raf")

    def frames(self, count: int = 3) -> None:
        """Let the page draw some frames."""
        self.page.evaluate(
            "(n) => new Promise((done) => { const next = () => n-- > 0 ? requestAnimationFrame(next) "
            ": done(); next() })",
            count,
        )

    def add(self, words: str) -> None:
        """Add what the finder finds first."""
        self.page.keyboard.press("/")
        self.page.fill("[data-test=finder]", words)
        self.page.keyboard.press("Enter")
        self.page.wait_for_selector(".card.open")
        self.settle()

    def set(self, parameter: str, text: str) -> None:
        """Type into the open card's field and leave it."""
        self.unfold(parameter)
        field = self.page.locator(f".card.open [data-test=field-{parameter}]").locator("textarea, input").first
        field.fill("")
        field.press_sequentially(text, delay=5)
        field.press("Enter")
        self.settle()

    def as_cards(self) -> None:
        """Draw the graph as cards, however it is drawn now."""
        self.page.locator("[data-test=board-form]").get_by_text("cards", exact=True).click()
        self.page.wait_for_selector(".vue-flow__node")
        self.settle()

    def open_card(self, name: str) -> None:
        """Open a card; where it stands out of sight, all cards are shown first, as a person would."""
        card = self.page.locator(f"[data-test=card-{name}] .title")
        sight, at = self.page.locator(".board .pane").bounding_box(), card.bounding_box()
        assert sight
        within = at and all(
            sight[start] <= at[start] and at[start] + at[size] <= sight[start] + sight[size]
            for start, size in (("x", "width"), ("y", "height"))
        )
        if not within:
            self.page.click("[data-test=all-cards]")
        card.click()

    def unfold(self, parameter: str) -> None:
        """Open the sections of the open card until a parameter is in sight."""
        field = self.page.locator(f".card.open [data-test=field-{parameter}]")
        while not field.count() and (closed := self.page.locator(".card.open .section[aria-expanded=false]")).count():
            closed.first.click()

    def state(self, graph: str) -> dict[str, Any]:
        return self.client.get(f"/api/graphs/{graph}")

    def report(self, graph: str) -> dict[str, Any]:
        return self.client.post(f"/api/graphs/{graph}/evaluations", {"wait": 20})["nodes"]

    def pixels(self) -> np.ndarray:
        """The picture in the view, ``(height, width, 3)``, background included."""
        values = self.page.evaluate(
            """() => { const c = document.querySelector('[data-test=canvas]');
            const d = document.createElement('canvas'); d.width = 200; d.height = 130;
            const x = d.getContext('2d'); x.drawImage(c, 0, 0, 200, 130);
            return [...x.getImageData(0, 0, 200, 130).data] }"""
        )
        return np.array(values, np.uint8).reshape(130, 200, 4)

    def expect_another_picture(self, before: np.ndarray, share: float = 0.0) -> None:
        """Wait until more than ``share`` of the picture differs from ``before``."""

        def differs() -> bool:
            self.frames(2)
            return float((self.pixels() != before).mean()) > share

        wait_until(differs)


@pytest.fixture
def bench(browser: Browser, address: str) -> Iterator[Bench]:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True, color_scheme="light")
    context.add_init_script("localStorage.setItem('reticula toured', 'yes')")
    made = Bench(context.new_page(), address)
    made.page.set_default_timeout(1000 * PATIENCE)
    yield made
    context.close()
    assert not made.errors, made.errors
