"""Colours: linear light, red, green and blue in 0..1."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.language.functions.table import FUNCTIONS, Emitter, Values, exactly, function

__all__ = ["NAMES"]

LUMA = (0.2126, 0.7152, 0.0722)


def _hsv(h: AnyArray, s: AnyArray, v: AnyArray) -> AnyArray:
    h, s, v = (part.reshape(-1) for part in (h, s, v))
    channels = []
    for shift in (5.0, 3.0, 1.0):
        k = np.mod(shift + h * 6.0, 6.0)
        channels.append(v - v * s * np.clip(np.minimum(k, 4.0 - k), 0.0, 1.0))
    return np.stack(np.broadcast_arrays(*channels), axis=1)


def _hsv_code(emit: Emitter, values: Values) -> list[str]:
    (h,), (s,), (v,) = values
    made = []
    for shift in ("5.0", "3.0", "1.0"):
        k = emit.let(f"remainder({shift} + {h} * 6.0, 6.0)")
        made.append(emit.let(f"{v} - {v} * {s} * clamp01(lesser({k}, 4.0 - {k}))"))
    return made


def _luminance(c: AnyArray) -> AnyArray:
    return c[:, 0] * LUMA[0] + c[:, 1] * LUMA[1] + c[:, 2] * LUMA[2]


def _luminance_code(emit: Emitter, values: Values) -> list[str]:
    return [emit.let(" + ".join(f"{c} * {weight}" for c, weight in zip(values[0], LUMA, strict=False)))]


_before = set(FUNCTIONS)
function(
    "hsv(hue, saturation, value)",
    "the colour of a hue in 0..1, a saturation and a value, as red, green, blue",
    exactly((("number",) * 3, "vec3")),
    _hsv,
    _hsv_code,
    "hsv(0, 1, 1) == (1, 0, 0)",
    "Smith, SIGGRAPH 1978",
)
function(
    "luminance(color)",
    "how bright a linear colour is seen",
    exactly((("vec3",), "number"), (("vec4",), "number")),
    _luminance,
    _luminance_code,
    "luminance((1, 1, 1)) == 1",
    "ITU-R BT.709",
)

NAMES = tuple(name for name in FUNCTIONS if name not in _before)
