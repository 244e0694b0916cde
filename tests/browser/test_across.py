"""Cards that run from left to right, and cards that are put in a line."""

from __future__ import annotations

from tests.browser.conftest import Bench
from tests.core.graph.building import graph, node

CHAIN = {
    "sheet": {**node("grid"), "place": [0, 0]},
    "raise": {**node("extrude", "sheet"), "place": [60, 160]},
    "fine": node("split_faces", "raise"),
}


def test_cards_run_across_and_wires_leave_at_the_side_they_go_to(bench: Bench) -> None:
    bench.new_graph(graph({name: {**one, "place": None} for name, one in CHAIN.items()}, looking_at="fine"))
    page = bench.page
    page.click("[data-test=across]")
    bench.settle()
    boxes = [page.locator(f"[data-test=card-{name}]").bounding_box() for name in CHAIN]
    assert all(boxes)
    lefts = [box["x"] for box in boxes if box]
    assert lefts == sorted(lefts)
    assert lefts[1] - lefts[0] > 200
    assert page.locator("[data-test=card-sheet] .vue-flow__handle-right").count() == 1
    assert page.locator("[data-test=card-raise] .vue-flow__handle-left").count() >= 1
    page.click("[data-test=across]")
    bench.settle()
    assert page.locator("[data-test=card-sheet] .vue-flow__handle-bottom").count() == 1


def test_cards_are_put_in_a_line_and_stay_there(bench: Bench) -> None:
    made = bench.new_graph(graph(CHAIN, looking_at="fine"))
    page = bench.page
    page.keyboard.press("Control+A")
    page.click("[data-test=align]")
    bench.settle()
    places = [node["place"] for node in bench.state(made)["document"]["nodes"].values()]
    assert len({across for across, _ in places}) == 1
    assert len({down for _, down in places}) == 3
