"""Documents, evaluation, the cache, and the command line."""

import copy
import json
from pathlib import Path
from typing import Any

import pytest

from demo.settlement_tile import settlement_tile, survey_scan
from reticula.cli import main
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import GraphError, Stopped
from reticula.core.graph import Cache, Evaluator, check_structure, dial_values, empty_document, problems_of, run_graph
from reticula.core.graph.evaluation.cache import Entry
from reticula.core.operators.shared.resources import DiskResources


@pytest.fixture
def chain() -> dict[str, Any]:
    return {
        "format": "reticula graph",
        "version": 1,
        "looking_at": "fine",
        "dials": {
            "height": {"type": "number", "value": 0.5, "low": 0, "high": 2},
            "width": {"type": "integer", "value": 3},
        },
        "nodes": {
            "sheet": {"operator": "grid", "parameters": {"cells": {"formula": "vec2(width, 2)"}}},
            "tall": {
                "operator": "extrude",
                "inputs": {"geo": ["sheet"]},
                "parameters": {"distance": {"formula": "height * (1 + index)"}},
            },
            "fine": {"operator": "smooth_subdivide", "inputs": {"geo": ["tall"]}},
            "side": {"operator": "box"},
        },
    }


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


@pytest.mark.parametrize(
    ("change", "node", "message"),
    [
        (lambda n: n["tall"].update(operator="extrud"), "tall", "there is no operator 'extrud'; near it are extrude"),
        (lambda n: n["tall"].update(inputs={"geo": ["gone"]}), "tall", "comes from 'gone', which does not exist"),
        (lambda n: n["tall"].update(inputs={"mesh": ["sheet"]}), "tall", "has no input 'mesh'; it has geo"),
        (lambda n: n["tall"].update(inputs={"geo": ["sheet", "side"]}), "tall", "takes one geometry, not 2"),
        (
            lambda n: (
                n["fine"]["parameters"].update(levels=99)
                if n["fine"].setdefault("parameters", {}) is not None
                else None
            ),
            "fine",
            "levels: 99 is outside",
        ),
        (lambda n: n["tall"].update(inputs={}), "tall", "nothing is connected to 'geo'"),
        (lambda n: n["side"].update(skip=True), "side", "box cannot be skipped"),
    ],
)
def test_what_is_wrong_is_said_at_its_node(chain: dict[str, Any], change: Any, node: str, message: str) -> None:
    change(chain["nodes"])
    result = Evaluator().evaluate(chain).nodes[node]
    assert result.state == "failed"
    assert result.error is not None
    assert message in result.error["message"]


def test_circles_are_named_with_their_path(chain: dict[str, Any]) -> None:
    chain["nodes"]["tall"]["inputs"]["geo"] = ["fine"]
    problem = next(p for p in problems_of(chain) if "circle" in p.message)
    assert problem.message.endswith("tall → fine → tall")
    done = Evaluator().evaluate(chain).nodes
    assert (done["fine"].state, done["sheet"].state) == ("failed", "done")


@pytest.mark.parametrize(
    ("change", "message"),
    [
        (lambda d: d.update(format="other"), "at format"),
        (lambda d: d.pop("nodes"), "'nodes' is a required property"),
        (lambda d: d["nodes"].update({"bad name": {"operator": "box"}}), "bad name"),
        (lambda d: d["nodes"]["tall"].update(speed=3), "at nodes / tall"),
        (lambda d: d["nodes"]["tall"].update(inputs={"geo": "sheet"}), "at nodes / tall / inputs / geo"),
        (lambda d: d.update(dials={"a b": {"type": "number", "value": 1}}), "a b"),
    ],
)
def test_documents_that_do_not_fit_the_schema(chain: dict[str, Any], change: Any, message: str) -> None:
    check_structure(chain)
    check_structure(empty_document())
    change(chain)
    with pytest.raises(GraphError, match="the graph document is not valid") as caught:
        check_structure(chain)
    assert message in str(caught.value)


def test_dials(chain: dict[str, Any]) -> None:
    assert dial_values(chain, {"height": 1}) == {"height": 1.0, "width": 3}
    for given, message in (
        ({"hight": 1}, "there is no dial 'hight'; the graph has height, width"),
        ({"height": 3}, "cannot be 3; it goes from 0 to 2"),
        ({"width": 1.5}, "takes a whole number"),
        ({"height": "x"}, "takes a number"),
    ):
        with pytest.raises(GraphError, match=message):
            dial_values(chain, given)


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


def test_the_cache_keeps_to_its_budget_and_gives_up_what_is_cheap() -> None:
    cache = Cache(budget=150_000)
    dear, cheap = ops.grid(cells=(30, 30)), ops.grid(cells=(31, 31))
    cache.put("dear", Entry((dear,), (), 10.0))
    size = cache.bytes
    cache.put("moved", Entry((dear.with_positions(dear.positions + 1),), (), 10.0))
    assert cache.bytes - size == dear.positions.nbytes, "shared arrays count once"
    cache.put("cheap", Entry((cheap,), (), 0.001))
    cache.put("last", Entry((ops.grid(cells=(29, 29)),), (), 5.0))
    assert "cheap" not in cache
    assert cache.bytes <= 150_000


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


def test_command_line_python_and_evaluator_give_the_same_bytes(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    document = settlement_tile()
    (tmp_path / "tile.json").write_text(json.dumps(document))
    scan = survey_scan()
    scan.write(tmp_path / "scan.ply")
    code = main(
        [
            "run",
            str(tmp_path / "tile.json"),
            "--in",
            f"survey_scan={tmp_path / 'scan.ply'}",
            "--set",
            "ridge_height=0.01",
            "--out",
            str(tmp_path / "out.ply"),
        ]
    )
    assert code == 0
    assert "wrote" in capsys.readouterr().out
    with collecting():
        by_python = run_graph(document, dials={"ridge_height": 0.01}, shapes=DiskResources({"survey_scan": scan}))
    by_python.write(tmp_path / "again.ply")
    assert (tmp_path / "out.ply").read_bytes() == (tmp_path / "again.ply").read_bytes()


def test_command_line_lists_describes_and_complains(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], chain: dict[str, Any]
) -> None:
    assert main(["list"]) == 0
    assert "smooth_subdivide" in capsys.readouterr().out
    assert main(["describe", "extrude"]) == 0
    assert "distance = 0.1 m" in capsys.readouterr().out
    assert main(["describe", "graph"]) == 0
    assert json.loads(capsys.readouterr().out)["title"] == "Reticula graph"
    path = tmp_path / "a.json"
    path.write_text(json.dumps(chain))
    assert main(["run", str(path), "--set", "sheet.cells=[4,4]", "--node", "sheet"]) == 0
    assert "16 faces" in capsys.readouterr().out
    for arguments, message in (
        (["describe", "extrud"], "near it are extrude"),
        (["run", str(tmp_path / "none.json")], "No such file"),
        (["run", str(path), "--set", "depth=1"], "no dial 'depth'; the graph has height, width"),
        (["run", str(path), "--set", "depth"], "takes NAME=VALUE"),
        (["run", str(path), "--node", "x"], "no node 'x'; there are sheet"),
    ):
        assert main(arguments) == 1
        assert message in capsys.readouterr().err


def test_standpoints_are_kept_and_change_no_result(chain: dict[str, Any]) -> None:
    plain = run_graph(chain).digest
    chain["standpoints"] = {"crest": {"position": [1, 2, 3], "target": [0, 0, 0], "parallel": True}}
    check_structure(chain)
    assert run_graph(chain).digest == plain
    chain["standpoints"]["bad"] = {"position": [1, 2], "target": [0, 0, 0]}
    with pytest.raises(GraphError, match="standpoints"):
        check_structure(chain)
