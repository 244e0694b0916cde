"""The first tutorial walked through as its page says, and each of them opened as the page links it."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from demo.tutorials.graphs import TUTORIALS, first_tile
from reticula.core.graph import run_graph
from tests.browser.conftest import Bench


def add(bench: Bench, operator: str) -> None:
    """Add a card as the page says: /, the name, Enter."""
    bench.page.keyboard.press("Escape")
    bench.page.keyboard.press("/")
    bench.page.fill("[data-test=finder]", operator)
    bench.page.keyboard.press("Enter")
    bench.settle()


def write(bench: Bench, field: str, *texts: str) -> None:
    boxes = bench.page.locator(f"[data-test=row-{field}]").locator("textarea, input:not([type=checkbox])")
    for number, text in enumerate(texts):
        boxes.nth(number).fill(text)
        boxes.nth(number).press("Enter")
    bench.settle()


def test_the_first_tile_is_made_as_its_page_says(bench: Bench) -> None:
    made = bench.new_graph()
    add(bench, "grid")
    write(bench, "size", "0.3", "0.3")
    write(bench, "cells", "24", "24")
    add(bench, "group")
    write(bench, "name", "ridges")
    write(bench, "where", "noise(position * 14) > 0.1")
    expect(bench.page.locator(".card", has_text="holds 294 of 576 faces (51.0%)").first).to_be_attached()
    add(bench, "extrude")
    write(bench, "where", "ridges")
    write(bench, "distance", "0.012")
    write(bench, "inset", "0.002")
    add(bench, "smooth subdivide")
    write(bench, "levels", "2")
    document = bench.state(made)["document"]
    last = run_graph(document, node=document["looking_at"])
    assert last.digest == run_graph(first_tile()).digest


@pytest.mark.parametrize("name", TUTORIALS)
def test_the_page_of_a_tutorial_opens_its_graph(bench: Bench, name: str) -> None:
    bench.new_graph()
    page = bench.page
    page.goto(f"{bench.address}/docs/tutorials/{name}.html")
    for picture in page.locator("article img").all():
        assert picture.evaluate("image => image.decode().then(() => image.naturalWidth)") > 0
    page.locator("article a", has_text="Open the end of it as a graph").click()
    expect(page.locator("[data-test=graph]")).to_contain_text(TUTORIALS[name]()["title"])
    bench.settle()
    expect(page.locator(".card").first).to_be_visible()
    expect(page.locator(".card.failed")).to_have_count(0)
