"""The demo graph `Coral growth`: ``python -m demo.coral_growth`` writes ``coral_growth.json`` and ``tide_table.csv``.

Polyps that grow from frame to frame: each moves towards the light and away from the others, and at high water new ones
bud. The water follows a tide table of one day. Branches grow around the ways that the polyps went.
"""

from __future__ import annotations

import math
from typing import Any

from demo.building import HERE, dial, document, node, write

__all__ = ["coral_growth", "tide_table"]

STEP = """light: number(0, 2, help="how strongly polyps grow towards the light") = 1
room: number(0, 2, help="how strongly they keep away from others") = 1
others = geo.near(position, reach * 2, 7)
away = position - mean(others.position)
way = light * vec3(0, 1, 0) + room * 25 * away + 0.6 * noise3(position * 9)
here.position = position + growth * seconds_per_step * way
if random(step) < (water - 0.9) * 0.12:
    young = add_point(position + reach * 0.4 * normalize(noise3(position * 31 + vec3(step)) + vec3(0, 1, 0)))
    young.born = age
"""
TIDES = ((62.0, 12.42, 5.1), (21.0, 12.0, 4.0), (14.0, 23.93, 9.0))
"""Height in cm, period and time of high water in h, of the waves that the invented gauge feels."""


def tide_table() -> str:
    """Return a gauge's log of one day, every half hour: hours, and centimetres of water."""
    rows = ["hours,water [cm]"]
    for half in range(49):
        waves = (height * math.cos(math.tau * (half / 2 - at) / period) for height, period, at in TIDES)
        rows.append(f"{half / 2:g},{104.0 + sum(waves):.1f}")
    return "\n".join(rows) + "\n"


def one_step() -> dict[str, Any]:
    """Return the graph of one step: polyps move, and at high water some of them bud."""
    nodes = {
        "in_polyps": node("input", "Polyps", name="polyps"),
        "move": node("script", "Grow to light and room, and bud", "in_polyps", source=STEP),
    }
    dials = {
        "growth": dial(0.03, (0.0, 0.2), "how fast polyps grow", "m/s", 0.001),
        "reach": dial(0.05, (0.01, 0.2), "how near another polyp is felt", "m"),
        "water": dial(1.0, (0.0, 2.5), "height of the water; at high water polyps bud", "m", 0.01),
    }
    made = document("", "", nodes, dials, "move")
    made["inputs"] = [{"name": "polyps", "help": "the polyps so far"}]
    made["outputs"] = [{"name": "polyps", "help": "grown by one step", "feed": "move"}]
    return made


def coral_growth() -> dict[str, Any]:
    """Return the graph: seeds, growth, and the shape around it."""
    follows = {
        "table": "tide_table",
        "time": "hours",
        "value": "water",
        "unit": "h",
        "speed": 28800.0,
        "factor": 0.01,
        "taken": "smooth",
        "after": "repeat",
        "otherwise": 1.0,
    }
    nodes = {
        "stone": node("disc", "Stone", radius=0.12),
        "seeds": node("scatter", "Larvae that settled", "stone", total=9, seed=5),
        "begin": node("set_attribute", "Born before", "seeds", name="born", value={"formula": "-2 * random()"}),
        "grown": {
            **node(
                "evolve",
                "Growth",
                inputs={"polyps": ["begin"]},
                reset=-2,
                growth={"dial": "growth"},
                reach={"dial": "reach"},
                water={"dial": "water"},
            ),
            "graph": one_step(),
        },
        "size": node(
            "set_attribute",
            "Young ones are small",
            "grown",
            name="scale",
            value={"formula": "0.35 + 0.65 * smoothstep(0, 1, time - born)"},
        ),
        "colour": node(
            "remap",
            "Shown by age",
            "size",
            value={"formula": "born"},
            low=-2.0,
            high=3.0,
            name="color",
            through="gradient",
            gradient=[[0, 0.35, 0.12, 0.1, 1], [0.6, 0.85, 0.4, 0.3, 1], [1, 1.0, 0.85, 0.7, 1]],
        ),
        "polyp": node("geodesic_sphere", "A polyp", radius=0.022, frequency=3),
        "placed": node("place_instances", "Polyps", "colour", inputs={"shapes": ["polyp"]}, turn="not"),
        "shape": node("flatten_instances", "As one shape", "placed"),
        "ways": node("paths_over_time", "Ways of the polyps", "colour", whole_way=True, since=-2.0, every=3.0),
        "branches": node("struts", "Branches", "ways", along="curve", radius={"formula": "0.016 * scale"}, sides=7),
        "plinth": node("cylinder", "Plinth", radius=0.22, height=0.04),
        "below": node("transform", "Below it", "plinth", move=[0.0, -0.021, 0.0]),
        "grey": node("set_attribute", "Stone grey", "below", name="color", value=[0.24, 0.23, 0.2, 1.0]),
        "both": node("join", "Colony", inputs={"geometries": ["shape", "branches", "grey"]}),
    }
    dials = {
        "growth": dial(0.03, (0.0, 0.2), "how fast polyps grow", "m/s", 0.001),
        "reach": dial(0.05, (0.01, 0.2), "how near another polyp is felt", "m"),
        "water": {
            **dial(1.0, (0.0, 2.5), "height of the water over a day; at high water polyps bud", "m", 0.01),
            "value": follows,
        },
    }
    notes = (
        "Polyps grow from frame to frame towards light and room; at high water, which follows a tide table, new ones "
        "bud. Branches grow around the ways they went. Each state is kept."
    )
    made = document("Coral growth", notes, nodes, dials, "both")
    return {**made, "time": {"first": 1, "last": 72, "rate": 24}}


if __name__ == "__main__":
    (HERE / "tide_table.csv").write_text(tide_table())
    write("coral_growth", coral_growth())
