"""Colours as screens and pictures store them (sRGB), and as light adds up (linear).

After IEC 61966-2-1:1999.
"""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats

__all__ = ["from_bytes", "to_bytes", "to_linear", "to_srgb"]


def to_linear(encoded: Floats) -> Floats:
    """Return sRGB values in 0..1 as linear light."""
    return np.where(encoded <= 0.04045, encoded / 12.92, ((encoded + 0.055) / 1.055) ** 2.4)


def to_srgb(linear: Floats) -> Floats:
    """Return linear light in 0..1 as sRGB values; what lies outside is brought to the nearest."""
    light = np.clip(linear, 0.0, 1.0)
    return np.where(light <= 0.0031308, light * 12.92, 1.055 * light ** (1 / 2.4) - 0.055)


def from_bytes(values: AnyArray) -> Floats:
    """Return whole numbers ``(N, 3)`` or ``(N, 4)`` in sRGB as linear colours with opacity ``(N, 4)``."""
    whole = values.astype(np.float64) / np.iinfo(values.dtype).max
    made = np.ones((len(values), 4))
    made[:, : whole.shape[1]] = whole
    made[:, :3] = to_linear(made[:, :3])
    return made


def to_bytes(colors: Floats) -> AnyArray:
    """Return linear colours ``(N, 3)`` or ``(N, 4)`` as bytes in sRGB; opacity stays as it is."""
    made = np.array(colors, np.float64)
    made[:, :3] = to_srgb(made[:, :3])
    return np.rint(np.clip(made, 0.0, 1.0) * 255).astype(np.uint8)
