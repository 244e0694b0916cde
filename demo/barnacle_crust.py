"""The demo graph `Barnacle crust`: ``python -m demo.barnacle_crust`` writes ``barnacle_crust.json``.

A rock with a rope around it: barnacles sit densest by the rope, evenly spaced, larger towards the top.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, node, write

__all__ = ["barnacle_crust"]


def barnacle_crust() -> dict[str, Any]:
    """Return the graph: density by nearness to a rope, even scatter, sizes remapped by height."""
    near = "source.closest(position).distance"
    nodes = {
        "ball": node("geodesic_sphere", "Ball", radius=0.4, frequency=40),
        "rock": node(
            "displace", "Rock", "ball", amount=0.11, value={"formula": "noise(position * 3.1 + vec3(4, 0, 1), 4)"}
        ),
        "ring": node("circle", "Ring", radius=0.5, segments=56),
        "tilt": node("transform", "Tilted", "ring", turn=[18, 0, 24]),
        "rope": node(
            "drape", "Rope on the rock", "tilt", inputs={"ground": ["rock"]}, way="closest", offset=0.018, share=0.9
        ),
        "strand": node("sweep", "Strand", "rope", radius=0.014, sides=10),
        "bare": node(
            "set_attribute",
            "Density",
            "rock",
            inputs={"source": ["rope"]},
            name="density",
            value={"formula": f"smoothstep(crust_width, 0, {near}) + 0.02"},
        ),
        "tint": node(
            "remap",
            "Rock colours",
            "bare",
            value={"formula": "density + 0.25 * noise(position * 14, 2)"},
            name="color",
            through="gradient",
            gradient=[[0, 0.2, 0.17, 0.14, 1], [1, 0.36, 0.41, 0.3, 1]],
        ),
        "hemp": node(
            "set_attribute", "Rope colour", "strand", name="color", value={"formula": "vec4(0.62, 0.43, 0.2, 1)"}
        ),
        "spots": node(
            "scatter",
            "Evenly spread",
            "bare",
            total={"formula": "barnacles"},
            arrangement="even",
            density={"formula": "density"},
            seed=3,
        ),
        "free": node(
            "group",
            "Clear of the rope",
            "spots",
            inputs={"source": ["rope"]},
            name="clear",
            kind="point",
            where=f"{near} > 0.026",
        ),
        "kept": node("remove", "Only the clear ones", "free", kind="point", where="not clear"),
        "size": node(
            "remap",
            "Larger towards the top",
            "kept",
            value={"formula": "position.y"},
            name="scale",
            through="response curve",
            curve=[[0.0, 0.1], [0.6, 0.35], [1.0, 1.0]],
            to_low=0.6,
            to_high=1.7,
        ),
        "cone": node("cone", "Plate ring", radius=0.022, top_radius=0.011, height=0.02, segments=9),
        "mouth": node("inset", "Mouth", "cone", where="normal.y > 0.9", by="fraction", fraction=0.35),
        "deep": node("extrude", "Hollow", "mouth", where="inner", distance=-0.012),
        "shell": node(
            "remap",
            "Shell colours",
            "deep",
            value={"formula": "length(position.xz)"},
            name="color",
            through="gradient",
            gradient=[[0, 0.25, 0.12, 0.1, 1], [0.5, 0.8, 0.74, 0.66, 1], [1, 0.62, 0.5, 0.45, 1]],
        ),
        "crust": node("place_instances", "Barnacles", "size", inputs={"shapes": ["shell"]}),
        "solid": node("flatten_instances", "As mesh", "crust"),
        "all": node("join", "Crusted rock", inputs={"geometries": ["tint", "hemp", "solid"]}),
    }
    dials = {
        "crust_width": dial(0.22, (0.03, 0.6), "how far from the rope the crust reaches", "m"),
        "barnacles": dial(420, (0, 1500), "how many barnacles are spread", "", 1),
    }
    notes = "Barnacles settle where a rope chafes the rock: dense and even beside it, larger towards the light."
    return document("Barnacle crust", notes, nodes, dials, "all")


if __name__ == "__main__":
    write("barnacle_crust", barnacle_crust())
