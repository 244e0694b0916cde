"""The parameters of a script: its text, and the values of the controls that the text declares."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar

from reticula.core.errors import FormulaError, ParameterError
from reticula.core.language.controls import Control, Declared, declared
from reticula.core.language.limits import LONGEST
from reticula.core.language.parse import members_read, names_read
from reticula.core.operators.declaration.parameters import Choice, Context, Integer, Number, Parameter, Toggle, Vector
from reticula.core.operators.shared.profiles.gradient import ColorGradient
from reticula.core.operators.shared.profiles.response_curve import ResponseCurve

__all__ = ["Code", "Controls", "Source", "declared_or_none", "parameter_of"]

LARGEST = 100_000


@dataclass(frozen=True)
class Source:
    """A script's text with what it may read besides its inputs."""

    text: str
    dials: Mapping[str, Any]
    ties: Mapping[str, Mapping[str, Any]]


def declared_or_none(text: Any) -> Declared | None:
    """Return what a script declares, or None while its text is broken."""
    try:
        return declared(str(text))
    except FormulaError:
        return None


@dataclass(frozen=True)
class Code(Parameter):
    """The text of a script. Resolves to a Source."""

    widget: ClassVar[str] = "script"

    def check_plain(self, value: Any) -> str:
        if not isinstance(value, str) or len(value) > LONGEST:
            self.fail(f"takes a text of up to {LONGEST:,} letters")
        return str(value)

    def resolve(self, value: Any, context: Context) -> Source:
        return Source(value, context.dials, context.ties)

    def reads(self, value: Any) -> frozenset[str]:
        return names_read(value)

    def ties(self, value: Any) -> frozenset[tuple[str, str]]:
        return members_read(value)


def parameter_of(control: Control) -> Parameter:
    """Return the parameter that shows and checks a control."""
    name, help = control.name, control.help or f"declared in the script, line {control.place[0]}"
    low = -float("inf") if control.low is None else float(control.low)
    high = float("inf") if control.high is None else float(control.high)
    soft = (low, high) if control.low is not None else (-1.0, 1.0)
    match control.what:
        case "number":
            step = 0.01 if control.low is None else max((high - low) / 200, 1e-6)
            return Number(name, control.default, help, control.unit, soft=soft, low=low, high=high, step=step)
        case "integer":
            whole = soft if control.low is not None else (0.0, 10.0)
            return Integer(name, control.default, help, control.unit, soft=whole, low=low, high=high)
        case "toggle":
            return Toggle(name, control.default, help)
        case "choice":
            return Choice(name, control.default, help, options=dict.fromkeys(control.options, ""))
        case "vector":
            return Vector(name, control.default, help, control.unit)
        case "color":
            return Color(name, control.default, help)
        case "curve":
            between = (low, high) if control.low is not None else (0.0, 1.0)
            return ResponseCurve(name, control.default, help, soft=between, low=low)
    return ColorGradient(name, control.default, help)


@dataclass(frozen=True)
class Color(Vector):
    """A colour: red, green, blue and alpha, linear light in 0..1."""

    soft: tuple[float, float] = (0.0, 1.0)
    widget: ClassVar[str] = "color"


@dataclass(frozen=True)
class Controls(Parameter):
    """Values of a script's controls that differ from their defaults, by name. Resolves to the values of all of them."""

    of: str = "source"
    widget: ClassVar[str] = "controls"
    python: ClassVar[str] = "Mapping[str, Any]"

    def check_plain(self, value: Any) -> dict[str, Any]:
        if not isinstance(value, Mapping) or any(not isinstance(name, str) for name in value):
            self.fail(f"takes values by name, not {value!r}")
        try:
            text = json.dumps(dict(value))
        except (TypeError, ValueError):
            self.fail("takes plain values by name")
        if len(text) > LARGEST:
            self.fail(f"takes up to {LARGEST:,} letters of values")
        return dict(value)

    def check(self, value: Any) -> Any:
        return self.check_plain(value)

    def resolve(self, value: Any, context: Context) -> dict[str, Any]:
        known = declared_or_none(context.values[self.of].text)
        resolved = dict(value) if known is None else {}
        for control in known.controls if known else ():
            if control.name in value:
                resolved[control.name] = self.value_of(control, value[control.name], context)
        for name in value:
            if known is not None and name not in {control.name for control in known.controls}:
                resolved[name] = value[name]
        return resolved

    def value_of(self, control: Control, value: Any, context: Context) -> Any:
        parameter = parameter_of(control)
        try:
            return parameter.resolve(parameter.check(value), context)
        except ParameterError as error:
            raise ParameterError(self.name, f"{error}; set it anew or put it back to its default") from None

    def reads(self, value: Any) -> frozenset[str]:
        return frozenset(name for text in _formulas(value) for name in names_read(text))

    def ties(self, value: Any) -> frozenset[tuple[str, str]]:
        return frozenset(pair for text in _formulas(value) for pair in members_read(text))


def _formulas(value: Mapping[str, Any]) -> list[str]:
    return [
        one["formula"] for one in value.values() if isinstance(one, Mapping) and isinstance(one.get("formula"), str)
    ]
