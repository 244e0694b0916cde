"""Two real browsers at one graph: ``python -m campaign.two_browsers [EDITS]``.

Both turn dials at random, often the same, are without a network for a while in turn, and the service is killed now and
then. In the end both must show the same values, which are those of the log's last moment, and every value that was
typed must stand in the log once: none refused, none lost, none done twice.
"""

from __future__ import annotations

import random
import shutil
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path
from typing import Any

from playwright.sync_api import BrowserContext, Page, sync_playwright

from campaign.installation import Installation
from reticula.launch.client import Client
from tools.pictures import CHROMIUM

DIALS = [f"d{number}" for number in range(8)]
AWAY_SECONDS = 2.5


def document() -> dict[str, Any]:
    """A graph of dials, each of which moves a card of its own."""
    nodes: dict[str, Any] = {"sheet": {"operator": "grid", "parameters": {"cells": [4, 4]}}}
    before = "sheet"
    for name in DIALS:
        move = {"formula": f"vec3(0, {name}, 0)"}
        nodes[f"by_{name}"] = {"operator": "transform", "inputs": {"geo": [before]}, "parameters": {"move": move}}
        before = f"by_{name}"
    dials = {name: {"type": "number", "value": 0.0} for name in DIALS}
    return {"format": "reticula graph", "version": 1, "dials": dials, "nodes": nodes, "looking_at": before}


def opened(context: BrowserContext, address: str, graph: str) -> Page:
    context.add_init_script("localStorage.setItem('reticula toured', 'yes')")
    page = context.new_page()
    page.set_default_timeout(90_000)
    page.goto(f"{address}/#{graph}")
    page.wait_for_selector("[data-ready=true]")
    return page


def turn(page: Page, dial: str, value: float) -> None:
    field = page.locator(f"[data-test=dial-{dial}]").locator("textarea, input[type=text], input:not([type])").first
    text = f"{value:.4f}"
    field.fill(text)
    while field.input_value() != text:
        # The other's value came between selecting what was there and writing over it.
        field.fill(text)
    field.press("Enter")


def shown(page: Page) -> list[float]:
    fields = [
        page.locator(f"[data-test=dial-{name}]").locator("textarea, input[type=text], input:not([type])").first
        for name in DIALS
    ]
    return [float(field.input_value()) for field in fields]


def settled(page: Page) -> None:
    page.locator("[data-test=save-state]").get_by_text("saved", exact=True).wait_for()


def values_in_log(client: Client, graph: str, revision: int) -> tuple[Counter[float], dict[str, float]]:
    """How often each value came into the document, moment by moment, and the values of the last one."""
    counted: Counter[float] = Counter()
    last = dict.fromkeys(DIALS, 0.0)
    for number in range(1, revision + 1):
        found = client.get(f"/api/graphs/{graph}/moments/{number}")["document"]["dials"]
        now = {name: float(found[name]["value"]) for name in DIALS}
        counted.update(now[name] for name in DIALS if now[name] != last[name])
        last = now
    return counted, last


def hunt(place: Installation, edits: int, seed: int) -> bool:
    rng, client = random.Random(seed), place.client
    address = f"http://127.0.0.1:{place.port}"
    project = client.post("/api/projects", {"title": "Two"})["id"]
    graph = client.post(f"/api/projects/{project}/graphs", {"title": "Both", "document": document()})["id"]
    typed, kills, away = 0, 0, 0
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        contexts = [browser.new_context(viewport={"width": 1280, "height": 800}) for _ in range(2)]
        pages = [opened(context, address, graph) for context in contexts]
        back = [0.0, 0.0]
        for number in range(1, edits + 1):
            side = rng.randrange(2)
            turn(pages[side], rng.choice(DIALS[:2] if rng.random() < 0.4 else DIALS), number / 1000)
            typed += 1
            if number % 90 == 0:
                contexts[side].set_offline(True)
                back[side], away = time.monotonic() + AWAY_SECONDS, away + 1
            for other in range(2):
                if back[other] and time.monotonic() > back[other]:
                    contexts[other].set_offline(False)
                    back[other] = 0.0
            if number % 250 == 125:
                place.kill("service", rng.choice)
                kills += 1
        for context in contexts:
            context.set_offline(False)
        for page in pages:
            settled(page)
        state = client.get(f"/api/graphs/{graph}")
        deadline = time.monotonic() + 30
        wanted = [float(state["document"]["dials"][name]["value"]) for name in DIALS]
        while [shown(page) for page in pages] != [wanted, wanted] and time.monotonic() < deadline:
            time.sleep(0.2)
        both = [shown(page) for page in pages]
        browser.close()
    counted, last = values_in_log(client, graph, state["revision"])
    lost = [value for value in (number / 1000 for number in range(1, edits + 1)) if not counted[value]]
    twice = [value for value, count in counted.items() if count > 1]
    same = both == [wanted, wanted] and list(last.values()) == wanted
    print(
        f"{typed:,} edits in two browsers, {away} times without a network, {kills} kills of the service (seed {seed}): "
        f"{len(lost)} lost or refused {lost[:9] or ''}, {len(twice)} done twice; "
        f"{'both show the same as the log' if same else f'they differ: {both}, {wanted}, {last}'}"
    )
    return same and not lost and not twice


def main() -> int:
    edits = int(sys.argv[1]) if len(sys.argv) > 1 else 1000
    place = Installation(Path(tempfile.mkdtemp(prefix="two-browsers-")) / "var", 18865)
    place.start()
    try:
        return 0 if hunt(place, edits, random.SystemRandom().randrange(10**6)) else 1
    finally:
        place.stop()


if __name__ == "__main__":
    sys.exit(main())
