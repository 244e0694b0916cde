"""The demo graph `Current drift`: ``python -m demo.current_drift`` writes ``current_drift.json``.

Floats on keyed paths in a tidal current: their velocity drives how large they are, their colour and the
wakes behind them.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, keys, node, write

__all__ = ["current_drift"]


def current_drift() -> dict[str, Any]:
    """Return the graph: floats, their motion, and what it drives."""
    turn = keys((1, [0, 0, 0]), (60, [0, 130, 0]), (90, [0, 150, 0]), (120, [0, 360, 0]))
    drift = keys((1, [0, 0, 0]), (40, [0.25, 0.05, 0.1]), (80, [-0.15, 0.0, 0.25]), (120, [0, 0, 0]))
    nodes = {
        "ring": node("circle", "Mooring ring", radius=0.7, segments=14),
        "spread": node(
            "set_attribute",
            "Near and far",
            "ring",
            name="position",
            value={"formula": "position * (0.45 + 0.75 * random())"},
        ),
        "turned": node("transform", "Turned by the tide", "spread", turn=turn),
        "drift": node("transform", "Drift", "turned", move=drift),
        "bob": node(
            "set_attribute",
            "Waves",
            "drift",
            name="position",
            value={"formula": "position + vec3(0, 0.05 * sin(time * 2.6 + position.x * 4), 0)"},
        ),
        "motion": node("motion", "Velocity", "bob"),
        "colour": node(
            "remap",
            "Shown by speed",
            "motion",
            value={"formula": "speed"},
            low=0.0,
            high={"formula": "fastest"},
            name="color",
            through="gradient",
            gradient=[[0, 0.06, 0.25, 0.3, 1], [0.5, 0.85, 0.75, 0.4, 1], [1, 0.85, 0.2, 0.1, 1]],
        ),
        "size": node(
            "set_attribute",
            "Size by speed",
            "colour",
            name="scale",
            value={"formula": "0.5 + clamp(speed / fastest, 0, 1.5)"},
        ),
        "float": node("geodesic_sphere", "A float", radius=0.045, frequency=5),
        "floats": node("place_instances", "Floats", "size", inputs={"shapes": ["float"]}, turn="not"),
        "mesh": node("flatten_instances", "Floats as mesh", "floats"),
        "wakes": node("paths_over_time", "Wakes", "colour", back={"dial": "wake"}),
        "thin": node("struts", "Wakes as tubes", "wakes", along="curve", radius={"formula": "0.012 / (1 + 2 * age)"}),
        "both": node("join", "Floats and wakes", inputs={"geometries": ["thin", "mesh"]}),
    }
    dials = {
        "fastest": dial(1.2, (0.1, 4.0), "speed that has the last colour", "m/s", 0.05),
        "wake": {**dial(18, (1, 48), "how many frames the wakes go back", "", 1), "type": "integer", "low": 1},
    }
    notes = "Floats drift on paths with keys. Their velocity, from the frames around, drives size, colour and wakes."
    made = document("Current drift", notes, nodes, dials, "both")
    return {**made, "time": {"first": 1, "last": 120, "rate": 24}}


if __name__ == "__main__":
    write("current_drift", current_drift())
