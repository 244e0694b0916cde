"""A function of the language at given values."""

from __future__ import annotations

import numpy as np

from reticula.core import Geo
from reticula.core.language import evaluate

__all__ = ["value"]


def value(text: str, **given: object) -> np.ndarray:
    """What a formula gives, with ``given`` values under their names."""
    return np.asarray(evaluate(text, Geo.empty(), "whole", dials=given).array[0])
