"""Numbers, whole numbers, vectors, and yes or no."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

from reticula.core.operators.declaration.parameters.base import Context, Parameter

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

    def check_plain(self, value: Any) -> float:
        if isinstance(value, bool) or not isinstance(value, (int, float, np.integer, np.floating)):
            self.fail(f"takes a number, not {value!r}")
        try:
            number = float(value)
        except OverflowError:
            number = math.inf
        if not math.isfinite(number):
            self.fail("takes a finite number")
        if not self.low <= number <= self.high:
            self.fail(f"{number:g} is outside of {self.low:g} to {self.high:g}")
        return number

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

    def check_plain(self, value: Any) -> int:
        number = super().check_plain(value)
        if number != int(number):
            self.fail(f"takes a whole number, not {number:g}")
        return int(number)

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

    def check_plain(self, value: Any) -> list[float]:
        if isinstance(value, (str, bytes)) or not hasattr(value, "__len__") or len(value) != self.size:
            self.fail(f"takes {self.size} numbers, not {value!r}")
        high = MOST_WHOLE if self.whole else math.inf
        part = (Integer if self.whole else Number)(self.name, 0, "", low=self.low, high=high)
        return [part.check_plain(component) for component in value]

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

    def check_plain(self, value: Any) -> bool:
        if not isinstance(value, (bool, np.bool_)):
            self.fail(f"takes yes or no (true or false), not {value!r}")
        return bool(value)
