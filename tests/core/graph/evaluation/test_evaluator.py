"""Running documents: only what changed, failures, progress."""

import copy
from typing import Any

import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GraphError, Stopped
from reticula.core.graph import Evaluator, run_graph
from reticula.core.operators.shared.resources import DiskResources


def test_the_same_as_by_hand(chain: dict[str, Any]) -> None:
    by_hand = ops.smooth_subdivide(ops.extrude(ops.grid(cells=(3, 2)), distance="0.5 * (1 + index)"))
    assert run_graph(chain).digest == by_hand.digest
    assert run_graph(chain, node="side").digest == ops.box().digest


def test_only_what_changed_is_run_again(chain: dict[str, Any]) -> None:
    evaluator = Evaluator()
    first = evaluator.evaluate(chain)
    assert not any(result.cached for result in first.nodes.values())
    again = evaluator.evaluate(copy.deepcopy(chain))
    assert all(result.cached for result in again.nodes.values())
    turned = evaluator.evaluate(chain, dials={"height": 1.0})
    assert {name for name, result in turned.nodes.items() if not result.cached} == {"tall", "fine"}
    chain["nodes"]["fine"]["parameters"] = {"levels": 1}
    assert all(result.cached for result in evaluator.evaluate(chain).nodes.values()), (
        "a default said aloud changes nothing"
    )
    chain["nodes"]["fine"]["place"] = [1, 2]
    assert all(result.cached for result in evaluator.evaluate(chain).nodes.values())


def test_a_failed_node_holds_up_only_what_hangs_on_it(chain: dict[str, Any]) -> None:
    chain["nodes"]["tall"]["parameters"]["where"] = "hieght > 1"
    done = Evaluator().evaluate(chain).nodes
    assert [done[name].state for name in ("sheet", "tall", "fine", "side")] == ["done", "failed", "waiting", "done"]
    error = done["tall"].error
    assert error is not None
    assert error["parameter"] == "where"
    assert (error["line"], error["column"]) == (1, 1)
    assert "near it are height" in error["message"]
    with pytest.raises(GraphError, match="node 'fine': waits for 'tall'"):
        run_graph(chain)


def test_skip_passes_through(chain: dict[str, Any]) -> None:
    chain["nodes"]["tall"]["skip"] = True
    assert run_graph(chain).digest == ops.smooth_subdivide(ops.grid(cells=(3, 2))).digest


def test_progress_and_stopping(chain: dict[str, Any]) -> None:
    seen: list[str] = []
    Evaluator().evaluate(
        chain, targets=["fine"], on_progress=lambda done, total, node: seen.append(f"{done}/{total} {node}")
    )
    assert seen == ["0/3 sheet", "1/3 tall", "2/3 fine"]
    with pytest.raises(Stopped):
        Evaluator().evaluate(chain, should_stop=lambda: True)


def test_a_changed_shape_is_seen(chain: dict[str, Any], cube: Geo) -> None:
    graph = {
        "format": "reticula graph",
        "version": 1,
        "nodes": {"a": {"operator": "project_shape", "parameters": {"shape": "s"}}},
    }
    evaluator = Evaluator()
    first = evaluator.evaluate(graph, shapes=DiskResources({"s": cube})).nodes["a"]
    other = evaluator.evaluate(graph, shapes=DiskResources({"s": ops.grid()})).nodes["a"]
    same = evaluator.evaluate(graph, shapes=DiskResources({"s": cube})).nodes["a"]
    assert first.key == same.key != other.key
    assert same.cached
