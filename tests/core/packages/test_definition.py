"""Definitions: what is one, what is refused, and the stored shapes that they name."""

from copy import deepcopy
from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.packages.definition import (
    check_definition,
    content_name,
    definition_digest,
    definition_key,
    map_shapes,
    nodes_of,
    package_shapes,
    release_of,
)
from tests.core.graph.building import graph, node
from tests.core.packages.studio import published


@pytest.mark.parametrize(("text", "numbers"), [("1.2.3", (1, 2, 3)), ("0.0.0", (0, 0, 0)), ("10.0.99", (10, 0, 99))])
def test_a_release_is_three_numbers(text: str, numbers: tuple[int, int, int]) -> None:
    assert release_of(text) == numbers


@pytest.mark.parametrize("text", ["1.2", "01.2.3", "1.2.3-rc1", "1.2.3\n", "v1.2.3", "1.2.123456", ""])
def test_what_is_no_release_is_refused(text: str) -> None:
    """https://semver.org, 2.0.0, item 2: non-negative integers without leading zeros."""
    with pytest.raises(GraphError, match="is not a release; write three numbers"):
        release_of(text)


@pytest.mark.parametrize(
    ("change", "message"),
    [
        ({"name": "Not A Name"}, "not valid: at name"),
        ({"release": "one"}, "not valid: at release"),
        ({"secret": 1}, "not valid"),
    ],
)
def test_what_does_not_fit_the_schema_is_located(change: dict[str, Any], message: str) -> None:
    _, definition = published()
    with pytest.raises(GraphError, match=message):
        check_definition({**definition, **change})


def test_a_graph_without_output_is_no_operator() -> None:
    _, definition = published()
    broken = deepcopy(definition)
    broken["graph"]["outputs"] = []
    with pytest.raises(GraphError, match=r"'lift@1\.0\.0' has no output"):
        check_definition(broken)


def test_a_valid_one_passes_unchanged_and_its_digest_says_its_content() -> None:
    _, definition = published()
    assert check_definition(definition) is definition
    assert definition_key(definition) == "lift@1.0.0"
    assert definition_digest(definition) == definition_digest(deepcopy(definition))
    assert definition_digest({**definition, "help": "other"}) != definition_digest(definition)


def test_shapes_are_found_and_renamed_at_every_depth() -> None:
    inner = graph(
        {"s": node("project_shape", shape="scan"), "t": node("project_shape", shape={"dial": "reef"})},
        dials={"reef": {"type": "shape", "value": "reef", "default": "reef"}},
        outputs={"geo": "s"},
    )
    outer = graph({"f": node("folded", graph=inner), "u": node("project_shape", shape="sand")})
    assert package_shapes(outer) == {"scan", "sand", "reef"}
    map_shapes(outer, {"scan": "scan#1", "reef": "reef#2"})
    assert package_shapes(outer) == {"scan#1", "sand", "reef#2"}
    assert len(list(nodes_of(outer))) == 4


def test_a_name_by_content_keeps_the_word_and_changes_with_the_file() -> None:
    assert content_name("scan", "ab" * 32) == "scan#" + "ab" * 8
    assert content_name("scan#0123456789abcdef", "cd" * 32) == "scan#" + "cd" * 8
