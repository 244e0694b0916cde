"""Spans: sums by name, recordings inside others, and the trace that profilers open."""

from __future__ import annotations

import time

import pytest

from reticula.core import Geo, ops
from reticula.core.graph import Evaluator
from reticula.core.spans import chrome_trace, recording, span
from tests.core.graph.building import graph, node
from tests.core.graph.nesting.test_graph_operator import lifted


def test_spans_are_summed_by_name_where_they_ended_and_a_trace_gets_all() -> None:
    with recording(traced=True) as outer:
        with span("a"):
            time.sleep(0.002)
        with span("inner"), recording() as inner, span("b"), span("a"):
            pass
    assert set(inner.sums) == {"a", "b"}
    assert set(outer.sums) == {"a", "inner"}
    assert 0.002 <= outer.sums["a"] < 1
    assert [one.name for one in outer.trace or []] == ["a", "a", "b", "inner"]
    with span("nobody"):
        pass
    assert len(outer.trace or []) == 4
    with recording() as alone, span("a"):
        pass
    assert alone.trace is None


def test_a_span_ends_with_an_error_too() -> None:
    with recording() as found, pytest.raises(ValueError, match="x"), span("a"):
        raise ValueError("x")
    assert list(found.sums) == ["a"]


def test_a_trace_begins_at_zero_in_the_order_of_beginning() -> None:
    with recording(traced=True) as found, span("whole"), span("part"):
        pass
    trace = chrome_trace(found.trace or [])
    assert [event["name"] for event in trace["traceEvents"]] == ["whole", "part"]
    first, second = trace["traceEvents"]
    assert (first["ph"], first["ts"]) == ("X", 0.0)
    assert second["ts"] + second["dur"] <= first["ts"] + first["dur"] + 1e-3
    assert chrome_trace([])["traceEvents"] == []


def test_nodes_tell_where_their_time_went_also_when_their_result_is_kept() -> None:
    document = graph({"a": node("grid", cells=[20, 20]), "b": node("extrude", "a", distance=0.1)})
    evaluator = Evaluator()
    with recording(traced=True) as found:
        done = evaluator.evaluate(document)
    assert {"resolve", "body"} <= set(done.nodes["a"].parts)
    assert sum(done.nodes["a"].parts[name] for name in ("resolve", "body")) <= done.nodes["a"].seconds
    assert {"node a", "node b"} <= {one.name for one in found.trace or []}
    again = evaluator.evaluate(document)
    assert again.nodes["a"].cached
    assert again.nodes["a"].parts == done.nodes["a"].parts


def test_search_trees_are_told_apart_from_the_rest() -> None:
    with recording() as found:
        ops.group_by_nearness(ops.grid(cells=(3, 3)), Geo.of([(0.0, 0.0, 0.0)]))
    assert "search tree" in found.sums


def test_a_card_that_holds_others_counts_their_time_once() -> None:
    done = Evaluator().evaluate(graph({"a": node("box"), "whole": node("folded", "a", graph=lifted(), height=2.0)}))
    told = done.nodes["whole"]
    assert told.state == "done", told.error
    inside = [seconds for name, seconds in told.parts.items() if name.startswith("node ")]
    assert inside
    assert sum(inside) <= told.parts["body"] <= told.seconds
