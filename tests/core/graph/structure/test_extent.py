"""Depth and size of plain data, however deep it is."""

import json

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import check_structure, empty_document
from reticula.core.graph.structure.extent import MOST_DEEP, check_depth, rough_size


def nested(levels: int) -> object:
    made: object = 1
    for level in range(levels):
        made = [made] if level % 2 else {"a": made}
    return made


def test_depth_is_limited_without_recursion() -> None:
    check_depth(nested(MOST_DEEP))
    for levels in (MOST_DEEP + 1, 100_000):
        with pytest.raises(GraphError, match=f"more than {MOST_DEEP} levels"):
            check_depth(nested(levels))


def test_documents_are_no_deeper() -> None:
    document = {**empty_document(), "notes": nested(500)}
    with pytest.raises(GraphError, match="make it flatter"):
        check_structure(document)


def test_size_is_about_that_of_the_text() -> None:
    data = {"nodes": {f"n{k}": {"operator": "grid", "place": [k, 2.5], "skip": False} for k in range(50)}}
    assert rough_size(data) == pytest.approx(len(json.dumps(data)), rel=0.25)
    assert rough_size(nested(100_000)) > 100_000
