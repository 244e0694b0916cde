"""Value nodes that look elsewhere: noise, chance, the nearest place, a ray."""

from __future__ import annotations

from reticula.core.operators.declaration.parameters import Choice, FormulaText, Integer, Text
from reticula.core.operators.shared.value_node import Operand, value_node

__all__: list[str] = []


@value_node(
    "noise_value",
    (
        Choice(
            "how",
            "noise",
            "which noise",
            options={
                "noise": "smooth, -1 to 1",
                "noise3": "a vector of three noises",
                "cells": "distance to cell centres",
                "cell_number": "a random number per cell",
            },
        ),
        Operand("p", {"formula": "position"}, "where it is taken"),
        Operand("scale", 3.0, "how fine it is"),
        Integer(
            "octaves", 1, "layers of finer detail", soft=(1, 8), low=1, high=16, shown_when=("how", ["noise", "noise3"])
        ),
    ),
    ("random", "pattern", "worley", "perlin"),
    example="""
        height = noise_value(scale=5, octaves=4)
        tile = grid(cells=[60, 60])
        displace(tile, value=height, amount=0.15, along="direction")
    """,
    related=("noise_values", "random_value", "displace"),
)
def noise_value(how: str, p: str, scale: str, octaves: int) -> str:
    """Noise at a place."""
    layers = f", {octaves}" if how in ("noise", "noise3") and octaves != 1 else ""
    return f"{how}({p} * {scale}{layers})"


@value_node(
    "random_value",
    (
        Integer("seed", 0, "another seed gives other numbers", soft=(0, 100)),
        FormulaText("key", "", "elements with the same key, e.g. piece, get the same number; empty means each its own"),
    ),
    ("chance", "seed"),
    example="""
        lift = random_value(seed=3)
        tile = grid(cells=[8, 8])
        extrude(tile, together=False, distance=lift, amount=0.2)
    """,
    related=("random_values", "noise_value", "group_at_random"),
)
def random_value(seed: int, key: str) -> str:
    """A number in 0..1 for each element, whatever is added around it."""
    return f"random({seed}, {key})" if key.strip() else f"random({seed})"


FIELD = Text("field", "distance", "distance, position, normal, found, or an attribute there")
OF = Text("of", "source", "the name of an input of the node that the wire ends at")


@value_node(
    "nearest_value",
    (
        OF,
        Operand("p", {"formula": "position"}, "from where"),
        Operand("reach", 1000000.0, "how far it looks, in m"),
        Choice(
            "on",
            "closest",
            "what is looked for",
            options={"closest": "the closest place on the surface", "nearest": "the nearest point"},
        ),
        FIELD,
    ),
    ("closest", "proximity", "sample"),
    example="""
        away = nearest_value(reach=1)
        tile = grid(cells=[50, 50])
        stone = transform(geodesic_sphere(radius=0.15), move=[0.1, 0.15, 0])
        near = set_attribute(tile, source=stone, name="away", value=away)
        coloured = remap(near, value="away", name="color", through="gradient")
        join(coloured, stone)
    """,
    related=("ray_value", "group_by_nearness", "transfer_attribute"),
)
def nearest_value(of: str, p: str, reach: str, on: str, field: str) -> str:
    """Something about the nearest place of another geometry."""
    return f"{of}.{on}({p}, {reach}).{field}"


@value_node(
    "picture_value",
    (
        OF,
        Operand(
            "uv",
            {"formula": "vec2(0.5 + position.x, 0.5 - position.z)"},
            "where, from 0 to 1 across and up the picture",
        ),
        Choice(
            "part",
            "x",
            "what is taken",
            options={"x": "grey, or red", "y": "green", "z": "blue", "w": "opacity", "all": "all four, as a colour"},
        ),
    ),
    ("image", "texture", "height", "mask", "sample"),
    example="""
        chart = read_picture(picture="depth_chart", points=8)
        depth = picture_value(part="x")
        tile = grid(cells=[80, 80])
        known = set_attribute(tile, source=chart, name="depth", value=depth)
        displace(known, value="depth", amount=0.2, along="direction")
    """,
    related=("read_picture", "transfer_attribute", "nearest_value"),
)
def picture_value(of: str, uv: str, part: str) -> str:
    """What a picture of another geometry is at a place of it."""
    return f"{of}.at({uv})" + ("" if part == "all" else f".{part}")


@value_node(
    "ray_value",
    (
        OF,
        Operand("p", {"formula": "position"}, "where it begins"),
        Operand("direction", [0.0, -1.0, 0.0], "where it goes"),
        Operand("reach", 1000000.0, "how far it goes, in m"),
        FIELD,
    ),
    ("cast", "hit"),
    example="""
        up = ray_value(direction=[0, 1, 0], reach=1)
        seabed = grid(cells=[50, 50])
        stone = transform(geodesic_sphere(radius=0.25), move=[0.1, 0.4, 0])
        seen = set_attribute(seabed, source=stone, name="free", value=up)
        coloured = remap(seen, value="free", name="color", through="gradient")
        join(coloured, stone)
    """,
    related=("raycast", "ray_hits", "nearest_value"),
)
def ray_value(of: str, p: str, direction: str, reach: str, field: str) -> str:
    """Something about the first place that a ray hits."""
    return f"{of}.ray({p}, {direction}, {reach}).{field}"
