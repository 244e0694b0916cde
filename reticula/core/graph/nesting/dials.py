"""Dials: the parameters of a graph. A dial describes itself as a parameter of an operator does, and checks as one."""

from __future__ import annotations

from collections.abc import Mapping
from copy import deepcopy
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from reticula.core.errors import GraphError, ParameterError
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.graph.nesting.binding import close_formula
from reticula.core.graph.nesting.dial_types import DIAL_TYPES, Dial, check_following, parameter_of_dial, type_of_dial
from reticula.core.graph.time.keys import is_keyed
from reticula.core.graph.time.tables import is_following, stand_in
from reticula.core.operators.declaration.parameters import (
    Blend,
    Choice,
    Context,
    Number,
    OnElements,
    Parameter,
    Selection,
    Toggle,
    Vector,
)
from reticula.core.operators.shared.picked import Picked

__all__ = ["DialParameter", "bound_dial", "dial_of", "dial_values"]

ONCE = (Number, Vector, Toggle, Choice)
"""Parameters whose formulas are worked out where the dial is set; others are handed on as they are."""
KEPT = ("soft", "low", "high", "step", "unit", "size", "whole", "options", "on", "of", "type", "kind", "new")
"""What a dial takes over from the parameter that it was made of. The parameter's ``type`` becomes ``holds``."""


@dataclass(frozen=True)
class DialParameter(Parameter):
    """A dial as a parameter of the operator that a graph is. Resolves to what the graph inside gets: plain JSON
    data.
    """

    inner: Parameter = field(kw_only=True)

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

    @property
    def blend(self) -> Blend:
        return self.inner.blend

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
    _standing(name, dial, dial["value"])
    made.check(made.default)
    return made


def bound_dial(parameter: Parameter, value: Any, siblings: Mapping[str, Any], of: str = "geo") -> dict[str, Any]:
    """Return the dial that a parameter with this value becomes; raise GraphError for one that can be none.

    A dial that is a number holds one; of a number that is a formula, the dial holds the formula and hands it on.
    """
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
    if kind in ("number", "integer") and isinstance(value, Mapping) and not is_keyed(value):
        kind, kept = "varying", {**kept, "holds": "number", "on": "whole", "of": of}
    return {"type": kind, "value": deepcopy(value), "help": parameter.help, **kept}


def dial_values(document: Mapping[str, Any], given: Mapping[str, Any] | None = None) -> dict[str, Any]:
    """Return the dials' values, some replaced by ``given``; raise GraphError if one does not exist or does not fit."""
    dials = document.get("dials", {})
    for name in given or {}:
        if name not in dials:
            raise GraphError(f"there is no dial '{name}'; the graph has {', '.join(dials) or 'none'}")
    return {name: _dial_value(name, dial, (given or {}).get(name, dial["value"])) for name, dial in dials.items()}


def _standing(name: str, dial: Dial, value: Any) -> Any:
    """Return a plain value in place of one that differs from frame to frame; raise ParameterError if it cannot be."""
    if is_following(value):
        check_following(name, dial)
    return stand_in(name, value)


def _dial_value(name: str, dial: Dial, value: Any) -> Any:
    try:
        value = _standing(name, dial, value)
    except ParameterError as error:
        raise GraphError(f"the dial '{name}': {str(error).removeprefix(f'{name}: ')}") from None
    parameter = parameter_of_dial(name, dial)
    check = parameter.check_plain if type_of_dial(name, dial).plain else parameter.check
    try:
        return check(value)
    except ParameterError as error:
        raise GraphError(f"the dial '{name}': {str(error).removeprefix(f'{name}: ')}") from None
