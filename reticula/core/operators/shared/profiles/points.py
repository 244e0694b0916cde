"""Checks the points of response curves and the stops of gradients."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from reticula.core.language.profiles import STEPS, misplaced, split_step
from reticula.core.operators.declaration.parameters import Number, Parameter

__all__ = ["checked_points"]

MOST = 64


def checked_points(
    parameter: Parameter, value: Any, words: str, numbers: Sequence[Number], usual: str
) -> list[list[Any]]:
    """Return points as plain lists: each number checked, the step left out where it is the ``usual`` one.

    Raises ParameterError if there are none or too many, if one lacks a number, if a step is not known, if they are
    not in order of x, or if more than two are at one place.
    """
    if not isinstance(value, (list, tuple, np.ndarray)) or not 1 <= len(value) <= MOST:
        parameter.fail(f"takes 1 to {MOST} {words}, not {value!r}")
    points: list[list[Any]] = []
    for row in value:
        given, step = split_step(list(row) if isinstance(row, (list, tuple, np.ndarray)) else [], usual)
        if len(given) != len(numbers):
            parameter.fail(f"takes {words}, each with or without a step, not {row!r}")
        if step not in STEPS:
            parameter.fail(f"goes on from a point {', '.join(STEPS)}, not {step!r}")
        plain = [number.check_plain(part) for number, part in zip(numbers, given, strict=True)]
        points.append(plain if step == usual else [*plain, step])
    wrong = misplaced([point[0] for point in points])
    if wrong:
        parameter.fail(f"takes {words} in order of x; {wrong}")
    return points
