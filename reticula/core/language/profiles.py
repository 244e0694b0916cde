"""Response curves and gradients as values of the language: a number or colour for each number."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import Any, ClassVar

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.language.profile_kernels import gradients, responses

__all__ = ["STEPS", "Gradient", "Profile", "Response", "misplaced", "powers_between", "profile_of", "split_step"]

STEPS = ("smooth", "straight", "constant")
"""How a profile goes from a point towards the next one."""


NEAREST = 1e-6


def split_step(row: Sequence[Any], usual: str) -> tuple[list[Any], str]:
    """Return the numbers of a point or stop, and how it goes on: its last entry if that is text, else ``usual``."""
    return (list(row[:-1]), row[-1]) if len(row) and isinstance(row[-1], str) else (list(row), usual)


def misplaced(x: Sequence[float]) -> str:
    """Return what is wrong with the order of points at ``x (N,)``, or an empty text."""
    for number, (a, b) in enumerate(itertools.pairwise(x), start=2):
        if b < a:
            return f"point {number} is at {b:g}, before point {number - 1} at {a:g}"
        if 0.0 < b - a < NEAREST:
            return f"points {number - 1} and {number} are nearer than {NEAREST:g}: put them at one place, or apart"
    if any(c == a for a, c in zip(x, x[2:], strict=False)):
        return "at most two points are at one place: before a jump and after it"
    return ""


def powers_between(x: Floats, y: Floats, step: str) -> Floats:
    """Return four coefficients of powers of the way from each of ``x (N,)`` towards the next one, highest first
    ``(4, N - 1, channels)``, through ``y (N, channels)``, all by one of :data:`STEPS`.
    """
    powers = np.zeros((4, len(x) - 1, y.shape[1]))
    match "straight" if len(x) == 2 and step == "smooth" else step:  # between two points that is the same
        case "smooth":
            from scipy.interpolate import PchipInterpolator  # takes half a second, and few need it

            return np.asarray(PchipInterpolator(x, y).c)
        case "straight":
            powers[2], powers[3] = np.diff(y, axis=0) / np.diff(x)[:, None], y[:-1]
        case _:
            powers[3] = y[:-1]
    return powers


class Profile:
    """A function of one number through points in order of x, with several channels.

    From each point it goes on *smooth* (monotone in every channel: Fritsch & Carlson, "Monotone piecewise cubic
    interpolation", SIAM J. Numer. Anal. 17(2), 1980; each run of smooth pieces by itself), *straight* or *constant*
    (up to the next point). Of points at one place the first ends what comes before, the last begins what follows.
    Level before the first point and after the last.
    """

    type: ClassVar[str]
    usual: ClassVar[str]

    def __init__(self, points: Sequence[Sequence[Any]]) -> None:
        rows = [split_step(row, self.usual) for row in points]
        table = np.array([numbers for numbers, _ in rows], np.float64)
        self.x, self.y = table[:, 0], table[:, 1:]
        self.steps = [step for _, step in rows]

    def table(self) -> Floats:
        """Return a row per piece: where it begins, where it ends, and for each channel four coefficients of powers of
        the way from its beginning, highest first ``(N, 2 + 4 * channels)``. The first and the last piece are level
        and of no length: what goes on beyond the ends.
        """
        parts = [0, *(at for at in range(1, len(self.x) - 1) if self._parted(at)), len(self.x) - 1]
        runs = [row for first, last in zip(parts, parts[1:], strict=False) for row in self._run(first, last)]
        return np.array([self._level(0), *runs, self._level(-1)])

    def _parted(self, at: int) -> bool:
        """Return whether the pieces before and after a point know nothing of each other."""
        smooth = self.steps[at - 1] == self.steps[at] == "smooth"
        return not smooth or self.x[at - 1] == self.x[at] or self.x[at] == self.x[at + 1]

    def _run(self, first: int, last: int) -> list[Floats]:
        x, y = self.x[first : last + 1], self.y[first : last + 1]
        if x[0] == x[-1]:
            return []
        powers = powers_between(x, y, self.steps[first])
        return [self._row(x[k], x[k + 1], powers[:, k]) for k in range(last - first)]

    def _level(self, at: int) -> Floats:
        powers = np.zeros((4, self.y.shape[1]))
        powers[3] = self.y[at]
        return self._row(self.x[at], self.x[at], powers)

    def _row(self, begin: float, end: float, powers: Floats) -> Floats:
        return np.concatenate([[begin, end], powers.T.reshape(-1)])


class Response(Profile):
    """A number for each number, through points ``(x, y)`` or ``(x, y, step)``; smooth where no step is said."""

    type = "number"
    usual = "smooth"

    def __call__(self, at: AnyArray) -> Floats:
        """Return the values at ``at``, in its shape."""
        flat = np.ascontiguousarray(at, np.float64)
        return responses(self.table(), flat.reshape(-1)).reshape(flat.shape)

    @property
    def level(self) -> bool:
        """Whether it is 1 everywhere."""
        return bool((self.y == 1.0).all())


class Gradient(Profile):
    """A colour for each number, through stops ``(x, red, green, blue, alpha)`` or these and a step; straight where no
    step is said. Colours are linear light in 0..1.
    """

    type = "vec4"
    usual = "straight"

    def __call__(self, at: AnyArray) -> Floats:
        """Return the colours ``(N, 4)`` at ``at (N,)``."""
        return gradients(self.table(), np.ascontiguousarray(at, np.float64))


def profile_of(what: str, value: Sequence[Sequence[Any]] | Profile) -> Profile:
    """Return the function that a control's value (points or stops) stands for."""
    if isinstance(value, Profile):
        return value
    return Response(value) if what == "curve" else Gradient(value)
