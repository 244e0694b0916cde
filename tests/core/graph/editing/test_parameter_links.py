"""Parameters that follow others."""

from __future__ import annotations

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import run_graph
from reticula.core.graph.editing import (
    followers,
    link_parameter,
    rename_node,
)
from tests.core.graph.building import graph, node


def test_a_tie_follows_and_is_seen_from_both_sides() -> None:
    made = graph({"rings": node("torus", radius=2.0), "ball": node("sphere")})
    made = link_parameter(made, "", "ball", "radius", "rings", "radius")
    assert followers(made) == {"rings": {"radius": ["ball"]}}
    made, new = rename_node(made, "", "rings", "Guide rings")
    assert made["nodes"]["ball"]["parameters"]["radius"] == {"formula": "guide_rings.radius"}
    assert run_graph(made, node="ball").bounds[1, 0] == pytest.approx(2.0, abs=0.05)
    assert new == "guide_rings"
    with pytest.raises(GraphError, match=r"circle: .*guide_rings\.radius.*ball\.radius"):
        link_parameter(made, "", "guide_rings", "radius", "ball", "radius")
    with pytest.raises(GraphError, match="cannot follow itself"):
        link_parameter(made, "", "ball", "radius", "ball", "radius")


def test_ties_that_cannot_be_made_say_why() -> None:
    made = graph(
        {
            "a": node("grid"),
            "g": node("group", "a", name="m"),
            "t": node("transform", "a"),
            "e": node("extrude", "a", distance={"formula": "area"}),
        }
    )
    with pytest.raises(GraphError, match="takes no formula, so it can follow nothing"):
        link_parameter(made, "", "g", "name", "t", "move")
    with pytest.raises(GraphError, match=r"'e\.distance' has no plain value"):
        link_parameter(made, "", "t", "move", "e", "distance")
    made["nodes"]["t"]["parameters"]["move"] = [1.0, 2.0, 3.0]
    assert link_parameter(made, "", "e", "distance", "t", "move")["nodes"]["e"]["parameters"]["distance"] == {
        "formula": "t.move.x"
    }
