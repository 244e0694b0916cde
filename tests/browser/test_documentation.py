"""The documentation opens from the finder, then in a tab of its own, under a policy that runs only its own scripts."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.conftest import Bench


def test_the_documentation_is_found_and_searched(bench: Bench) -> None:
    bench.open()
    page = bench.page
    page.keyboard.press("/")
    page.fill("[data-test=finder]", "documentation")
    page.keyboard.press("Enter")
    expect(page.frame_locator("[data-test=help-page]").locator("h1")).to_contain_text("Reticula")
    with page.context.expect_page() as opened:
        page.get_by_role("link", name="In a tab of its own").click()
    site = opened.value
    blocked: list[str] = []
    site.on("console", lambda message: blocked.append(message.text) if message.type == "error" else None)
    expect(site).to_have_url(re.compile("/docs/index.html"))
    site.wait_for_load_state()
    site.reload()
    expect(site.locator("h1")).to_contain_text("Reticula")
    site.click("input[name=query]")
    expect(site.locator(".md-search-result__meta")).to_have_text(re.compile("Type to start"))
    site.locator("input[name=query]").press_sequentially("proximity deform")
    expect(site.locator(".md-search-result__link").first).to_have_attribute("href", re.compile("proximity_deform"))
    site.locator(".md-search-result__link").first.click()
    expect(site.locator("h1")).to_contain_text("proximity deform")
    assert blocked == []
    site.close()
