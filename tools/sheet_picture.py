"""Shows the proof sheet of the demo and plans a batch in the page, ready to have their pictures taken."""

from __future__ import annotations

from playwright.sync_api import Page

from tools.choosing import choose

__all__ = ["plan_batch", "show_sheet"]

TILE = "Settlement tile"


def show_sheet(page: Page) -> None:
    """Show the front between little clay and much shelter, with three of the best chosen."""
    _open(page)
    page.wait_for_selector("[data-test=sheet-state][data-state=done]")
    for number in (1, 3, 5):
        page.locator("[data-test=wall] figure").nth(number).click(modifiers=["Shift"])
    page.wait_for_timeout(3000)


def plan_batch(page: Page) -> None:
    """Plan a tile for each site of a table, as files to be printed."""
    _open(page)
    choose(page, "[data-test=which-sheet]", "+")
    page.get_by_label("Title").fill("A tile for each site")
    choose(page, "[data-test=batch-table]", "outplant_sites")
    choose(page, "[data-test=batch-ending]", "3mf")
    page.locator("[data-test=plan]").get_by_text("volume m³", exact=True).click()
    page.wait_for_selector("[data-test=batch-columns]")
    page.locator("[data-test=make-sheet]").scroll_into_view_if_needed()
    page.wait_for_timeout(1500)


def _open(page: Page) -> None:
    choose(page, "[data-test=graph]", label=TILE)
    page.wait_for_timeout(2500)
    page.click("[data-test=open-sheets]")
