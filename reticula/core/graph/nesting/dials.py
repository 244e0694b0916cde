"""Dials: the parameters of a graph. A dial describes itself as a parameter of an operator does, and checks as one."""

from __future__ import annotations

import ast
import math
from collections.abc import Mapping
from copy import deepcopy
from dataclasses import dataclass
from typing import Any, cast

import numpy as np

from reticula.core.errors import GraphError, ParameterError
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.language.parse import Parsed, parse, written_names
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    Context,
    GroupName,
    Handle,
    Integer,
    Names,
    Number,
    OnElements,
    Parameter,
    PerElement,
    Selection,
    Shape,
    Text,
    Toggle,
    Vector,
)
from reticula.core.operators.scripting.controls import Code, Color
from reticula.core.operators.shared.gradient import ColorGradient
from reticula.core.operators.shared.picked import Picked, Places
from reticula.core.operators.shared.response_curve import ResponseCurve

__all__ = [
    "DIAL_TYPES",
    "DialParameter",
    "bound_dial",
    "close_formula",
    "dial_of",
    "dial_values",
    "is_bound",
    "parameter_of_dial",
    "substitute_dials",
]

Dial = Mapping[str, Any]
ONCE = (Number, Vector, Toggle, Choice)
"""Parameters whose formulas are worked out where the dial is set; others are handed on as they are."""
KEPT = ("soft", "low", "high", "step", "unit", "size", "whole", "options", "on", "of", "type", "kind", "new")
"""What a dial takes over from the parameter that it was made of. The parameter's ``type`` becomes ``holds``."""


def _bound(dial: Dial, name: str, otherwise: float) -> float:
    value = dial.get(name)
    return otherwise if value is None else float(value)


def _handle(dial: Dial, unit: str = "", default: Any = ()) -> Handle | None:
    """How a dial is dragged: as the parameter was that it was made of; three numbers in m are a place."""
    told = dial.get("handle")
    if told:
        return Handle(told["shape"], (), told.get("space", "own"))
    return Handle("place") if unit == "m" and isinstance(default, list) and len(default) == 3 else None


def parameter_of_dial(name: str, dial: Dial) -> Parameter:
    """Return the parameter that a dial stands for, without regard to where it is shown."""
    default, help, unit = dial.get("default", dial["value"]), dial.get("help", ""), dial.get("unit", "")
    low, high = _bound(dial, "low", -math.inf), _bound(dial, "high", math.inf)
    soft = cast(tuple[float, float], tuple(dial.get("soft") or (0.0, 1.0)))
    step, of, on = dial.get("step", 0.01), dial.get("of", "geo"), dial.get("on", "face")
    match dial["type"]:
        case "number":
            return Number(name, default, help, unit, soft=soft, low=low, high=high, step=step)
        case "integer":
            return Integer(name, default, help, unit, soft=soft, low=low, high=high, step=dial.get("step", 1))
        case "toggle":
            return Toggle(name, default, help)
        case "vector":
            handle = _handle(dial, unit, default)
            return Vector(
                name, default, help, unit, soft=soft, low=low, whole=dial.get("whole", False), step=step, handle=handle
            )
        case "color":
            return Color(name, default, help)
        case "choice":
            options = {entry["value"]: entry.get("help", "") for entry in dial.get("options", [])}
            return Choice(name, default, help, options=options)
        case "text":
            return Text(name, default, help)
        case "new name":
            return GroupName(name, default, help, optional=True)
        case "attribute":
            return AttributeName(name, default, help, optional=True, of=of)
        case "names":
            return Names(name, default, help, of=of, optional=True)
        case "shape":
            return Shape(name, default, help)
        case "where":
            return Selection(name, default, help, on=on, of=of)
        case "varying":
            return PerElement(
                name, default, help, unit, on=on, of=of, type=dial.get("holds", "number"), soft=soft, low=low,
                handle=_handle(dial),
            )  # fmt: skip
        case "response curve":
            return ResponseCurve(name, default, help, soft=soft, low=_bound(dial, "low", 0.0))
        case "gradient":
            return ColorGradient(name, default, help)
        case "picked":
            return Picked(name, default, help, on=on, of=of)
        case "places":
            return Places(name, default, help, unit, handle=Handle("places"))
        case "script":
            return Code(name, default, help)
    raise GraphError(f"the dial '{name}' has the type '{dial['type']}'; there are {', '.join(DIAL_TYPES)}")


DIAL_TYPES = (
    "number", "integer", "toggle", "vector", "color", "choice", "text", "new name", "attribute", "names", "shape", "where",
    "varying", "response curve", "gradient", "picked", "places", "script",
)  # fmt: skip


@dataclass(frozen=True)
class DialParameter(Parameter):
    """A dial as a parameter of the operator that a graph is. Resolves to what the graph inside gets: plain JSON data."""

    inner: Parameter = None  # type: ignore[assignment]
    section: str = ""

    def check(self, value: Any) -> Any:
        return self.inner.check(value)

    def resolve(self, value: Any, context: Context) -> Any:
        if isinstance(self.inner, ONCE):
            once = self.inner.resolve(value, context)
            return once.tolist() if isinstance(once, (np.ndarray, np.generic)) else once
        if isinstance(self.inner, Selection):
            return close_formula(value, context.dials, context.ties) if value.strip() else value
        if isinstance(value, Mapping) and "formula" in value:
            return {"formula": close_formula(value["formula"], context.dials, context.ties)}
        return value

    def reads(self, value: Any) -> frozenset[str]:
        return self.inner.reads(value)

    def ties(self, value: Any) -> frozenset[tuple[str, str]]:
        return self.inner.ties(value)

    @property
    def formula_type(self) -> str:
        return self.inner.formula_type

    def describe(self) -> dict[str, Any]:
        return {**self.inner.describe(), "section": self.section, "shown_when": super().describe()["shown_when"]}


def dial_of(name: str, dial: Dial) -> DialParameter:
    """Return a dial as a parameter; raise ParameterError if its default does not fit it."""
    inner = parameter_of_dial(name, dial)
    rule = dial.get("shown_when")
    shown = (rule["dial"], rule["value"]) if rule else None
    made = DialParameter(
        name, inner.default, inner.help, inner.unit, shown, inner=inner, section=dial.get("section", "")
    )
    made.check(made.default)
    return made


def bound_dial(parameter: Parameter, value: Any, siblings: Mapping[str, Any], of: str = "geo") -> dict[str, Any]:
    """Return the dial that a parameter with this value becomes; raise GraphError for one that can be none."""
    told = parameter.describe()
    kind = told["widget"]
    if kind not in DIAL_TYPES:
        raise GraphError(f"'{parameter.name}' cannot be a dial: it is a {kind}", parameter=parameter.name)
    kept = {key: deepcopy(told[key]) for key in KEPT if told.get(key) not in (None, "", [])}
    if "type" in kept:
        holds = kept.pop("type")
        kept["holds"] = "any" if holds == "as chosen" else holds
    if isinstance(parameter, (OnElements, Picked)):
        kept["on"] = kept["on"] if kept["on"] in KINDS else siblings.get(kept["on"], "face")
    if "of" in kept:
        kept["of"] = of
    if parameter.handle and kind in ("vector", "varying"):
        kept["handle"] = {"shape": parameter.handle.shape, "space": parameter.handle.space}
    return {"type": kind, "value": deepcopy(value), "help": parameter.help, **kept}


# ---- values


def dial_values(document: Mapping[str, Any], given: Mapping[str, Any] | None = None) -> dict[str, Any]:
    """Return the dials' values, some replaced by ``given``; raise GraphError if one does not exist or does not fit."""
    dials = document.get("dials", {})
    for name in given or {}:
        if name not in dials:
            raise GraphError(f"there is no dial '{name}'; the graph has {', '.join(dials) or 'none'}")
    return {name: _dial_value(name, dial, (given or {}).get(name, dial["value"])) for name, dial in dials.items()}


def _dial_value(name: str, dial: Dial, value: Any) -> Any:
    if dial["type"] == "toggle" and not isinstance(value, bool):
        raise GraphError(f"the dial '{name}' takes true or false, not {value!r}")
    if dial["type"] not in ("number", "integer"):
        try:
            return parameter_of_dial(name, dial).check(value)
        except ParameterError as error:
            raise GraphError(f"the dial '{name}': {str(error).removeprefix(f'{name}: ')}") from None
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not math.isfinite(value):
        raise GraphError(f"the dial '{name}' takes a number, not {value!r}")
    low, high = dial.get("low"), dial.get("high")
    if (low is not None and value < low) or (high is not None and value > high):
        raise GraphError(f"the dial '{name}' cannot be {value:g}; it goes from {low} to {high}")
    if dial["type"] == "integer":
        if value != int(value):
            raise GraphError(f"the dial '{name}' takes a whole number, not {value:g}")
        return int(value)
    return float(value)


# ---- parameters that are bound to a dial


def is_bound(value: Any) -> bool:
    """Whether a stored value is bound to a dial: ``{"dial": name}``."""
    return isinstance(value, Mapping) and set(value) == {"dial"} and isinstance(value["dial"], str)


def substitute_dials(parameters: Mapping[str, Any], dials: Mapping[str, Any]) -> dict[str, Any]:
    """Return parameters with the dials' values in place of what is bound to them; controls of scripts too."""
    made: dict[str, Any] = {}
    for name, value in parameters.items():
        if is_bound(value):
            made[name] = dials[value["dial"]]
        elif isinstance(value, Mapping) and any(is_bound(one) for one in value.values()):
            made[name] = {key: dials[one["dial"]] if is_bound(one) else one for key, one in value.items()}
        else:
            made[name] = value
    return made


class _ValueSubstitution(ast.NodeTransformer):
    def __init__(self, dials: Mapping[str, Any], ties: Mapping[str, Mapping[str, Any]], own: set[str]) -> None:
        self.dials, self.ties, self.own = dials, ties, own

    def visit_Name(self, node: ast.Name) -> ast.AST:
        if isinstance(node.ctx, ast.Store) or node.id in self.own or node.id not in self.dials:
            return node
        return _literal(self.dials[node.id]) or node

    def visit_Attribute(self, node: ast.Attribute) -> ast.AST:
        if isinstance(node.value, ast.Name) and node.attr in self.ties.get(node.value.id, {}):
            return _literal(self.ties[node.value.id][node.attr]) or node
        return self.generic_visit(node)


def _literal(value: Any) -> ast.expr | None:
    """Return a plain value as an expression; None if it has none."""
    if isinstance(value, (list, tuple)):
        return ast.parse(f"vec{len(value)}({', '.join(map(repr, value))})", mode="eval").body
    if isinstance(value, (bool, int, float, str)):
        return ast.parse(repr(value), mode="eval").body
    return None


def close_formula(source: str, dials: Mapping[str, Any], ties: Mapping[str, Mapping[str, Any]]) -> str:
    """Return a formula in which values stand in place of dials and other nodes' parameters.

    It means the same inside of a graph, where those do not exist. Raises FormulaError if it cannot be read.
    """
    parsed: Parsed = deepcopy(parse(source))
    own = written_names(parsed)
    closing = _ValueSubstitution(dials, ties, own)
    lines = [ast.unparse(closing.visit(line)) for line in parsed.statements]
    assert parsed.value is not None
    return "\n".join([*lines, ast.unparse(closing.visit(parsed.value))])
