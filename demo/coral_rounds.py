"""The demo graph `Coral rounds`: ``python -m demo.coral_rounds`` writes ``coral_rounds.json``.

A boulder on which buds grow in rounds: each round marks some faces at random, raises them and splits what was raised.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, node, write

__all__ = ["coral_rounds"]


def one_round() -> dict[str, Any]:
    """Return the graph of one round; ``iteration`` makes each round mark other faces, and lower ones grow less."""
    nodes = {
        "in_geo": node("input", "What has grown", name="geo"),
        "mark": node(
            "group",
            "Some faces",
            "in_geo",
            name="bud",
            kind="face",
            where="random(seed + iteration) < share and normal.y > -0.2 and area > 0.00001",
        ),
        "raise": node(
            "extrude",
            "Raise",
            "mark",
            where="bud",
            distance={"formula": "bud_height * (1 - 0.5 * iteration / iterations)"},
            inset={"formula": "0.12 * sqrt(area)"},
            together=False,
            top_group="tip",
        ),
        "split": node("split_faces", "Split the tips", "raise", where="tip"),
        "when": node(
            "set_attribute",
            "Remember the round",
            "split",
            kind="face",
            name="grown_in",
            where="tip",
            value={"formula": "iteration + 1"},
        ),
    }
    dials = {
        "share": dial(0.14, (0.0, 0.6), "share of faces that bud in a round", "", 0.01),
        "bud_height": dial(0.05, (0.0, 0.15), "how far a bud rises in the first round", "m"),
        "seed": {
            **dial(4.0, (0.0, 50.0), "another number grows another colony", "", 1.0),
            "type": "integer",
            "value": 4,
        },
    }
    made = document("", "", nodes, dials, "when")
    made["inputs"] = [{"name": "geo", "help": "what has grown so far"}]
    made["outputs"] = [{"name": "geo", "help": "with the buds of this round", "feed": "when"}]
    return made


def coral_rounds() -> dict[str, Any]:
    """Return the graph: boulder, rounds of growth, softened."""
    nodes = {
        "ball": node("geodesic_sphere", "Ball", radius=0.3, frequency=6),
        "boulder": node(
            "set_attribute",
            "Boulder",
            "ball",
            name="position",
            value={"formula": "position * vec3(1.2, 0.7, 1) * (1 + 0.18 * noise(position * 5, 2))"},
        ),
        "rounds": {
            **node(
                "repeat",
                "Grow in rounds",
                "boulder",
                rounds={"formula": "rounds_of_growth"},
                share={"formula": "bud_share"},
            ),
            "graph": one_round(),
        },
        "soften": node("smooth_subdivide", "Soften", "rounds", levels=1),
    }
    dials = {
        "rounds_of_growth": {
            **dial(4.0, (0.0, 8.0), "how often buds grow on what has grown", "", 1.0),
            "type": "integer",
            "value": 4,
            "high": 12,
        },
        "bud_share": dial(0.14, (0.0, 0.6), "share of faces that bud in a round", "", 0.01),
    }
    return document(
        "Coral rounds", "Buds on a boulder, grown in rounds: open the card to see one of them.", nodes, dials, "soften"
    )


if __name__ == "__main__":
    write("coral_rounds", coral_rounds())
