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
)
def formula_value(formula: str, a: str, b: str, c: str) -> str:
    """A formula of up to three wired values."""
    return formula
