"""The demo graph `Rope cradle`: ``python -m demo.rope_cradle`` writes ``rope_cradle.json``.

A net of ropes that carries coral fragments over a boulder. One script, run once, makes the lines, their segments and
the lattice; a second one runs on the points, bends them and keeps them clear of the boulder.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, node, write

__all__ = ["rope_cradle"]

LATTICE = """# Lines along, rungs across, and floats on the outer lines.
along: integer(3, 80) = 30
lines: integer(2, 12) = 6
length: number(0.2, 3, unit="m", help="length of the cradle") = 1.6
width: number(0.1, 2, unit="m", help="distance of the outer lines") = 0.7

def spot(i, j):
    return ((i / (along - 1) - 0.5) * length, 0, (j / (lines - 1) - 0.5) * width)

rows = lines * along
knots = []
for j in range(lines):
    line = []
    for i in range(along):
        knot = add_point(spot(i, j))
        knot.along = i / (along - 1)
        knot.across = j / (lines - 1)
        line.append(knot)
    knots = knots + line
    add_curve(line)
for i in range(0, along, 3):
    add_segments([knots[j * along + i] for j in range(lines)])
whole.knots = rows
"""

BEND = """# Sags between its ends, sways, and lies on the boulder where it would touch it.
rock: geometry
sag: number(0, 1, unit="m") = 0.34
sway: number(0, 0.3, unit="m") = 0.05
shape: curve(0, 1) = [(0, 0.0), (0.5, 1.0), (1, 0.0)]
gap: number(0, 0.1, unit="m", help="how far it stays from the boulder") = 0.02
weave: toggle = True

down = sag * shape(along) * (1.0 - 0.35 * abs(across * 2 - 1))
p = position - (0, down, 0)
p += (0, sway, 0) * noise(position * 2.5, 3)
if weave:
    p.z += 0.012 * sin(along * 60 + across * 9)

rest = rock.closest(p)
inside = rock.inside(p)
if inside or rest.distance < gap:
    p = rest.position + rest.normal * gap
    here.resting = True
here.position = p
here.load = down
"""

FRAGMENTS = """# A bud on every third knot of the inner lines that hangs free.
every: integer(1, 9) = 3
tall: number(0, 0.2, unit="m") = 0.06
if across > 0.1 and across < 0.9 and index % every == 0 and not resting:
    size = tall * (0.6 + 0.8 * random(4))
    tip = add_point(position + (0.02 * (random(1) - 0.5), size, 0.02 * (random(2) - 0.5)), here)
    add_curve([here, tip])
    here.bud = True
"""


def rope_cradle() -> dict[str, Any]:
    """Return the graph: a lattice by script, bent by script, swept to ropes over a boulder."""
    nodes = {
        "ball": node("geodesic_sphere", "Ball", radius=0.34, frequency=36),
        "boulder": node(
            "displace", "Boulder", "ball", amount=0.09, value={"formula": "noise(position * 4.1 + vec3(2, 0, 7), 4)"}
        ),
        "sunk": node("transform", "Sunk", "boulder", move=[0.12, -0.42, 0.02], scale=[1.2, 0.8, 1.0]),
        "stone": node(
            "remap",
            "Stone colours",
            "sunk",
            value={"formula": "normal.y + 0.4 * noise(position * 9, 3)"},
            name="color",
            through="gradient",
            gradient=[[0, 0.16, 0.17, 0.18, 1], [0.6, 0.33, 0.35, 0.31, 1], [1, 0.45, 0.5, 0.38, 1]],
        ),
        "lattice": node("script", "Lattice", each="once", source=LATTICE),
        "bent": node(
            "script",
            "Bent by its weight",
            "lattice",
            inputs={"rock": ["sunk"]},
            each="point",
            source=BEND,
            controls={"sag": {"formula": "cradle_sag"}},
        ),
        "buds": node("script", "Fragments", "bent", each="point", source=FRAGMENTS),
        "ropes": node("sweep", "Ropes", "buds", radius={"formula": "0.004 if bud else 0.0075"}, sides=8),
        "hemp": node(
            "remap",
            "Load",
            "ropes",
            value={"formula": "load"},
            name="color",
            through="gradient",
            gradient=[[0, 0.72, 0.52, 0.26, 1], [0.6, 0.6, 0.36, 0.16, 1], [1, 0.5, 0.16, 0.1, 1]],
        ),
        "all": node("join", "Cradle", inputs={"geometries": ["stone", "hemp"]}),
    }
    notes = "A rope net for coral fragments: made by one script that runs once, bent by one that runs on every point."
    dials = {"cradle_sag": dial(0.34, (0, 0.8), "how far the net hangs down in its middle", "m")}
    return document("Rope cradle", notes, nodes, dials, "all")


if __name__ == "__main__":
    write("rope_cradle", rope_cradle())
