"""Questions about how a result came about, as an evaluator answers them."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.contract.queries import LiveQuery, TraceQuery, WhyQuery, WiresQuery
from reticula.core.graph import Evaluation, Evaluator
from reticula.workers.explanations import explain
from tests.core.graph.building import graph, node


@pytest.fixture(scope="module")
def done() -> Evaluation:
    nodes: dict[str, Any] = {
        "sheet": node("grid", cells=[2, 2]),
        "double": {"operator": "maths_value", "parameters": {"how": "*", "a": {"formula": "index"}, "b": 2.0}},
        "wall": node("extrude", "sheet", distance={"wire": "double"}),
    }
    return Evaluator().evaluate(graph(nodes))


def test_each_kind_of_question_has_its_answer(done: Evaluation) -> None:
    traced: Any = explain(done, "wall", TraceQuery(what="trace", kind="point", element=0))
    assert traced["steps"][-1]["feed"] == "sheet"
    live = LiveQuery(what="live", node="wall", parameter="distance", source="index * 3", kind="face", element=1)
    told: Any = explain(done, "sheet", live)
    assert (told["what"], told["result"]) == ("live", "3")
    wires: Any = explain(done, "sheet", WiresQuery(what="wires", kind="face", element=2))
    assert wires == {"what": "wires", "values": {"double": "4"}}
    why: Any = explain(done, "wall", WhyQuery(what="why", kind="point", element=0, name="position"))
    assert why["wrote"]["feed"] in ("wall", "sheet")


def test_without_a_pick_or_a_result_nothing_breaks(done: Evaluation) -> None:
    assert explain(done, "sheet", WiresQuery(what="wires")) == {"what": "wires", "values": {}}
    live = LiveQuery(what="live", node="wall", parameter="where", source="index > 3", kind="face", element=1)
    told: Any = explain(done, "nowhere", live)
    assert told["missing"].startswith("pick a face")
