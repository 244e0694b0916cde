"""What a formula gives on each point of a sheet that asks a ball."""

from __future__ import annotations

import numpy as np

from reticula.core import Geo
from reticula.core.language import evaluate

__all__ = ["value"]


def value(source: str, sheet: Geo, ball: Geo) -> np.ndarray:
    return evaluate(source, sheet, "point", inputs={"geo": sheet, "ball": ball, "spare": None}).array
