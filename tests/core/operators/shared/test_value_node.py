"""What all value nodes share: defaults that give a value, operands that refuse what is none, no geometry."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core.errors import ParameterError
from reticula.core.geometry.pictures import Picture, with_picture
from reticula.core.graph import Evaluator, run_graph
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula
from reticula.core.language import evaluate
from reticula.core.operators import OPERATORS
from tests.core.graph.building import graph, node
from tests.core.language.studio import reef, sheet
from tests.core.operators.values.writing import document

VALUE_NODES = [entry for entry in OPERATORS.values() if entry.writes is not None]


@pytest.mark.parametrize("entry", VALUE_NODES, ids=lambda entry: entry.name)
def test_defaults_give_a_value(entry: Any) -> None:
    text = nodes_to_formula(document({"f": {"operator": entry.name}}), "f")
    if "a * b" not in text:
        evaluate(text, sheet(), "point", inputs={"source": with_picture(reef(), Picture(np.ones((1, 1, 1))))})
    assert entry.describe()["makes_value"]


def test_operands_refuse_what_is_no_value() -> None:
    with pytest.raises(ParameterError, match="takes a number"):
        OPERATORS["mix_value"].check({"a": [1]})


def test_a_value_node_has_no_geometry() -> None:
    done = Evaluator().evaluate(document({"m": {"operator": "mix_value"}}))
    assert done.nodes["m"].state == "done"
    assert done.nodes["m"].geo is None
    assert done.nodes["m"].notes[0].text == "mix(0.0, 1.0, 0.5)"
    assert np.isfinite(done.nodes["m"].seconds)


def test_values_with_keys_go_from_key_to_key() -> None:
    rising = {"keys": [{"frame": 0, "value": 0.0, "way": "straight"}, {"frame": 10, "value": 1.0}]}
    nodes = {
        "number": node("number_value", value=rising),
        "sheet": node("grid"),
        "up": node("extrude", "sheet", distance={"wire": "number"}),
    }
    assert run_graph(graph(nodes), node="up", frame=5).bounds[1, 1] == pytest.approx(0.5)
