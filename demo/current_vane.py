"""The demo graph `Current vane`: ``python -m demo.current_vane`` writes ``current_vane.json``.

A curved vane behind a field of boulders. Rays against the current tell which places the water reaches; that exposure,
blurred, drives how far its ribs stand out and how it is coloured.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, node, write

__all__ = ["current_vane"]


def current_vane() -> dict[str, Any]:
    """Return the graph: rays along the current give exposure, which drives ribs."""
    bend = "vec3(0.16 * sin(position.x * 2.6) - 0.25 * position.x, 0.38 - position.z, position.x)"
    nodes = {
        "sheet": node("grid", "Flat sheet", size=[1.6, 0.8], cells=[96, 40]),
        "vane": node("set_attribute", "Stand and bend", "sheet", name="position", value={"formula": bend}),
        "seabed": node("grid", "Seabed", size=[1.0, 2.0], cells=[8, 16]),
        "spots": node("scatter", "Where boulders lie", "seabed", amount="spacing", spacing=0.3, seed=2),
        "upstream": node("set_place", "Upstream", "spots", move=[1.0, 0.0, 0.0]),
        "boulder": node("geodesic_sphere", "Boulder", radius=0.14, frequency=8),
        "rough": node("displace", "Weathered", "boulder", amount=0.05, value={"formula": "noise(position * 9, 3)"}),
        "grey": node(
            "remap",
            "Stone colours",
            "rough",
            name="color",
            through="gradient",
            gradient=[[0, 0.16, 0.15, 0.13, 1], [1, 0.42, 0.4, 0.36, 1]],
        ),
        "size": node("random_values", "Sizes", "upstream", name="scale", low=1.0, high=2.6, seed=4),
        "field": node("place_instances", "Boulders", "size", inputs={"shapes": ["grey"]}),
        "rocks": node("flatten_instances", "As mesh", "field"),
        "rays": node(
            "raycast",
            "Against the current",
            "vane",
            inputs={"target": ["rocks"]},
            kind="point",
            direction={"formula": "vec3(1, 0.12 * swell, 0)"},
            offset=0.02,
            name="shelter",
        ),
        "reach": node(
            "set_attribute", "Exposure", "rays", name="exposure", value={"formula": "number(shelter_missed)"}
        ),
        "blur": node("blur_values", "Eddies", "reach", attributes="exposure", iterations=14),
        "ribs": node("group_by_pattern", "Every fourth strip", "blur", name="ribs", kind="face", every=4, take=1),
        "raise": node(
            "extrude",
            "Ribs",
            "ribs",
            where="ribs",
            per="point",
            distance={"formula": "rib_height * (0.08 + exposure)"},
            walls="straight",
            top_group="crest",
        ),
        "colour": node(
            "remap", "Shown by exposure", "raise", value={"formula": "exposure"}, name="color", through="gradient"
        ),
        "both": node("join", "Vane and boulders", inputs={"geometries": ["colour", "rocks"]}),
    }
    dials = {
        "rib_height": dial(0.07, (0.0, 0.15), "how far a rib stands out in the full current", "m"),
        "swell": dial(0.5, (0.0, 2.0), "how steeply the current comes from above", "", 0.01),
    }
    notes = "Rays run against the current; what they miss, the water reaches. The exposure drives the ribs."
    return document("Current vane", notes, nodes, dials, "both")


if __name__ == "__main__":
    write("current_vane", current_vane())
