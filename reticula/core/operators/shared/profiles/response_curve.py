"""Response curves: a function of 0..1, given by points that the artist drags."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, ClassVar

from reticula.core.language.profiles import Response
from reticula.core.operators.declaration.parameters import Number, Parameter
from reticula.core.operators.shared.profiles.points import checked_points

__all__ = ["Response", "ResponseCurve"]


@dataclass(frozen=True)
class ResponseCurve(Parameter):
    """Points (x, y) or (x, y, step) with x in 0..1, in order of x; two at one place are a jump. The step says how the
    curve goes on from the point: smooth (usual), straight or constant. Resolves to a Response. ``soft`` is the range
    of y that is drawn.
    """

    soft: tuple[float, float] = (0.0, 2.0)
    low: float = 0.0
    widget: ClassVar[str] = "response curve"
    python: ClassVar[str] = "Sequence[Sequence[Any]]"

    def check_plain(self, value: Any) -> list[list[Any]]:
        x, y = Number(self.name, 0.0, "", low=0.0, high=1.0), Number(self.name, 0.0, "", low=self.low)
        return checked_points(self, value, "points (x, y)", (x, y), Response.usual)

    def resolve(self, value: Any, context: Any) -> Response:
        return Response(value)

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "soft": list(self.soft), "low": self.low}
