"""Choosing in the page, for browser tests and for the pictures of the documentation."""

from __future__ import annotations

from playwright.sync_api import Page


def choose(page: Page, where: str, value: str | None = None, *, label: str | None = None) -> None:
    """Open the choice at a selector and take the entry of a value, or of a label."""
    choice = page.locator(where)
    choice.click()
    listed = page.locator(f'[id="{choice.get_by_role("combobox").get_attribute("aria-controls")}"]')
    entry = (
        listed.locator(f'[data-value="{value}"]') if value is not None else listed.get_by_text(label or "", exact=True)
    )
    entry.first.click()
    listed.wait_for(state="hidden")
