"""The demo graph `Numbered pieces`: ``python -m demo.numbered_pieces`` writes ``numbered_pieces.json``.

A sill broken into pieces and pulled apart; each piece is tinted and rounded on its own, and has its number engraved.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, ink, node, stamps, write

__all__ = ["numbered_pieces"]

PIECES = 8


def one_piece() -> dict[str, Any]:
    """Return the graph of one piece: its number and colour as values, its broken edges rounded."""
    nodes = {
        "in_geo": node("input", "One piece", name="geo"),
        "number": node(
            "set_attribute", "Number it", "in_geo", kind="face", name="number", value={"formula": "cell + 1"}
        ),
        "tint": node(
            "set_attribute",
            "Tint it",
            "number",
            kind="face",
            name="color",
            value={"formula": "vec4(hsv(0.04 + 0.045 * cell, 0.42, 0.8), 1)"},
        ),
        "edges": node("region_borders", "Broken edges", "tint", label="inner"),
        "round": node("bevel", "Round them", "edges", where="region_border", width={"formula": "rounding"}, segments=2),
    }
    made = document("", "", nodes, {"rounding": dial(0.004, (0.0, 0.012), "width of the rounding", "m")}, "round")
    made["inputs"] = [{"name": "geo", "help": "one piece"}]
    made["outputs"] = [{"name": "geo", "help": "the piece, numbered and rounded", "feed": "round"}]
    return made


def numbered_pieces() -> dict[str, Any]:
    """Return the graph: sill, centres, broken, each piece, its number."""
    raised = "position * vec3(1 + gap, 1, 1 + gap) + vec3(0, 0.035, 0.018)"
    nodes = {
        "sill": node("box", "Sill", size=[0.7, 0.09, 0.32], cells=[14, 2, 6]),
        "room": node("grid", "Room for centres", size=[0.56, 0.2], cells=[1, 1]),
        "centers": node("scatter", "Centres", "room", total=PIECES, arrangement="even", seed={"formula": "break_seed"}),
        "broken": node("break_into_cells", "Break", "sill", inputs={"centers": ["centers"]}),
        "loose": node(
            "pull_apart", "Pull apart", "broken", part="cell", amount={"formula": "gap"}, along=[1.0, 0.0, 1.0]
        ),
        "each": {**node("for_each", "Each piece", "loose", over="piece", rounding=0.004), "graph": one_piece()},
        "spots": node("set_attribute", "On top of them", "centers", name="position", value={"formula": raised}),
        **stamps(PIECES, "spots", 0.075),
        "engraved": node(
            "boolean", "Engrave", "each", inputs={"others": ["stamp"]}, operation="difference", other_group="engraved"
        ),
        "ink": ink("engraved", [0.1, 0.13, 0.16, 1.0]),
    }
    dials = {
        "break_seed": {
            **dial(2.0, (0.0, 50.0), "another number breaks another way", "", 1.0),
            "type": "integer",
            "value": 2,
        },
        "gap": dial(0.16, (0.0, 1.0), "how far the pieces are pulled apart, as a share", "", 0.01),
    }
    return document(
        "Numbered pieces",
        "A sill broken into pieces, each tinted, rounded and numbered on its own.",
        nodes,
        dials,
        "ink",
    )


if __name__ == "__main__":
    write("numbered_pieces", numbered_pieces())
