"""Each result is checked once; large ones only when that is asked for; the demo gives no alarm."""

import json
from typing import Any

import pytest

from demo.operators import HERE, tile_library
from reticula.core.context import using
from reticula.core.graph import Evaluator, check_structure
from reticula.workers.check_counts import CheckCounts
from tests.core.graph.building import graph, node


def test_each_result_is_checked_once(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[int] = []
    from reticula.workers import check_counts

    real = check_counts.find_defects
    monkeypatch.setattr(check_counts, "find_defects", lambda geo: asked.append(1) or real(geo))
    evaluator, counts = Evaluator(), CheckCounts()
    nodes = {"sheet": node("grid", cells=[4, 4]), "apart": node("unshare", "sheet")}
    first = counts.of(evaluator.evaluate(graph(nodes)), lambda: False)
    assert [(one["name"], one["count"]) for one in first["sheet"]["found"]] == [("open borders", 16)]
    assert {one["name"] for one in first["apart"]["found"]} == {"open borders", "points in one place"}
    nodes["apart"] = node("triangulate", "sheet")
    again = counts.of(evaluator.evaluate(graph(nodes)), lambda: False)
    assert len(asked) == 3
    assert again["sheet"] == first["sheet"]


def test_a_large_result_is_not_checked_unasked(monkeypatch: pytest.MonkeyPatch) -> None:
    from reticula.workers import check_counts

    monkeypatch.setattr(check_counts, "MOST_CORNERS", 10)
    found = CheckCounts().of(Evaluator().evaluate(graph({"sheet": node("grid", cells=[4, 4])})), lambda: False)
    assert found["sheet"]["skipped"]
    assert found["sheet"]["found"] == []


def test_what_nothing_explains_is_told_apart() -> None:
    nodes = {
        "sheet": node("grid", cells=[4, 4]),
        "apart": node("unshare", "sheet"),
        "twice": node("join", inputs={"geometries": ["sheet", "sheet"]}),
    }
    found = CheckCounts().of(Evaluator().evaluate(graph(nodes)), lambda: False)
    strange = {name: {one["name"] for one in entry["found"] if not one["expected"]} for name, entry in found.items()}
    assert strange == {"sheet": set(), "apart": set(), "twice": {"points in one place"}}


@pytest.mark.parametrize("path", sorted(HERE.glob("*.json")), ids=lambda path: path.stem)
def test_no_card_of_the_demo_alarms(path: Any) -> None:
    library, shapes = tile_library()
    done = Evaluator().evaluate(check_structure(json.loads(path.read_text())), shapes=shapes, operators=library)
    with using(library=library, resources=shapes):
        nodes = CheckCounts().of(done, lambda: False)
    assert nodes
    for name, entry in nodes.items():
        assert not [one for one in entry["found"] if not one["expected"]], name
        assert not [note.text for note in done.nodes[name].notes if note.level == "warning"], name
