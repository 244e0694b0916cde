"""Makes a proof sheet of the demo's settlement tile in the page, ready to have its picture taken."""

from __future__ import annotations

from playwright.sync_api import Page

from tools.choosing import choose

__all__ = ["show_sheet"]


def show_sheet(page: Page) -> None:
    """Show clay volume against the share of points that are niches, with three variants chosen."""
    choose(page, "[data-test=graph]", label="Settlement tile")
    page.wait_for_timeout(2500)
    page.click("[data-test=open-sheets]")
    page.wait_for_selector("[data-test=plan], [data-test=wall]")
    if page.locator("[data-test=plan]").count():
        page.get_by_label("Title").fill("Which tile")
        for dial in ("ridge_height", "ridge_density"):
            choose(page, f"[data-test=turn-{dial}] .choice", "uniform")
        page.fill("[data-test=draws] input", "32")
        page.locator("[data-test=plan]").get_by_text("faces", exact=True).click()
        page.get_by_text("volume m³").click()
        page.fill("[data-test=numbers]", "niches = len([p for p in geo.points if p.niches]) / len(geo.points)")
        page.get_by_role("button", name="Make 32 variants").click()
    page.wait_for_selector("[data-test=sheet-state][data-state=done]", timeout=300_000)
    choose(page, ".plots .choice >> nth=0", "numbers.volume")
    choose(page, ".plots .choice >> nth=1", "numbers.niches")
    choose(page, "[data-test=order]", "numbers.niches")
    page.click("[data-test=direction]")
    for number in range(3):
        page.locator("[data-test=wall] figure").nth(number).click(modifiers=["Shift"] if number else [])
    page.wait_for_timeout(3000)
