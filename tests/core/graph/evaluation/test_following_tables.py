"""Graphs whose dials follow tables: what comes out at a frame, what is evaluated again, what is said."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.graph.editing.unfolding import unfold
from reticula.core.graph.evaluation.evaluator import Evaluator, run_graph
from reticula.core.graph.inspection.time_dependence import keyed_values, timely_nodes
from reticula.core.graph.nesting.stored_shapes import stored_shapes
from reticula.core.operators.shared.resources import DiskResources
from tests.core.graph.building import graph, node

FOLLOWS = {"table": "tide", "time": "hours", "value": "level", "unit": "h", "speed": 3600.0, "otherwise": 0.5}
WATER = {"type": "number", "value": FOLLOWS, "soft": [0, 4], "unit": "m"}
CLOCK = {"first": 0, "last": 47, "rate": 12}


def tide(levels: tuple[float, ...] = (1.0, 3.0, 2.0)) -> DiskResources:
    rows = len(levels)
    made = Geo.of(np.zeros((rows, 3)), hours=np.arange(rows, dtype=float), level=np.asarray(levels))
    return DiskResources({"tide": made})


def waters(**dial: Any) -> dict[str, Any]:
    nodes = {
        "ground": node("grid", cells=[1, 1]),
        "level": node("transform", "ground", move="vec3(0, water, 0)"),
        "ball": node("sphere", radius={"dial": "water"}),
    }
    return graph(nodes, dials={"water": {**WATER, **dial}}, time=CLOCK)


def height(document: dict[str, Any], frame: float, shapes: DiskResources, of: str = "level") -> float:
    return float(run_graph(document, node=of, frame=frame, shapes=shapes).positions[:, 1].max())


def test_formulas_and_bound_parameters_get_what_the_table_says_at_the_frame() -> None:
    assert [height(waters(), frame, tide()) for frame in (0, 6, 12, 18, 99)] == pytest.approx([1, 2, 3, 2.5, 2])
    assert height(waters(), 12, tide(), of="ball") == pytest.approx(3.0)


def test_only_what_hangs_on_the_table_is_evaluated_again_and_another_table_is_another_result() -> None:
    evaluator = Evaluator()
    evaluator.evaluate(waters(), frame=0, shapes=tide())
    again = evaluator.evaluate(waters(), frame=6, shapes=tide())
    assert {name for name, result in again.nodes.items() if not result.cached} == {"level", "ball"}
    changed = evaluator.evaluate(waters(), frame=6, shapes=tide((0.5, 0.5, 0.5)))
    assert changed.geo("level").positions[0, 1] == 0.5


def test_such_nodes_depend_on_time_and_the_dial_tells_what_it_is_now() -> None:
    evaluator = Evaluator()
    done = evaluator.evaluate(waters(), frame=6, shapes=tide())
    with using(resources=tide()):
        assert timely_nodes(waters(), "", evaluator.store, done.plan) == {"level", "ball"}
    assert keyed_values(waters(), done)[1] == {"water": 2.0}


def test_rows_that_are_missing_are_said_at_the_cards_that_use_them() -> None:
    done = Evaluator().evaluate(waters(), frame=12, shapes=tide((1.0, float("nan"), 3.0)))
    told = "The table 'tide' has rows without a value, taken from the rows around: row 2."
    assert [note.text for note in done.nodes["level"].notes] == [told]
    assert told in [note.text for note in done.nodes["ball"].notes]
    assert not done.nodes["ground"].notes
    assert done.geo("level").positions[0, 1] == pytest.approx(2.0)


def test_a_table_that_is_not_there_is_said_and_no_other_value_is_taken() -> None:
    with pytest.raises(GraphError, match="the dial 'water': the table 'tide': there is no shape or file 'tide'"):
        run_graph(waters(), node="level", shapes=DiskResources())
    with pytest.raises(GraphError, match="the dial 'water': the table 'tide': there is no column 'height'"):
        run_graph(waters(value={**FOLLOWS, "value": "height"}), node="level", shapes=tide())


def test_a_value_outside_of_the_limits_and_a_dial_of_no_such_type() -> None:
    with pytest.raises(GraphError, match="the dial 'water'"):
        run_graph(waters(high=2.5), node="level", frame=12, shapes=tide())
    assert height(waters(high=2.5), 0, tide()) == 1.0
    with pytest.raises(GraphError, match="a dial of type gradient follows no table"):
        run_graph(waters(type="gradient"), node="level", shapes=tide())


def folded() -> dict[str, Any]:
    inner = graph(
        {
            "up": node("transform", "geo", move="vec3(0, water, 0)"),
            "push": node("extrude", "up", distance={"dial": "water"}),
        },
        dials={"water": WATER},
        inputs=("geo",),
        outputs={"geo": "push"},
    )
    return graph({"sheet": node("grid", cells=[1, 1]), "tile": node("folded", "sheet", graph=inner)}, time=CLOCK)


def test_dials_of_graphs_inside_follow_tables_and_are_unfolded_with_them() -> None:
    assert height(folded(), 6, tide(), of="tile") == pytest.approx(4.0)
    assert stored_shapes(folded()) == {"tide"}
    error = Evaluator().evaluate(folded(), shapes=DiskResources()).nodes["tile"].error or {}
    assert "the dial 'water' inside" in error["message"]
    made, _ = unfold(folded(), "tile")
    assert made["dials"]["water"]["value"] == FOLLOWS
    assert made["nodes"]["push"]["parameters"]["distance"] == {"dial": "water"}
    assert height(made, 6, tide(), of="push") == pytest.approx(4.0)


def test_a_table_in_a_file_by_name(tmp_path: Path) -> None:
    (tmp_path / "tide.csv").write_text("hours,level\n0,1\n1,3\n")
    assert height(waters(), 6, DiskResources({"tide": tmp_path / "tide.csv"})) == 2.0
