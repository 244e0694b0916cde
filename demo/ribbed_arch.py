"""The demo graph `Ribbed arch`: ``python -m demo.ribbed_arch`` writes ``ribbed_arch.json``.

A vault of struts for soft coral: a sheet bent to an arch, tubes along its edges, a rail along each side, two feet.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, node, write

__all__ = ["ribbed_arch"]


def ribbed_arch() -> dict[str, Any]:
    """Return the graph: curves, sweep, struts and bevel."""
    bend = "vec3(-span * cos(uv_x * pi), span * sin(uv_x * pi), position.z * (1 - 0.25 * sin(uv_x * pi)))"
    nodes = {
        "sheet": node("grid", "Flat sheet", size=[1.0, 0.5], cells=[22, 4]),
        "bend": node(
            "set_attribute",
            "Bend to an arch",
            "sheet",
            name="position",
            value={"formula": bend.replace("uv_x", "(position.x + 0.5)")},
        ),
        "cut": node("triangulate", "Bracing", "bend", where="(floor(index / 4) + index) % 2 == 0"),
        "ribs": node("struts", "Ribs", "cut", radius={"formula": "rib * (1 + 0.6 * (1 - position.y / span))"}, sides=8),
        "sides": node("edges_to_curves", "Both sides", "bend", where="border and abs(position.z) > 0.15"),
        "even": node("resample", "Even rails", "sides", count=48),
        "section": node("rectangle", "Rail section", size=[0.05, 0.03]),
        "rails": node(
            "sweep",
            "Rails",
            "even",
            inputs={"profile": ["section"]},
            radius=1.0,
            taper=[[0.0, 1.5], [0.12, 1.0], [0.5, 0.75], [0.88, 1.0], [1.0, 1.5]],
            up=[0.0, 0.0, 1.0],
        ),
        "block": node("box", "Block", size=[0.16, 0.09, 0.6]),
        "foot": node("bevel", "Rounded foot", "block", width={"formula": "foot_bevel"}, segments=4),
        "stand": node("line", "Where feet stand", begin=[-0.5, -0.03, 0.0], end=[0.5, -0.03, 0.0]),
        "places": node(
            "set_attribute",
            "At the span",
            "stand",
            name="position",
            value={"formula": "vec3(sign(position.x) * span, position.y, 0)"},
        ),
        "feet": node("place_instances", "Feet", "places", inputs={"shapes": ["foot"]}, turn="not"),
        "arch": node("join", "Arch", inputs={"geometries": ["ribs", "rails", "feet"]}),
    }
    dials = {
        "span": dial(0.5, (0.2, 1.0), "half the width of the arch", "m", 0.01),
        "rib": dial(0.006, (0.002, 0.02), "radius of the ribs at the top", "m"),
        "foot_bevel": dial(0.025, (0.0, 0.045), "how far the feet are rounded", "m"),
    }
    notes = "A vault of ceramic struts for soft coral; the rails carry the load into two rounded feet."
    return document("Ribbed arch", notes, nodes, dials, "arch")


if __name__ == "__main__":
    write("ribbed_arch", ribbed_arch())
