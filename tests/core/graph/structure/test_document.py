"""What a document may hold."""

from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import check_structure, dial_values, empty_document, run_graph


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
        ({"height": 3}, "3 is outside of 0 to 2"),
        ({"width": 1.5}, "takes a whole number"),
        ({"height": "x"}, "takes a number"),
    ):
        with pytest.raises(GraphError, match=message):
            dial_values(chain, given)


def test_standpoints_are_kept_and_change_no_result(chain: dict[str, Any]) -> None:
    plain = run_graph(chain).digest
    chain["standpoints"] = {"crest": {"position": [1, 2, 3], "target": [0, 0, 0], "parallel": True}}
    check_structure(chain)
    assert run_graph(chain).digest == plain
    chain["standpoints"]["bad"] = {"position": [1, 2], "target": [0, 0, 0]}
    with pytest.raises(GraphError, match="standpoints"):
        check_structure(chain)
