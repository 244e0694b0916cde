"""The demo graph `Coral growth`: ``python -m demo.coral_growth`` writes ``coral_growth.json``.

Polyps that grow from frame to frame: each moves towards the light and away from the others, and at high water new ones
bud. A crust is laid around all of them.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, keys, node, write

__all__ = ["coral_growth"]

STEP = """light: number(0, 2, help="how strongly polyps grow towards the light") = 1
room: number(0, 2, help="how strongly they keep away from others") = 1
others = geo.near(position, reach * 2, 7)
away = position - mean(others.position)
way = light * vec3(0, 1, 0) + room * 25 * away + 0.6 * noise3(position * 9)
here.position = position + growth * seconds_per_step * way
"""


def one_step() -> dict[str, Any]:
    """Return the graph of one step: polyps move, and at high water some of them bud."""
    nodes = {
        "in_polyps": node("input", "Polyps", name="polyps"),
        "move": node("script", "Grow to light and room", "in_polyps", source=STEP),
        "buds": node("remove", "Those that bud", "move", kind="point", where="random(step) > tide * 0.1"),
        "beside": node(
            "set_attribute",
            "Beside them",
            "buds",
            name="position",
            value={"formula": "position + reach * 0.4 * normalize(noise3(position * 31 + vec3(step)) + vec3(0, 1, 0))"},
        ),
        "young": node("set_attribute", "Born now", "beside", name="born", value={"formula": "age"}),
        "all": node("join", "Old and young", inputs={"geometries": ["move", "young"]}),
    }
    dials = {
        "growth": dial(0.03, (0.0, 0.2), "how fast polyps grow", "m/s", 0.001),
        "reach": dial(0.05, (0.01, 0.2), "how near another polyp is felt", "m"),
        "tide": dial(0.5, (0.0, 1.0), "height of the water; at high water polyps bud", "", 0.01),
    }
    made = document("", "", nodes, dials, "all")
    made["inputs"] = [{"name": "polyps", "help": "the polyps so far"}]
    made["outputs"] = [{"name": "polyps", "help": "grown by one step", "feed": "all"}]
    return made


def coral_growth() -> dict[str, Any]:
    """Return the graph: seeds, growth, and the crust around it."""
    tide = {**keys((1, 0.15), (13, 0.95), (25, 0.15)), "after": "repeat"}
    nodes = {
        "stone": node("disc", "Stone", radius=0.12),
        "seeds": node("scatter", "Larvae that settled", "stone", total=9, seed=5),
        "begin": node("set_attribute", "Born before", "seeds", name="born", value={"formula": "-2 * random()"}),
        "grown": {
            **node(
                "evolve",
                "Growth",
                inputs={"polyps": ["begin"]},
                reset=1,
                growth={"dial": "growth"},
                reach={"dial": "reach"},
                tide={"dial": "tide"},
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
        "plinth": node("cylinder", "Plinth", radius=0.42, height=0.05),
        "below": node("transform", "Below it", "plinth", move=[0.0, -0.026, 0.0]),
        "grey": node("set_attribute", "Stone grey", "below", name="color", value=[0.24, 0.23, 0.2, 1.0]),
        "both": node("join", "Colony", inputs={"geometries": ["shape", "grey"]}),
    }
    dials = {
        "growth": dial(0.03, (0.0, 0.2), "how fast polyps grow", "m/s", 0.001),
        "reach": dial(0.05, (0.01, 0.2), "how near another polyp is felt", "m"),
        "tide": {**dial(0.5, (0.0, 1.0), "height of the water; at high water polyps bud", "", 0.01), "value": tide},
    }
    notes = "Polyps grow from frame to frame towards light and room; at high water new ones bud. Each state is kept."
    made = document("Coral growth", notes, nodes, dials, "both")
    return {**made, "time": {"first": 1, "last": 72, "rate": 24}}


if __name__ == "__main__":
    write("coral_growth", coral_growth())
