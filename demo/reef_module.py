"""The demo graph `Reef module`: ``python -m demo.reef_module`` writes ``reef_module.json``.

Three settlement tiles, each with dials of its own, leaning on a post: the published operator in use.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, node, write

__all__ = ["reef_module"]

TILES = (
    ("north", 0.0, {}),
    ("east", 120.0, {"ridge_height": 0.03, "ridge_density": 24.0, "ridge_share": 0.16}),
    ("west", 240.0, {"ridge_height": 0.012, "ridge_density": 9.0, "ridge_share": 0.3}),
)


def reef_module() -> dict[str, Any]:
    """Return the graph: scan, three tiles that lean and are turned about the post, joined with it."""
    nodes: dict[str, Any] = {"survey": node("project_shape", "Survey scan", shape="survey_scan")}
    for name, angle, dials in TILES:
        tile = f"{name}_tile"
        nodes[tile] = node("settlement_tile@1.0.0", f"{name.title()} tile", inputs={"survey": ["survey"]}, **dials)
        if name != "north":
            nodes[tile]["parameters"]["rim_width"] = {"formula": "north_tile.rim_width"}
        nodes[f"{name}_leans"] = node(
            "transform", f"{name.title()} leans", tile, turn={"formula": "vec3(lean, 0, 0)"}, move=[0.0, 0.14, 0.16]
        )
        nodes[f"{name}_stands"] = node("transform", f"{name.title()} stands", f"{name}_leans", turn=[0.0, angle, 0.0])
    nodes["post"] = node("cylinder", "Post", radius=0.035, height=0.34, segments=48, rings=40)
    nodes["post_up"] = node("transform", "Post stands", "post", move=[0.0, 0.15, 0.0])
    nodes["post_grain"] = node(
        "set_attribute",
        "Weathered",
        "post_up",
        name="color",
        value={"formula": "vec4(hsv(0.08, 0.34, 0.42 + 0.2 * noise(position * vec3(90, 9, 90), 2)), 1)"},
    )
    nodes["module"] = node(
        "join", "Module", inputs={"geometries": [*(f"{name}_stands" for name, _, _ in TILES), "post_grain"]}
    )
    made = document(
        "Reef module",
        "Three settlement tiles about a post. Each card is the same published operator; the rims follow the first one.",
        nodes,
        {"lean": dial(62.0, (0.0, 90.0), "how far the tiles lean against the post", "°", 1.0)},
        "module",
    )
    made["frames"] = {
        "tiles": {
            "title": "One operator, three tiles",
            "note": "settlement tile 1.0.0; the rims follow the north tile",
            "nodes": [f"{name}_tile" for name, _, _ in TILES],
        }
    }
    made["jumps"] = {"tiles": "north_tile", "module": "module"}
    return made


if __name__ == "__main__":
    write("reef_module", reef_module())
