"""Value nodes that begin a chain: numbers, vectors, what an element has."""

from __future__ import annotations

from reticula.core.operators.declaration.parameters import Choice, FormulaText
from reticula.core.operators.shared.value_node import Operand, value_node

__all__: list[str] = []


@value_node("number_value", (Operand("value", 1.0, "the number, or a formula"),), ("constant",))
def number_value(value: str) -> str:
    """One value, to be used in several places."""
    return value


@value_node(
    "vector_value",
    tuple(Operand(letter, 0.0, f"the {letter} component") for letter in "xyz"),
    ("position", "direction", "combine"),
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
)
def component_value(v: str, part: str) -> str:
    """Some components of a vector."""
    return f"{v}.{part}"


@value_node(
    "attribute_value",
    (FormulaText("name", "position", "an attribute, a built-in value, or e.g. mean(here.points.cover)"),),
    ("read", "get"),
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
)
def index_value(what: str) -> str:
    """The number of the element, as it is or as a fraction, or how many there are."""
    return what
