"""Patches: within limits that are looked at before anything is done."""

import time
from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import empty_document
from reticula.store.patching import MOST_COPIES, apply_patch, check_form

NODE = {"operator": "grid", "parameters": {"size": [1, 2]}}


def grown() -> dict[str, Any]:
    return {**empty_document(), "nodes": {f"n{k}": NODE for k in range(200)}}


def test_a_patch_is_applied_and_the_document_left_alone() -> None:
    document = grown()
    made = apply_patch(document, [{"op": "copy", "from": "/nodes/n1", "path": "/nodes/more"}])
    assert made["nodes"]["more"] == NODE
    assert "more" not in document["nodes"]


def test_copies_that_double_the_document_are_stopped_early() -> None:
    patch = [{"op": "copy", "from": "", "path": f"/presets/{k}"} for k in range(24)]
    began = time.monotonic()
    with pytest.raises(GraphError, match=r"larger than 24 MB|not valid|does not fit"):
        apply_patch({**grown(), "presets": {}}, patch)
    doubling = [{"op": "copy", "from": "/nodes", "path": f"/nodes/x{k}"} for k in range(24)]
    with pytest.raises(GraphError, match="larger than 24 MB"):
        apply_patch(grown(), doubling)
    assert time.monotonic() - began < 20


@pytest.mark.parametrize(
    ("patch", "message"),
    [
        ([{"op": "copy", "from": "/nodes/n1", "path": "/nodes/x"}] * (MOST_COPIES + 1), "at most 200 copy operations"),
        ([{"op": "remove", "path": "/nothing"}], "does not fit the graph"),
        ([{"op": "add", "path": "/nodes/n1/operator/x/y", "value": 1}], "does not fit the graph"),
        ([{"op": "copy", "path": "/nodes/x"}], "does not fit the graph"),
        ([{"path": "/nodes/x"}], "does not fit the graph"),
        ([{"op": "add", "path": 3, "value": 1}], "does not fit the graph"),
    ],
)
def test_what_does_not_fit_is_refused(patch: list[dict[str, Any]], message: str) -> None:
    with pytest.raises(GraphError, match=message):
        apply_patch(grown(), patch)


def test_depth_is_looked_at_first() -> None:
    deep: Any = 1
    for _ in range(3000):
        deep = [deep]
    with pytest.raises(GraphError, match="the edit is nested"):
        apply_patch(grown(), [{"op": "add", "path": "/nodes/n1/parameters/size", "value": deep}])


@pytest.mark.parametrize("operation", [{"op": "replace"}, {"op": "add", "path": 3}, {"op": "move", "path": "/a"}])
def test_an_operation_without_a_place_is_refused(operation: dict[str, Any]) -> None:
    with pytest.raises(GraphError, match=r"operation 0 has no '(path|from)'"):
        check_form([operation])
