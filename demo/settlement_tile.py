"""The demo: a ceramic tile for coral larvae, and the small survey scan whose cover values colour it.

``python -m demo.settlement_tile`` writes ``survey_scan.ply`` and ``settlement_tile.json`` beside this file. The scan is
invented: a bumpy patch of sea floor, 0.3 m wide, with a cover value (0..1) and a colour at each point.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from demo.building import node
from reticula.core import Geo, ops

HERE = Path(__file__).parent


def survey_scan() -> Geo:
    """Return the scan: relief from noise, cover where the relief is high, coloured from sand to coral."""
    scan = ops.grid(size=(0.3, 0.3), cells=(64, 64))
    scan = ops.set_attribute(
        scan,
        name="position",
        value="position + vec3(0, 0.012 * noise(position * 14, 4) + 0.004 * noise(position * 70), 0)",
    )
    scan = ops.set_attribute(
        scan,
        name="cover",
        value="clamp(smoothstep(-0.35, 0.45, noise(position * vec3(16, 0, 16) + vec3(3.7, 0, 1.2), 3)), 0, 1)",
    )
    return ops.set_attribute(
        scan,
        name="color",
        value="vec4(mix(mix(vec3(0.52, 0.42, 0.28), vec3(0.10, 0.30, 0.27), min(cover * 2, 1)), "
        "vec3(0.80, 0.16, 0.12), max(cover * 2 - 1, 0)), 1)",
    )


def settlement_tile() -> dict[str, Any]:
    """Return the graph: plate, ridges cut out and raised, smoothed, coloured from the scan."""
    ridge = "abs(noise(position * ridge_density + vec3(5, 0, 2)))"
    rim = "(0.15 - max(abs(position.x), abs(position.z)) - rim_width)"
    nodes = {
        "plate": node("box", "Base plate", size=[0.3, 0.016, 0.3], cells=[72, 1, 72]),
        "outline": node(
            "cut_by_value",
            "Cut ridge outlines",
            "plate",
            value={"formula": f"min(ridge_share - {ridge}, {rim} * 20) if position.y > 0 else -1"},
            snap=0.25,
            above_group="ridges",
            below_group="flat",
        ),
        "raise": node(
            "extrude",
            "Raise ridges",
            "outline",
            where="ridges",
            per="point",
            distance={
                "formula": f"0.003 + ridge_height * sqrt(max(1 - ({ridge} / ridge_share) ** 2, 0)) "
                f"* smoothstep(0, 0.04, {rim})"
            },
            walls="straight",
            top_group="crest",
            side_group="wall",
        ),
        "smooth": node("smooth_subdivide", "Smooth", "raise", levels=1),
        "survey": node("project_shape", "Survey scan", shape="survey_scan"),
        "cover": node("transfer_attribute", "Carry cover", "smooth", attributes="cover color"),
        "niches": node(
            "group", "Mark niches", "cover", name="niches", kind="point", where="cover > 0.55 and any(here.faces.wall)"
        ),
    }
    nodes["cover"]["inputs"]["source"] = ["survey"]
    dials = {
        "ridge_height": {
            "type": "number",
            "value": 0.016,
            "soft": [0.0, 0.05],
            "low": 0.0,
            "high": 0.2,
            "step": 0.001,
            "unit": "m",
            "help": "how far the tallest ridges rise",
        },
        "ridge_share": {
            "type": "number",
            "value": 0.15,
            "soft": [0.05, 0.5],
            "low": 0.01,
            "high": 1.0,
            "step": 0.01,
            "unit": "",
            "help": "how much of the plate is covered by ridges",
        },
        "ridge_density": {
            "type": "number",
            "value": 18.0,
            "soft": [4.0, 40.0],
            "low": 0.1,
            "high": 200.0,
            "step": 0.5,
            "unit": "1/m",
            "help": "how closely the ridges wind",
        },
        "rim_width": {
            "type": "number",
            "value": 0.015,
            "soft": [0.0, 0.1],
            "low": 0.0,
            "high": 0.15,
            "step": 0.001,
            "unit": "m",
            "help": "flat margin for clamps",
        },
    }
    return {
        "format": "reticula graph",
        "version": 1,
        "title": "Settlement tile",
        "notes": "A ceramic tile for coral larvae: ridges give shade and grip, cover from the survey says "
        "where to watch.",
        "dials": dials,
        "nodes": nodes,
        "looking_at": "niches",
        "result": "niches",
    }


def main() -> None:
    survey_scan().write(HERE / "survey_scan.ply")
    (HERE / "settlement_tile.json").write_text(json.dumps(settlement_tile(), indent=2, ensure_ascii=False) + "\n")


if __name__ == "__main__":
    main()
