"""Writes the graphs of the tutorials beside this file: ``python -m demo.tutorials.graphs``."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from demo.building import dial, document, node

__all__ = ["TUTORIALS", "text_of"]

HERE = Path(__file__).parent
WELLS = """seeds: geometry
depth: number(0, 0.05, help="how deep each well is") = 0.012
width: number(0.005, 0.1, help="how wide each well is") = 0.03
found = seeds.nearest(position)
fall = 1 - smoothstep(0, width, found.distance)
here.position = position - vec3(0, depth * fall, 0)
here.fall = fall
"""


def first_tile() -> dict[str, Any]:
    """A plate with soft ridges, and one dial."""
    nodes = {
        "plate": node("grid", "Plate", size=[0.3, 0.3], cells=[24, 24]),
        "ridges": node("group", "Ridges", "plate", name="ridges", where="noise(position * 14) > 0.1"),
        "raise": node(
            "extrude",
            "Raise",
            "ridges",
            where="ridges",
            distance={"formula": "height"},
            inset=0.002,
        ),
        "soft": node("smooth_subdivide", "Soften", "raise", levels=2),
    }
    dials = {"height": dial(0.012, (0.0, 0.04), "how high the ridges are", "m")}
    return document("Tutorial: first tile", "The end of the tutorial ‘A first tile’.", nodes, dials, "soft")


def values_from_a_scan() -> dict[str, Any]:
    """Cover values of a scan, carried to a tile, shown, and used."""
    nodes = {
        "scan": node("project_shape", "Scan", shape="survey_scan"),
        "tile": node("grid", "Tile", size=[0.28, 0.28], cells=[56, 56]),
        "carry": node(
            "transfer_attribute", "Cover of the scan", "tile", inputs={"source": ["scan"]}, attributes="cover"
        ),
        "lift": node(
            "displace",
            "Raise where it is bare",
            "carry",
            value={"formula": "1 - cover"},
            amount=0.015,
            along="direction",
        ),
        "show": node("remap", "Show", "lift", value={"formula": "cover"}, name="color", through="gradient"),
    }
    return document("Tutorial: values from a scan", "The end of the tutorial ‘Values from a scan’.", nodes, {}, "show")


def own_script() -> dict[str, Any]:
    """Wells around seeds, by a script with two controls."""
    nodes = {
        "tile": node("grid", "Tile", size=[0.3, 0.3], cells=[90, 90]),
        "seeds": node("scatter", "Seeds", "tile", total=24, arrangement="even", seed=3),
        "wells": node("script", "Wells", "tile", inputs={"seeds": ["seeds"]}, source=WELLS),
        "show": node("remap", "Show", "wells", value={"formula": "fall"}, name="color", through="gradient"),
    }
    return document("Tutorial: own script", "The end of the tutorial ‘A script of your own’.", nodes, {}, "show")


def operator_to_share() -> dict[str, Any]:
    """Ridges as one card with two dials, used twice."""
    inside = document(
        "Ridged plate",
        "",
        {
            "come": node("input", "Plate", name="plate"),
            "mark": node("group", "Mark", "come", name="ridges", where="noise(position * density) > 0.1"),
            "raise": node("extrude", "Raise", "mark", where="ridges", distance={"formula": "height"}, inset=0.002),
            "soft": node("smooth_subdivide", "Soften", "raise", levels=1),
        },
        {
            "height": dial(0.012, (0.0, 0.04), "how high the ridges are", "m"),
            "density": dial(14.0, (4.0, 40.0), "how close together they are", "", 0.1),
        },
        "soft",
    )
    del inside["result"]
    inside["inputs"] = [{"name": "plate", "help": "a plate of faces"}]
    inside["outputs"] = [{"name": "plate", "help": "the plate with ridges", "feed": "soft"}]
    ridged = {"operator": "folded", "linked": "ridges"}
    nodes = {
        "coarse_plate": node("grid", "Plate", size=[0.3, 0.3], cells=[24, 24]),
        "coarse": {
            **ridged,
            "title": "Ridges",
            "inputs": {"plate": ["coarse_plate"]},
            "parameters": {"density": 9.0},
        },
        "round_plate": node("disc", "Round plate", radius=0.15, rings=16, segments=48),
        "beside": node("transform", "Beside it", "round_plate", move=[0.36, 0.0, 0.0]),
        "fine": {
            **ridged,
            "title": "Ridges",
            "inputs": {"plate": ["beside"]},
            "parameters": {"density": 24.0, "height": 0.006},
        },
        "both": node("join", "Both", inputs={"geometries": ["coarse", "fine"]}),
    }
    made = document("Tutorial: operator to share", "The end of the tutorial ‘An operator to share’.", nodes, {}, "both")
    return {**made, "linked": {"ridges": inside}}


def looking_for_faults() -> dict[str, Any]:
    """A block with all usual faults, and the same repaired."""
    nodes = {
        "block": node("box", "Block", size=[0.2, 0.1, 0.2], cells=[8, 4, 8]),
        "hole": node("remove", "A hole", "block", where="index == 20 or index == 21"),
        "inside_out": node("reverse", "Some inside out", "hole", where="index % 17 == 3"),
        "parted": node("unshare", "Parted", "inside_out", where="position.x > 0", apart_from="the rest"),
        "repaired": node("repair", "Repair", "parted"),
    }
    return document(
        "Tutorial: looking for faults", "The end of the tutorial ‘Looking for faults’.", nodes, {}, "repaired"
    )


TUTORIALS = {
    made.__name__: made for made in (first_tile, values_from_a_scan, own_script, operator_to_share, looking_for_faults)
}


def text_of(name: str) -> str:
    """Return the graph of a tutorial as it is kept."""
    return json.dumps(TUTORIALS[name](), indent=2, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    for name in TUTORIALS:
        (HERE / f"{name}.json").write_text(text_of(name), "utf-8")
