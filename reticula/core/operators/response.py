"""Response curves: a smooth function of 0..1, given by points that the artist drags."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np
from scipy.interpolate import PchipInterpolator

from reticula.core.arrays import AnyArray, Floats
from reticula.core.operators.parameters import Number, Parameter

__all__ = ["Response", "ResponseCurve"]

MOST_POINTS = 64


class Response:
    """A function through ``points (N, 2)``, monotone between neighbours; level before the first and after the last.

    Fritsch & Carlson, "Monotone piecewise cubic interpolation", SIAM J. Numer. Anal. 17(2), 1980.
    """

    def __init__(self, points: Sequence[Sequence[float]]) -> None:
        table = np.asarray(points, np.float64)
        self.x, self.y = table[:, 0], table[:, 1]
        self._between = PchipInterpolator(self.x, self.y) if len(table) > 1 else None

    def __call__(self, at: AnyArray) -> Floats:
        """Return the values at ``at (N,)``."""
        if self._between is None:
            return np.full(np.shape(at), self.y[0])
        return np.asarray(self._between(np.clip(at, self.x[0], self.x[-1])), np.float64)

    @property
    def level(self) -> bool:
        """Whether it is 1 everywhere."""
        return bool((self.y == 1.0).all())


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
