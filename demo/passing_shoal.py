"""The demo graph `Passing shoal`: ``python -m demo.passing_shoal`` writes ``passing_shoal.json``.

A plate of 6,400 loose scales, and a shoal of fish that swims over it on a path with keys: each scale lifts by how many
fish are near, and by chance.
"""

from __future__ import annotations

from typing import Any

from demo.building import dial, document, keys, node, write

__all__ = ["passing_shoal"]


def passing_shoal() -> dict[str, Any]:
    """Return the graph: the shoal on its path, and the scales that feel it."""
    path = keys(
        (1, [-0.9, 0.16, -0.5]),
        (70, [-0.2, 0.16, 0.45]),
        (140, [0.5, 0.18, -0.4]),
        (190, [0.75, 0.17, 0.3]),
        (240, [1.0, 0.25, -0.2]),
    )
    nodes = {
        "swarm": node("sphere", "Room of the shoal", radius=0.3),
        "fish": node("scatter", "Fish", "swarm", total=60, seed=3),
        "loose": node(
            "set_attribute",
            "Each at its depth",
            "fish",
            name="position",
            value={"formula": "position * vec3(1.3, 0.35, 0.8) * (0.25 + 0.75 * random())"},
        ),
        "path": node("transform", "On its path", "loose", move=path),
        "swim": node(
            "set_attribute",
            "Each its own way",
            "path",
            name="position",
            value={"formula": "position + 0.03 * noise3(vec3(random(2) * 40, time, 0))"},
        ),
        "plate": node("grid", "Plate", size=[2.0, 1.4], cells=[80, 80]),
        "scales": node("unshare", "Loose scales", "plate"),
        "felt": node(
            "set_attribute",
            "Fish that are near",
            "scales",
            inputs={"source": ["swim"]},
            kind="face",
            name="felt",
            value={"formula": "len(source.near(position, reach, 60))"},
        ),
        "chance": node("random_values", "Chance", "felt", kind="face", name="chance", low=0.5, high=1.5, seed=8),
        "lifted": node(
            "extrude",
            "Lift",
            "chance",
            where="felt > 0",
            together=False,
            distance={"formula": "0.002 + lift * felt * chance"},
            inset=0.0015,
            top_group="tip",
        ),
        "colour": node(
            "remap",
            "Shown by how many",
            "lifted",
            kind="face",
            value={"formula": "felt"},
            name="color",
            through="gradient",
            gradient=[[0, 0.05, 0.16, 0.19, 1], [0.4, 0.1, 0.42, 0.42, 1], [1, 0.95, 0.55, 0.2, 1]],
        ),
        "touched": node("remove", "Only the touched ones", "colour", where="felt == 0"),
        "shown": node(
            "switch",
            "All, or the touched ones",
            inputs={"choices": ["colour", "touched"]},
            chosen={"dial": "only"},
        ),
        "bead": node("geodesic_sphere", "A fish", radius=0.012, frequency=2),
        "long": node("transform", "Long", "bead", scale=[2.4, 1.0, 0.7]),
        "shoal": node("place_instances", "Shoal", "swim", inputs={"shapes": ["long"]}, turn="not"),
        "both": node("join", "Scales and shoal", inputs={"geometries": ["shown", "shoal"]}),
    }
    reach = keys((1, 0.16), (120, 0.24), (240, 0.16), way="straight")
    dials = {
        "reach": {**dial(0.16, (0.0, 0.5), "how near a fish has to be", "m"), "value": reach},
        "lift": dial(0.006, (0.0, 0.03), "how far a scale lifts for each fish", "m"),
        "only": {
            **dial(0, (0, 1), "1 keeps only scales that feel a fish", "", 1),
            "type": "integer",
            "high": 1,
        },
    }
    notes = "A shoal swims over a plate of scales on a path with keys; each scale lifts by how many fish are near."
    made = document("Passing shoal", notes, nodes, dials, "both")
    return {**made, "time": {"first": 1, "last": 240, "rate": 24}}


if __name__ == "__main__":
    write("passing_shoal", passing_shoal())
