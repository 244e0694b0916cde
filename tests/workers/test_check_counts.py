"""Each result is checked once; large ones only when that is asked for."""

import pytest

from reticula.core.graph import Evaluator
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
