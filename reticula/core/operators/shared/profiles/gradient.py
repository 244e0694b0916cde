"""Colour gradients: a colour for every number in 0..1, given by stops."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, ClassVar

from reticula.core.language.profiles import Gradient
from reticula.core.operators.declaration.parameters import Number, Parameter
from reticula.core.operators.shared.profiles.points import checked_points

__all__ = ["ColorGradient", "Gradient"]


@dataclass(frozen=True)
class ColorGradient(Parameter):
    """Stops (x, red, green, blue, alpha) in order of x, or these and a step: how the gradient goes on from the stop,
    straight (usual), smooth or constant; two at one place are a jump. Colours are linear light. Resolves to a
    Gradient.
    """

    widget: ClassVar[str] = "gradient"
    python: ClassVar[str] = "Sequence[Sequence[Any]]"

    def check_plain(self, value: Any) -> list[list[Any]]:
        part = Number(self.name, 0.0, "", low=0.0, high=1.0)
        return checked_points(self, value, "stops (x, red, green, blue, alpha)", (part,) * 5, Gradient.usual)

    def resolve(self, value: Any, context: Any) -> Gradient:
        return Gradient(value)
