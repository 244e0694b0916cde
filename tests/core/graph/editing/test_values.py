"""Values from outside reach dials and parameters; the document stays as it was."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph.editing.values import value_of_text, with_values
from reticula.core.graph.structure.document import empty_document

DIAL = {"type": "number", "value": 1.0}
DOCUMENT: dict[str, Any] = {
    **empty_document(),
    "nodes": {"tile": {"operator": "box"}, "wall": {"operator": "extrude", "parameters": {"distance": 1.0}}},
    "dials": {"height": DIAL},
}


def test_dials_and_parameters_are_told_apart_and_nothing_else_changes() -> None:
    before = deepcopy(DOCUMENT)
    made, dials = with_values(DOCUMENT, {"height": 2.0, "wall.distance": 0.5, "tile.size": [1, 2, 3]})
    assert dials == {"height": 2.0}
    assert made["nodes"]["wall"] == {"operator": "extrude", "parameters": {"distance": 0.5}}
    assert made["nodes"]["tile"]["parameters"] == {"size": [1, 2, 3]}
    assert before == DOCUMENT


@pytest.mark.parametrize(
    ("name", "message"),
    [("hight", "no dial 'hight'; the graph has height"), ("walls.distance", "no node 'walls'; there are tile, wall")],
)
def test_what_is_not_there_is_said_with_what_is(name: str, message: str) -> None:
    with pytest.raises(GraphError, match=message):
        with_values(DOCUMENT, {name: 1})


def test_texts_are_json_or_themselves() -> None:
    assert value_of_text("[1, 2]") == [1, 2]
    assert value_of_text("0.5") == 0.5
    assert value_of_text("reef north") == "reef north"
