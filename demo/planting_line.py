"""The demo graph `Planting line`: ``python -m demo.planting_line`` writes ``planting_line.json``.

A trench follows a curve that is dragged place by place; pegs stand along it. The cover of a survey is carried over, and
what a diver saw better is painted on top: the strokes stay where they are when the survey is carried anew.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, node, write

__all__ = ["planting_line"]

LINE = [[-0.13, 0.0, 0.06], [-0.055, 0.0, -0.045], [0.035, 0.0, 0.04], [0.125, 0.0, -0.075]]


def stroke(places: list[tuple[float, float]], value: float, mode: str, radius: float) -> dict[str, Any]:
    """Return a stroke over places on the bed (x and z in m), with a pressure that swells and fades."""
    count = len(places)
    dabs = [[x, 0.0, z, round(1.0 - abs(2 * i / max(count - 1, 1) - 1) * 0.5, 3)] for i, (x, z) in enumerate(places)]
    return {
        "mode": mode,
        "radius": radius,
        "strength": 0.9,
        "value": value,
        "color": [0.8, 0.2, 0.1, 1.0],
        "hard": False,
        "mirror": False,
        "dabs": dabs,
    }


def planting_line() -> dict[str, Any]:
    """Return the graph: a guide that is dragged, a bed that follows it, and paint over carried values."""
    found = stroke([(-0.11 + 0.012 * i, -0.11 + 0.003 * i) for i in range(9)], 0.95, "replace", 0.022)
    bare = stroke([(0.04 + 0.009 * i, 0.1 - 0.003 * i) for i in range(8)], 0.0, "replace", 0.024)
    nodes = {
        "line": node("curve_through", "Planting line", places=LINE, between="smooth", segments=16),
        "bed": node("grid", "Sand bed", size=[0.3, 0.3], cells=[90, 90]),
        "ripples": node("push", "Ripples", "bed", amount={"formula": "0.003 * noise(position * 34, 3)"}),
        "trench": node(
            "proximity_deform",
            "Trench along the line",
            "ripples",
            inputs={"source": ["line"]},
            radius={"formula": "trench_width"},
            amount={"formula": "-trench_depth"},
            name="in_trench",
        ),
        "scan": node("project_shape", "Survey scan", shape="survey_scan"),
        "cover": node("transfer_attribute", "Carry cover", "trench", inputs={"source": ["scan"]}, attributes="cover"),
        "seen": node("paint", "What the diver saw", "cover", name="cover", strokes=[found, bare]),
        "colour": node(
            "remap",
            "Shown by cover",
            "seen",
            value={"formula": "cover"},
            name="color",
            through="gradient",
            from_range="given",
            low=0.0,
            high=1.0,
        ),
        "pegs_on": node("resample", "Peg places", "line", by="count", count={"formula": "integer(pegs)"}),
        "peg": node("cylinder", "Peg", radius=0.003, height=0.022, segments=12),
        "pegs": node("place_instances", "Pegs along it", "pegs_on", inputs={"shapes": ["peg"]}, normal=[0.0, 1.0, 0.0]),
        "all": node("join", "Bed and pegs", inputs={"geometries": ["colour", "pegs"]}),
    }
    dials = {
        "trench_width": dial(0.03, (0.01, 0.08), "how far from the line the trench reaches", "m"),
        "trench_depth": dial(0.014, (0.0, 0.04), "how deep it is along the line", "m"),
        "pegs": dial(9, (2, 30), "pegs along the line", "", 1),
    }
    notes = (
        "Choose the card ‘Planting line’ and drag its places in the view; choose ‘What the diver saw’ to "
        "go on painting."
    )
    return document("Planting line", notes, nodes, dials, "all")


if __name__ == "__main__":
    write("planting_line", planting_line())
