"""Value nodes that compute."""

from __future__ import annotations

from reticula.core.language.functions import FUNCTIONS, OPERATORS
from reticula.core.operators.declaration.parameters import Choice, Toggle
from reticula.core.operators.shared.value_node import Operand, value_node

__all__: list[str] = []

SYMBOLS = ("+", "-", "*", "/", "//", "%", "**")
SKIPPED = (
    "number",
    "noise",
    "noise3",
    "cells",
    "cell_number",
    "remap",
    "rescale",
    "mix",
    "vec2",
    "vec3",
    "vec4",
    "mat4",
)


def _arity(usage: str) -> int:
    return usage.count(",") + 1


WORKS = {
    **{symbol: OPERATORS[symbol].summary for symbol in SYMBOLS},
    **{
        name: f"{f.usage}: {f.summary}" for name, f in FUNCTIONS.items() if name not in SKIPPED and _arity(f.usage) <= 3
    },
}
TWO = [*SYMBOLS, *(name for name in WORKS if name in FUNCTIONS and _arity(FUNCTIONS[name].usage) >= 2)]
THREE = [name for name in WORKS if name in FUNCTIONS and _arity(FUNCTIONS[name].usage) == 3]


@value_node(
    "maths_value",
    (
        Choice("how", "+", "what is worked out", options=WORKS),
        Operand("a", 0.0, "first value"),
        Operand("b", 0.0, "second value", shown_when=("how", TWO)),
        Operand("c", 0.0, "third value", shown_when=("how", THREE)),
    ),
    ("add", "subtract", "multiply", "divide", "sine", "power", "dot", "cross", "length", "math"),
    example="""
        wave = maths_value(how="sin", a="length(position) * 20")
        tile = grid(cells=[40, 40])
        displace(tile, value=wave, amount=0.06, along="direction")
    """,
    related=("formula_value", "compare_value", "mix_value"),
)
def maths_value(how: str, a: str, b: str, c: str) -> str:
    """Arithmetic or any function of the language."""
    if how in SYMBOLS:
        return f"{a} {how} {b}"
    return f"{how}({', '.join((a, b, c)[: _arity(FUNCTIONS[how].usage)])})"


@value_node(
    "compare_value",
    (
        Choice(
            "how",
            ">",
            "the comparison",
            options={
                ">": "greater",
                ">=": "at least",
                "<": "less",
                "<=": "at most",
                "==": "equal",
                "!=": "different",
                "and": "both",
                "or": "one or both",
                "not": "the other of yes and no",
            },
        ),
        Operand("a", 0.0, "first value"),
        Operand("b", 0.0, "second value", shown_when=("how", [">", ">=", "<", "<=", "==", "!=", "and", "or"])),
    ),
    ("greater", "less", "equal", "and", "or", "not", "condition"),
    example="""
        high = compare_value(how=">", a="noise(position * 5)", b=0.0)
        tile = grid(cells=[30, 30])
        extrude(tile, where=high, distance=0.08)
    """,
    related=("maths_value", "switch_value", "group"),
)
def compare_value(how: str, a: str, b: str) -> str:
    """Yes or no, from two numbers, or from two answers."""
    return f"not {a}" if how == "not" else f"{a} {how} {b}"


@value_node(
    "mix_value",
    (
        Operand("a", 0.0, "value where t is 0"),
        Operand("b", 1.0, "value where t is 1"),
        Operand("t", 0.5, "from 0 to 1"),
    ),
    ("blend", "interpolate"),
    example="""
        height = mix_value(a=0.02, b=0.3, t="fraction")
        tile = grid(cells=[8, 8])
        extrude(tile, together=False, distance=height)
    """,
    related=("remap_value", "switch_value", "maths_value"),
)
def mix_value(a: str, b: str, t: str) -> str:
    """A value between two others."""
    return f"mix({a}, {b}, {t})"


@value_node(
    "remap_value",
    (
        Operand("x", {"formula": "position.y"}, "the value"),
        Operand("low", 0.0, "its lowest"),
        Operand("high", 1.0, "its highest"),
        Operand("to_low", 0.0, "what the lowest becomes"),
        Operand("to_high", 1.0, "what the highest becomes"),
        Toggle("inside", True, "values beyond the range stay at its ends; off: they go on beyond it"),
    ),
    ("range", "fit", "map", "clamp", "rescale"),
    example="""
        height = remap_value(x="position.x", low=-0.5, high=0.5, to_low=0.02, to_high=0.3)
        tile = grid(cells=[10, 10])
        extrude(tile, together=False, distance=height, inset=0.01)
    """,
    related=("remap", "mix_value", "formula_value"),
)
def remap_value(x: str, low: str, high: str, to_low: str, to_high: str, inside: bool) -> str:
    """A value moved from one range to another, kept inside it or not."""
    return f"{'remap' if inside else 'rescale'}({x}, {low}, {high}, {to_low}, {to_high})"


@value_node(
    "switch_value",
    (
        Operand("condition", True, "yes or no"),
        Operand("yes", 1.0, "the value if yes"),
        Operand("no", 0.0, "the value if no"),
    ),
    ("if", "choose", "select"),
    example="""
        lift = switch_value(condition="index % 2 == 0", yes=0.2, no=0.05)
        tile = grid(cells=[7, 7])
        extrude(tile, together=False, distance=lift)
    """,
    related=("compare_value", "switch", "mix_value"),
)
def switch_value(condition: str, yes: str, no: str) -> str:
    """One of two values."""
    return f"{yes} if {condition} else {no}"


@value_node(
    "formula_value",
    (
        Operand("formula", {"formula": "a * b"}, "a formula in which a, b and c are the values below"),
        Operand("a", 0.0, "value of a"),
        Operand("b", 0.0, "value of b"),
        Operand("c", 0.0, "value of c"),
    ),
    ("expression", "text"),
    example="""
        height = formula_value(formula="a * sin(b * length(position))", a=0.08, b=20)
        tile = grid(cells=[50, 50])
        displace(tile, value=height, amount=1, along="direction")
    """,
    related=("maths_value", "script", "set_attribute"),
)
def formula_value(formula: str, a: str, b: str, c: str) -> str:
    """A formula of up to three wired values."""
    return formula
