"""Points of a survey as geometry: z up becomes y up, and a site far from the origin gets a place of its own."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import note
from reticula.core.formats.shared.places import check_places
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import PLACE

__all__ = ["FAR", "sited", "upright", "z_up"]

FAR = 10_000.0
"""Distance from the origin, in m, beyond which single precision shows less than a millimetre."""


def upright(places: Floats) -> Floats:
    """Return places with z up ``(N, 3)`` as places with y up: east is x, north -z."""
    return np.stack([places[:, 0], places[:, 2], -places[:, 1]], axis=1)


def z_up(places: Floats) -> Floats:
    """Return places with y up ``(N, 3)`` as places with z up."""
    return np.stack([places[:, 0], -places[:, 2], places[:, 1]], axis=1)


def sited(places: Floats) -> Geo:
    """Return points with y up as a geometry. Where they are far from the origin, its own space is near them, and its
    place leads back: coordinates of a country have seven digits before the point.
    """
    check_places(places)
    middle = np.round((places.min(axis=0) + places.max(axis=0)) / 2, -2) if len(places) else np.zeros(3)
    if np.abs(middle).max() < FAR:
        return Geo.of(places)
    matrix = np.eye(4)
    matrix[:3, 3] = middle
    note(
        f"The points are around x {middle[0]:,.0f}, y {middle[1]:,.0f}, z {middle[2]:,.0f} m; they have a place of "
        "their own there, and are written where they were."
    )
    return Geo.of(places - middle).with_attribute("whole", PLACE, matrix[None], "mat4")
