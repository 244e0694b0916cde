"""Seeks the best of the demo's settlement tile in the page, ready to have its picture taken."""

from __future__ import annotations

from playwright.sync_api import Page

from tools.choosing import choose

__all__ = ["show_sheet"]


def show_sheet(page: Page) -> None:
    """Show the front between little clay and much shelter, with three of the best chosen."""
    choose(page, "[data-test=graph]", label="Settlement tile")
    page.wait_for_timeout(2500)
    page.click("[data-test=open-sheets]")
    page.wait_for_selector("[data-test=plan], [data-test=wall]")
    if page.locator("[data-test=plan]").count():
        page.get_by_label("Title").fill("Which tile")
        page.locator("[data-test=plan-mode]").get_by_text("Seek the best").click()
        for dial in ("ridge_height", "ridge_share", "ridge_density"):
            choose(page, f"[data-test=turn-{dial}] .choice", "uniform")
        page.fill("[data-test=aim-0]", "volume")
        page.click("[data-test=add-aim]")
        page.fill("[data-test=aim-1]", "sheltered")
        choose(page, "[data-test=goal-1]", "largest")
        page.fill("[data-test=conditions]", "volume < 0.003")
        for word in ("faces", "area m²"):
            page.locator("[data-test=plan]").get_by_text(word, exact=True).click()
        page.fill("[data-test=numbers]", "sheltered = sum([f.area for f in geo.faces if all(f.points.niches)])")
        page.fill("[data-test=tries] input", "48")
        page.get_by_role("button", name="Seek with 48 tries").click()
    page.wait_for_selector("[data-test=sheet-state][data-state=done]", timeout=300_000)
    for number in (2, 5, 7):
        page.locator("[data-test=wall] figure").nth(number).click(modifiers=["Shift"])
    page.wait_for_timeout(3000)
