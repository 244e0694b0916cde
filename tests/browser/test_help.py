"""Help: F1 on a control, the page of an operator with its example, and the documentation beside the work."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tests.browser.test_operators import lifted, select_cards


def test_f1_opens_the_help_of_what_is_meant(bench: Bench) -> None:
    bench.new_graph(lifted())
    page = bench.page
    select_cards(bench, "raise")
    page.locator("[data-test=row-distance]").hover()
    page.keyboard.press("F1")
    expect(page.locator("[data-test=operator-page] h2")).to_have_text("extrude")
    expect(page.locator("[data-test=operator-page] .meant")).to_contain_text("how far")
    expect(page.locator("[data-test=operator-page] .meant")).to_be_in_viewport()
    page.keyboard.press("Escape")
    expect(page.locator("[data-test=operator-page]")).to_be_hidden()
    page.locator("[data-test=canvas]").hover()
    page.keyboard.press("F1")
    frame = page.frame_locator("[data-test=help-page]")
    expect(frame.locator("#in-the-view")).to_be_in_viewport()
    page.locator(".help-drawer .el-drawer__close-btn").click()
    expect(page.locator("[data-test=help-page]")).to_have_count(0)


def test_a_tutorial_beside_the_work_opens_its_graph_there(bench: Bench) -> None:
    bench.new_graph(lifted())
    page = bench.page
    page.keyboard.press("/")
    page.fill("[data-test=finder]", "Documentation")
    page.keyboard.press("Enter")
    frame = page.frame_locator("[data-test=help-page]")
    frame.locator("article a", has_text="Tutorials").click()
    frame.locator("article a", has_text="A first tile").click()
    frame.locator("article a", has_text="Open the end of it as a graph").click()
    expect(page.locator("[data-test=graph]")).to_contain_text("Tutorial: first tile")
    bench.settle()
    expect(page.locator("[data-test=card-soft]")).to_be_visible()
    expect(frame.locator("h1")).to_contain_text("A first tile")


def test_an_example_is_put_into_the_graph_and_can_be_taken_back(bench: Bench) -> None:
    made = bench.new_graph(lifted())
    page = bench.page
    before = set(bench.state(made)["document"]["nodes"])
    page.keyboard.press("c")
    page.click("[data-test=catalogue-drape]")
    picture = page.locator("[data-test=example-picture]")
    expect(picture).to_be_visible()
    assert picture.evaluate("image => image.decode().then(() => image.naturalWidth)") == 400
    expect(page.locator("[data-test=example]")).to_contain_text("drape(cloth, seabed")
    expect(page.locator("[data-test=operator-page] .help")).not_to_contain_text("``")
    page.click("[data-test=related-raycast]")
    expect(page.locator("[data-test=operator-page] h2")).to_have_text("raycast")
    page.click("[data-test=catalogue-drape]")
    expect(page.locator("[data-test=example]")).to_contain_text("drape(cloth, seabed")
    page.click("[data-test=insert-example]")
    expect(page.locator("[data-test=operator-page]")).to_be_hidden()
    bench.settle()
    document = bench.state(made)["document"]
    fresh = set(document["nodes"]) - before
    assert {document["nodes"][name]["operator"] for name in fresh} >= {"drape", "disc", "displace", "join"}
    assert document["nodes"][document["looking_at"]]["operator"] == "join"
    page.click("[data-test=undo]")
    bench.settle()
    assert set(bench.state(made)["document"]["nodes"]) == before


def test_the_documentation_opens_an_example_as_a_graph(bench: Bench) -> None:
    bench.new_graph(lifted())
    page = bench.page
    page.goto(f"{bench.address}/docs/operators/scatter.html")
    expect(page.locator("article img[src*=scatter]")).to_be_visible()
    page.locator("article a", has_text="Open it as a graph").click()
    expect(page.locator("[data-test=graph]")).to_contain_text("Example of scatter")
    bench.settle()
    expect(page.locator(".card", has_text="scatter").first).to_be_visible()
