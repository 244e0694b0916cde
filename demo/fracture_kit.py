"""The demo graph `Fracture kit`: ``python -m demo.fracture_kit`` writes ``fracture_kit.json``.

A tile too large for a crate, broken into six pieces that are numbered, rounded where they were broken, and pulled
apart.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, ink, node, stamps, write

__all__ = ["fracture_kit"]

PIECES = 6


def fracture_kit() -> dict[str, Any]:
    """Return the graph: break into cells, bevel, pull apart, lettering, boolean."""
    wobble = "vec3(random(seed) - 0.5, 0, random(seed + 1) - 0.5)"
    apart = "position * vec3(1 + gap, 1, 1 + gap) + vec3(0, 0.02, 0.02)"
    nodes = {
        "plate": node("box", "Plate", size=[0.6, 0.05, 0.4], cells=[24, 1, 16]),
        "knobs": node(
            "extrude",
            "Knobs",
            "plate",
            where="normal.y > 0.9 and cells(position * 22) < 0.34 and max(abs(position.x) / 0.3, "
            "abs(position.z) / 0.2) > 0.93",
            distance=0.012,
            inset=0.003,
        ),
        "spacing": node("grid", "Six places", size=[0.36, 0.16], cells=[2, 1]),
        "centers": node(
            "set_attribute", "Centres", "spacing", name="position", value={"formula": f"position + {wobble} * 0.06"}
        ),
        "broken": node("break_into_cells", "Break", "knobs", inputs={"centers": ["centers"]}),
        "broken_edges": node("region_borders", "Broken edges", "broken", label="inner"),
        "rounded": node(
            "bevel", "Round them", "broken_edges", where="region_border", width={"formula": "rounding"}, segments=2
        ),
        "apart": node(
            "pull_apart", "Pull apart", "rounded", part="cell", amount={"formula": "gap"}, along=[1.0, 0.0, 1.0]
        ),
        "labels": node("set_attribute", "Where numbers go", "centers", name="position", value={"formula": apart}),
        **stamps(PIECES, "labels", 0.085),
        "kit": node(
            "boolean", "Engrave", "apart", inputs={"others": ["stamp"]}, operation="difference", other_group="engraved"
        ),
        "tinted": node(
            "set_attribute",
            "Tint each piece",
            "kit",
            kind="face",
            name="color",
            value={
                "formula": "vec4(hsv(0.08, 0.2, 0.9) if inner else hsv(0.44 + 0.03 * cell, 0.3, 0.62 + 0.03 * cell), 1)"
            },
        ),
        "ink": ink("tinted", [0.09, 0.12, 0.15, 1.0]),
    }
    dials = {
        "gap": dial(0.35, (0.0, 1.0), "how far the pieces are pulled apart, as a share", "", 0.01),
        "rounding": dial(0.003, (0.0, 0.01), "width of the rounding where the tile was broken", "m"),
        "seed": {**dial(3.0, (0.0, 20.0), "another number breaks another way", "", 1.0), "type": "integer", "value": 3},
    }
    notes = "A tile that does not fit its crate, broken into numbered pieces with rounded edges."
    return document("Fracture kit", notes, nodes, dials, "ink")


if __name__ == "__main__":
    write("fracture_kit", fracture_kit())
