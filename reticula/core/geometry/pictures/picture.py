"""A picture as attributes of the whole, so that it goes wherever its geometry goes: into files, packages and caches."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.geometry.pictures.sampling import BETWEEN, BEYOND
from reticula.core.srgb import to_linear

__all__ = ["HOLDS", "MOST_NUMBERS", "Picture", "has_picture", "picture_of", "with_picture"]

MOST_NUMBERS = 70_000_000
"""Pixels times channels: a picture of 4,096 by 4,096 pixels with colours and opacity."""
HOLDS = {"data": "numbers, as they are stored", "colours": "colours for a screen (sRGB), which become linear"}
PIXELS, ACROSS, UP, AS, WITHIN, OUTSIDE = (
    "pixels", "pixels_across", "pixels_up", "pixels_hold", "pixels_between", "pixels_beyond",
)  # fmt: skip
"""Names of the attributes."""


@dataclass(frozen=True)
class Picture:
    """Pixels ``(H, W, C)``, the first row at the top: grey, red green and blue, each with or without opacity.

    ``holds`` says what they are (a word of ``HOLDS``), ``between`` how values are found between pixels and ``beyond``
    what is there outside of the picture (words of ``BETWEEN`` and ``BEYOND``).
    """

    pixels: AnyArray
    holds: str = "data"
    between: str = "linear"
    beyond: str = "clamp"

    @property
    def size(self) -> tuple[int, int]:
        """Columns and rows."""
        return int(self.pixels.shape[1]), int(self.pixels.shape[0])

    @property
    def rules(self) -> tuple[int, int]:
        """Numbers of the words for what is between pixels and beyond them, as kernels know them."""
        return list(BETWEEN).index(self.between), list(BEYOND).index(self.beyond)

    def linear(self) -> AnyArray:
        """Return the pixels as they are asked for, ``(H * W, C)`` float32: data as they are, colours as light."""
        flat = self.pixels.reshape(-1, self.pixels.shape[2])
        if self.holds == "data":
            return flat.astype(np.float32)
        made = flat.astype(np.float32)
        colours = slice(0, 1 if flat.shape[1] < 3 else 3)
        made[:, colours] = to_linear(flat[:, colours])
        return made


def with_picture(geo: Geo, picture: Picture) -> Geo:
    """Return the geometry with a picture. Raises GeometryError for what is no picture, or too large a one."""
    shape = picture.pixels.shape
    limit = f"{MOST_NUMBERS:,} numbers are the most: scale it down first"
    if len(shape) != 3 or not all(shape) or shape[2] > 4:
        raise GeometryError(f"a picture has rows, columns and 1 to 4 channels, not the shape {shape}")
    if picture.pixels.size > MOST_NUMBERS:
        raise GeometryError(f"the picture has {shape[1]:,} by {shape[0]:,} pixels with {shape[2]} channels; {limit}")
    flat = picture.pixels.astype(np.float64).reshape(-1)
    geo = geo.with_attribute("whole", PIXELS, Attribute("number list", flat, np.array([0, len(flat)], np.int32)))
    for name, value in zip((ACROSS, UP), picture.size, strict=True):
        geo = geo.with_attribute("whole", name, np.array([value]))
    for name, word in ((AS, picture.holds), (WITHIN, picture.between), (OUTSIDE, picture.beyond)):
        geo = geo.with_attribute("whole", name, np.array([word]))
    return geo


def has_picture(geo: Geo) -> bool:
    """Whether a geometry carries a picture."""
    return geo.has("whole", PIXELS) and geo.has("whole", ACROSS) and geo.has("whole", UP)


@once_per_geo
def picture_of(geo: Geo) -> Picture:
    """Return the picture of a geometry; raise GeometryError if it has none, or one that does not hold together."""
    if not has_picture(geo):
        raise GeometryError("this geometry carries no picture; bring one in by 'read picture'")
    values = geo.find("whole", PIXELS).values
    across, up = (int(np.asarray(geo.attribute("whole", name)).reshape(-1)[0]) for name in (ACROSS, UP))
    channels = len(values) // (across * up) if across > 0 and up > 0 else 0
    if not 1 <= channels <= 4 or channels * across * up != len(values) or values.dtype.kind != "f":
        raise GeometryError(f"{len(values):,} numbers are no picture of {across:,} by {up:,} pixels")
    words = [_word(geo, name, known) for name, known in ((AS, HOLDS), (WITHIN, BETWEEN), (OUTSIDE, BEYOND))]
    return Picture(values.reshape(up, across, channels), *words)


def _word(geo: Geo, name: str, known: dict[str, str]) -> str:
    """Return a word of the picture; the usual one if it is missing or unknown."""
    word = str(geo.attribute("whole", name)[0]) if geo.has("whole", name) else ""
    return word if word in known else next(iter(known))
