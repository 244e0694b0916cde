"""Response curves and gradients as values of the language: a number or colour for each number."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from scipy.interpolate import PchipInterpolator

from reticula.core.arrays import AnyArray, Floats
from reticula.core.language.profile_kernels import gradients, responses

__all__ = ["Gradient", "Response", "profile_of"]


class Response:
    """A function through ``points (N, 2)``, monotone between neighbours; level before the first and after the last.

    Fritsch & Carlson, "Monotone piecewise cubic interpolation", SIAM J. Numer. Anal. 17(2), 1980.
    """

    type = "number"

    def __init__(self, points: Sequence[Sequence[float]]) -> None:
        table = np.asarray(points, np.float64)
        self.x, self.y = table[:, 0], table[:, 1]
        self._between = PchipInterpolator(self.x, self.y) if len(table) > 1 else None

    def __call__(self, at: AnyArray) -> Floats:
        """Return the values at ``at (N,)``."""
        flat = np.ascontiguousarray(at, np.float64)
        return responses(self.table(), flat.reshape(-1)).reshape(flat.shape)

    @property
    def level(self) -> bool:
        """Whether it is 1 everywhere."""
        return bool((self.y == 1.0).all())

    def table(self) -> Floats:
        """Return a row per piece: where it begins, where it ends, and four coefficients, highest power first ``(N,
        6)``.
        """
        if self._between is None:
            return np.array([[0.0, 1.0, 0.0, 0.0, 0.0, self.y[0]]])
        return np.ascontiguousarray(np.column_stack([self.x[:-1], self.x[1:], self._between.c.T]))


class Gradient:
    """A colour for each number: linear between stops ``(x, red, green, blue, alpha)``, all linear light in 0..1."""

    type = "vec4"

    def __init__(self, stops: Sequence[Sequence[float]]) -> None:
        rows = np.asarray(stops, np.float64)
        self.x, self.color = rows[:, 0], rows[:, 1:]

    def __call__(self, at: AnyArray) -> Floats:
        """Return the colours ``(N, 4)`` at ``at (N,)``; the first and last stop go on beyond them."""
        return gradients(self.table(), np.ascontiguousarray(at, np.float64))

    def table(self) -> Floats:
        """Return a row per stop: its place and colour ``(N, 5)``."""
        return np.ascontiguousarray(np.column_stack([self.x, self.color]))


def profile_of(what: str, value: Sequence[Sequence[float]] | Response | Gradient) -> Response | Gradient:
    """Return the function that a control's value (points or stops) stands for."""
    if isinstance(value, (Response, Gradient)):
        return value
    return Response(value) if what == "curve" else Gradient(value)
