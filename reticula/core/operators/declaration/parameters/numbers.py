"""Numbers, whole numbers, vectors, and yes or no."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from reticula.core.operators.declaration.parameters.base import Blend, Context, Parameter
from reticula.core.operators.declaration.parameters.conditions import (
    Condition,
    between,
    each_of,
    is_flag,
    is_number,
    is_whole,
)

__all__ = ["Integer", "Number", "Toggle", "Vector"]


MOST_WHOLE = 100_000_000
"""Largest whole component of a vector: they count elements, and no more fit into memory."""


@dataclass(frozen=True)
class Number(Parameter):
    """A number. ``low`` and ``high`` are hard limits; ``soft`` is the range that a slider offers."""

    soft: tuple[float, float] = (0.0, 1.0)
    low: float = -math.inf
    high: float = math.inf
    step: float = 0.01
    widget: ClassVar[str] = "number"
    python: ClassVar[str] = "float"
    takes_formula: ClassVar[bool] = True

    @property
    def conditions(self) -> Sequence[Condition]:
        return (is_number, between(self.low, self.high))

    @property
    def blend(self) -> Blend:
        return "real"

    def resolve(self, value: Any, context: Context) -> Any:
        """Return the number; a default that goes by the shape is at least the lowest allowed, also without size."""
        if value == self.default and isinstance(value, dict) and "formula" in value:
            return self.check_plain(max(context.once(value["formula"], self.formula_type), self.low))
        return super().resolve(value, context)

    def describe(self) -> dict[str, Any]:
        limits = [limit if math.isfinite(limit) else None for limit in (self.low, self.high)]
        return {**super().describe(), "soft": list(self.soft), "low": limits[0], "high": limits[1], "step": self.step}


@dataclass(frozen=True)
class Integer(Number):
    """A whole number."""

    step: float = 1
    widget: ClassVar[str] = "integer"
    python: ClassVar[str] = "int"

    @property
    def conditions(self) -> Sequence[Condition]:
        return (*super().conditions, is_whole)

    @property
    def blend(self) -> Blend:
        return "whole"

    @property
    def formula_type(self) -> str:
        return "integer"


@dataclass(frozen=True)
class Vector(Parameter):
    """Two, three or four numbers."""

    soft: tuple[float, float] = (-1.0, 1.0)
    low: float = -math.inf
    whole: bool = False
    step: float = 0.01
    widget: ClassVar[str] = "vector"
    python: ClassVar[str] = "ArrayLike"
    takes_formula: ClassVar[bool] = True

    @property
    def size(self) -> int:
        return len(self.default)

    @property
    def formula_type(self) -> str:
        return f"vec{self.size}"

    @property
    def blend(self) -> Blend:
        return "whole" if self.whole else "real"

    @property
    def conditions(self) -> Sequence[Condition]:
        limits = between(self.low, MOST_WHOLE if self.whole else math.inf)
        return (each_of(self.size, (is_number, limits, is_whole) if self.whole else (is_number, limits)),)

    def describe(self) -> dict[str, Any]:
        low = self.low if math.isfinite(self.low) else None
        return {
            **super().describe(),
            "size": self.size,
            "soft": list(self.soft),
            "low": low,
            "whole": self.whole,
            "step": self.step,
        }


@dataclass(frozen=True)
class Toggle(Parameter):
    """Yes or no."""

    widget: ClassVar[str] = "toggle"
    python: ClassVar[str] = "bool"
    takes_wire: ClassVar[bool] = True

    @property
    def formula_type(self) -> str:
        return "flag"

    @property
    def conditions(self) -> Sequence[Condition]:
        return (is_flag,)
