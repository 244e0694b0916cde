"""Value nodes that begin a chain: numbers, vectors, what an element has."""

from __future__ import annotations

from reticula.core.operators.declaration.parameters import Choice, FormulaText
from reticula.core.operators.shared.value_node import Operand, value_node

__all__: list[str] = []


@value_node(
    "number_value",
    (Operand("value", 1.0, "the number, or a formula"),),
    ("constant",),
    example="""
        height = number_value(value=0.12)
        tile = grid(cells=[5, 5])
        extrude(tile, together=False, distance=height, inset=0.02)
    """,
    related=("vector_value", "formula_value"),
)
def number_value(value: str) -> str:
    """One value, to be used in several places."""
    return value


@value_node(
    "vector_value",
    tuple(Operand(letter, 0.0, f"the {letter} component") for letter in "xyz"),
    ("position", "direction", "combine"),
    example="""
        way = vector_value(x=0.0, y="0.1 * sin(position.x * 9)", z=0.0)
        strip = grid(cells=[40, 6])
        bent = formula_value(formula="position + a", a=way)
        set_attribute(strip, name="position", value=bent)
    """,
    related=("component_value", "number_value", "transform"),
)
def vector_value(x: str, y: str, z: str) -> str:
    """A vector from three numbers."""
    return f"vec3({x}, {y}, {z})"


@value_node(
    "component_value",
    (
        Operand("v", {"formula": "position"}, "the vector"),
        Choice(
            "part", "x", "which component", options=dict.fromkeys(("x", "y", "z", "w", "xy", "xz", "yz", "xyz"), "")
        ),
    ),
    ("split", "separate"),
    example="""
        height = component_value(v="noise3(position * 4)", part="y")
        tile = grid(cells=[40, 40])
        displace(tile, value=height, amount=0.15, along="direction")
    """,
    related=("vector_value", "maths_value", "attribute_value"),
)
def component_value(v: str, part: str) -> str:
    """Some components of a vector."""
    return f"{v}.{part}"


@value_node(
    "attribute_value",
    (FormulaText("name", "position", "an attribute, a built-in value, or e.g. mean(here.points.cover)"),),
    ("read", "get"),
    example="""
        tile = random_values(grid(cells=[9, 9]), name="lift", kind="face", high=0.25)
        lift = attribute_value(name="lift")
        extrude(tile, together=False, distance=lift)
    """,
    related=("set_attribute", "component_value", "index_value"),
)
def attribute_value(name: str) -> str:
    """A value that each element has."""
    return name.strip() or "0"


@value_node(
    "index_value",
    (
        Choice(
            "what",
            "index",
            "what is counted",
            options={
                "index": "number of the element, from 0",
                "fraction": "index as 0..1",
                "count": "how many elements there are",
            },
        ),
    ),
    ("number of the element", "fraction", "count"),
    example="""
        step = index_value(what="fraction")
        tile = grid(cells=[8, 8])
        extrude(tile, together=False, distance=step, amount=0.4)
    """,
    related=("attribute_value", "random_value", "mix_value"),
)
def index_value(what: str) -> str:
    """The number of the element, as it is or as a fraction, or how many there are."""
    return what
