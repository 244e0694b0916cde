"""Takes the pictures of the tutorials from the running product.

``python -m tools.tutorial_pictures [ADDRESS [PICTURE …]]`` takes those that are named, or all.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page

from demo.tutorials.graphs import TUTORIALS
from tools.pictures import QUIET, as_webp, bench_page

__all__ = ["PICTURES"]

PICTURES = Path(__file__).resolve().parents[1] / "docs" / "tutorials" / "pictures"
SIZE = (960, 600)


def look_at(*cards: str) -> Callable[[Page], None]:
    """Look at a card, of the graph inside of the ones before it."""

    def act(page: Page) -> None:
        for holder in cards[:-1]:
            page.click("[data-test=all-cards]")
            page.wait_for_timeout(500)
            page.locator(f"[data-test=card-{holder}] .title").first.click()
            page.locator("[data-test=open-inside]").dispatch_event("click")
            page.locator(f"[data-test=look-{cards[-1]}]").first.wait_for()
        page.locator(f"[data-test=look-{cards[-1]}]").first.dispatch_event("click")

    return act


def write(page: Page) -> None:
    """Open the text of the script, with a point picked."""
    page.locator("[data-test=card-wells] .title").first.click()
    page.locator("[data-test=look-wells]").first.click()
    page.wait_for_selector(QUIET, timeout=60_000)
    page.click("[data-test=ledger-point]")
    page.fill("[data-test=ledger-where]", "fall > 0.4 and fall < 0.6")
    page.press("[data-test=ledger-where]", "Enter")
    page.wait_for_timeout(1200)
    page.locator("[data-test^='cell-']").first.click()
    page.click("[data-test=edit-script]")
    page.wait_for_timeout(1500)


def checks(page: Page) -> None:
    look_at("parted")(page)
    page.wait_for_selector(QUIET, timeout=60_000)
    page.keyboard.press("Shift+C")
    page.wait_for_timeout(1500)


STEPS: dict[str, tuple[str, Callable[[Page], None]]] = {
    "first_tile_raised": ("first_tile", look_at("raise")),
    "first_tile": ("first_tile", look_at("soft")),
    "values_from_a_scan_scan": ("values_from_a_scan", look_at("scan")),
    "values_from_a_scan": ("values_from_a_scan", look_at("show")),
    "own_script": ("own_script", look_at("show")),
    "own_script_text": ("own_script", write),
    "operator_to_share": ("operator_to_share", look_at("both")),
    "operator_to_share_inside": ("operator_to_share", look_at("coarse", "raise")),
    "looking_for_faults": ("looking_for_faults", checks),
    "looking_for_faults_repaired": ("looking_for_faults", look_at("repaired")),
}
"""Each picture: the tutorial whose graph it shows, and what is done before it is taken."""


def take(page: Page, address: str, tutorial: str, act: Callable[[Page], None]) -> bytes:
    page.goto(f"{address}/?demo={tutorial}")
    page.get_by_test_id("graph").get_by_text(TUTORIALS[tutorial]()["title"]).wait_for()
    page.wait_for_selector(QUIET, timeout=60_000)
    act(page)
    page.wait_for_timeout(600)
    page.wait_for_selector(QUIET, timeout=60_000)
    page.click("[data-test=frame]")
    page.wait_for_timeout(2500)
    return as_webp(page.screenshot(), SIZE)


def main(address: str, names: list[str]) -> None:
    """Write the pictures that are named, or all."""
    PICTURES.mkdir(exist_ok=True)
    with bench_page() as page:
        for name, (tutorial, act) in {name: STEPS[name] for name in names or STEPS}.items():
            (PICTURES / f"{name}.webp").write_bytes(data := take(page, address, tutorial, act))
            print(name, len(data), flush=True)


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8765", sys.argv[2:])
