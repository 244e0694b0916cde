"""What is evaluated on each element: which ones, and values that vary."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar, cast

import numpy as np

from reticula.core.errors import FormulaError, ParameterError
from reticula.core.geometry.mesh.attribute_types import TYPES
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.language.parse import members_read, names_read
from reticula.core.operators.declaration.parameters.base import Blend, Context, Parameter
from reticula.core.operators.declaration.parameters.conditions import (
    Condition,
    between,
    each_of,
    is_any_value,
    is_number,
)

__all__ = ["OnElements", "PerElement", "Selection"]


@dataclass(frozen=True)
class OnElements(Parameter):
    """Base of parameters that are evaluated on each element of a kind, fixed or named by a sibling parameter.

    ``otherwise`` is the kind to take where the geometry has no element of that kind.
    """

    on: str = "face"
    of: str = "geo"
    otherwise: str = ""

    def kind(self, context: Context) -> Kind:
        kind = self.on if self.on in KINDS else context.values[self.on]
        if self.otherwise and not context.geo(self.of).topology.count(cast(Kind, kind)):
            kind = self.otherwise
        return cast(Kind, kind)

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "on": self.on, "of": self.of}


@dataclass(frozen=True)
class Selection(OnElements):
    """Which elements: a group name or a formula that gives a flag; empty means all. Resolves to flags ``(N,)``."""

    widget: ClassVar[str] = "where"
    takes_wire: ClassVar[bool] = True

    @classmethod
    def each(cls, on: str, help: str, **more: Any) -> Selection:
        return cls("where", "", help, on=on, **more)

    def check(self, value: Any) -> str:
        if isinstance(value, Mapping) and set(value) == {"formula"}:
            value = value["formula"]
        if not isinstance(value, str):
            self.fail(f"takes a group name or a formula as text, not {value!r}")
        return str(value)

    def reads(self, value: Any) -> frozenset[str]:
        return names_read(value) if value.strip() else frozenset()

    def ties(self, value: Any) -> frozenset[tuple[str, str]]:
        return members_read(value) if value.strip() else frozenset()

    def resolve(self, value: Any, context: Context) -> Any:
        geo, kind = context.geo(self.of), self.kind(context)
        if not value.strip():
            return np.ones(geo.topology.count(kind), bool)
        try:
            return context.evaluate(value, geo, kind, "flag").array
        except FormulaError as error:
            raise ParameterError(self.name, error.plain, cause=error) from None


@dataclass(frozen=True)
class PerElement(OnElements):
    """A value that may vary over the elements: a number or vector, or a formula. Resolves to ``(N, ...)``.

    ``type`` is ``"as chosen"`` where the sibling parameter ``type`` decides (``automatic``: the formula does); then
    the operator receives a Values object. ``"any"`` is whatever the formula gives, as a Values object too.
    """

    type: str = "number"
    soft: tuple[float, float] = (0.0, 1.0)
    low: float = -math.inf
    step: float = 0.01
    widget: ClassVar[str] = "varying"
    takes_formula: ClassVar[bool] = True

    @property
    def annotation(self) -> str:
        return "float | str" if self.type == "number" else "ArrayLike | str"

    @property
    def conditions(self) -> Sequence[Condition]:
        if self.type in ("as chosen", "any"):
            return (is_any_value,)
        size = TYPES[self.type].size
        return (is_number, between(self.low)) if size == 1 else (each_of(size, (is_number,)),)

    @property
    def blend(self) -> Blend:
        return "real"

    def resolve(self, value: Any, context: Context) -> Any:
        geo, kind = context.geo(self.of), self.kind(context)
        source = value["formula"] if isinstance(value, dict) else repr(value)
        wanted: str | None = context.values["type"] if self.type == "as chosen" else self.type
        wanted = None if wanted in ("automatic", "any") else wanted
        try:
            found = context.evaluate(source, geo, kind, wanted)
        except FormulaError as error:
            raise ParameterError(self.name, error.plain, cause=error) from None
        if self.low > -math.inf and found.array.size and found.array.min() < self.low:
            bad = int(found.array.argmin())
            self.fail(f"gives {found.array[bad]:g} at {kind} {bad}; {self.low:g} is the least")
        return found if self.type in ("as chosen", "any") else found.array

    def describe(self) -> dict[str, Any]:
        low = self.low if math.isfinite(self.low) else None
        return {**super().describe(), "type": self.type, "soft": list(self.soft), "low": low, "step": self.step}
