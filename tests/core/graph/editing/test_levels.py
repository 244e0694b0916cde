"""Paths to graphs in graphs."""

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph.editing.levels import inner_level, level_of, parent_of, steps_of
from tests.core.graph.building import graph, node


def nested() -> dict:
    inner = graph({"ring": node("torus")}, outputs={"geo": "ring"})
    return graph({"tile": node("folded", graph=inner), "box": node("box")})


def test_a_path_goes_through_nodes_whatever_the_round() -> None:
    assert steps_of("tile/rings@3") == ["tile", "rings"]
    assert steps_of("") == []


def test_the_graph_at_the_end_is_the_one_itself() -> None:
    document = nested()
    assert level_of(document, "") is document
    assert level_of(document, "tile@2") is document["nodes"]["tile"]["graph"]
    assert parent_of(document, "tile") == (document, "tile")
    assert parent_of(document, "") is None


@pytest.mark.parametrize(("path", "message"), [("none", "no node 'none'"), ("box", "holds no graph")])
def test_what_cannot_be_gone_into_is_said(path: str, message: str) -> None:
    for look in (level_of, lambda document, at: inner_level(document, at, {})):
        with pytest.raises(GraphError, match=message):
            look(nested(), path)


def test_published_operators_can_be_looked_into_but_not_changed() -> None:
    document = graph({"arch": node("arch@1.0.0")})
    inside = graph({"a": node("box")})
    assert inner_level(document, "arch", {"arch@1.0.0": {"graph": inside}}) is inside
    with pytest.raises(GraphError, match="no graph that can be changed"):
        level_of(document, "arch")
