"""Colour gradients: a colour for every number in 0..1, given by stops."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.language.profiles import Gradient
from reticula.core.operators.declaration.parameters import Number, Parameter

__all__ = ["ColorGradient", "Gradient", "linear_from_srgb"]

MOST_STOPS = 32


def linear_from_srgb(values: AnyArray) -> Floats:
    """Return linear light of sRGB values in 0..1. IEC 61966-2-1:1999."""
    given = np.asarray(values, np.float64)
    return np.where(given <= 0.04045, given / 12.92, ((given + 0.055) / 1.055) ** 2.4)


@dataclass(frozen=True)
class ColorGradient(Parameter):
    """Stops (x, red, green, blue, alpha) in order of x; colours are linear light. Resolves to a Gradient."""

    widget: ClassVar[str] = "gradient"

    def check_plain(self, value: Any) -> list[list[float]]:
        rows = isinstance(value, (list, tuple, np.ndarray)) and 1 <= len(value) <= MOST_STOPS
        if not rows or any(not hasattr(stop, "__len__") or len(stop) != 5 for stop in value):
            self.fail(f"takes 1 to {MOST_STOPS} stops of five numbers (x, red, green, blue, alpha), not {value!r}")
        part = Number(self.name, 0.0, "", low=0.0, high=1.0)
        stops = [[part.check_plain(number) for number in stop] for stop in value]
        if any(b[0] < a[0] for a, b in zip(stops, stops[1:], strict=False)):
            self.fail("takes stops in order of x")
        return stops

    def resolve(self, value: Any, context: Any) -> Gradient:
        return Gradient(value)
