"""Response curves: a smooth function of 0..1, given by points that the artist drags."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

from reticula.core.language.profiles import Response
from reticula.core.operators.declaration.parameters import Number, Parameter

__all__ = ["Response", "ResponseCurve"]

MOST_POINTS = 64


@dataclass(frozen=True)
class ResponseCurve(Parameter):
    """Points (x, y) with x in 0..1, in order of x. Resolves to a Response. ``soft`` is the range of y that is drawn."""

    soft: tuple[float, float] = (0.0, 2.0)
    low: float = 0.0
    widget: ClassVar[str] = "response curve"

    def check_plain(self, value: Any) -> list[list[float]]:
        pairs = isinstance(value, (list, tuple, np.ndarray)) and 1 <= len(value) <= MOST_POINTS
        if not pairs or any(not hasattr(point, "__len__") or len(point) != 2 for point in value):
            self.fail(f"takes 1 to {MOST_POINTS} points (x, y), not {value!r}")
        x, y = Number(self.name, 0.0, "", low=0.0, high=1.0), Number(self.name, 0.0, "", low=self.low)
        points = [[x.check_plain(point[0]), y.check_plain(point[1])] for point in value]
        if any(b[0] - a[0] < 1e-6 for a, b in zip(points, points[1:], strict=False)):
            self.fail("takes points in order of x, no two at the same place")
        return points

    def resolve(self, value: Any, context: Any) -> Response:
        return Response(value)

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "soft": list(self.soft), "low": self.low}
