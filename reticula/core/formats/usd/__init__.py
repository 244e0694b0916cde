"""USD: scenes of film and product studios: as text (usda), in binary (usdc, usd) and packed (usdz).

After Pixar, "Universal Scene Description", with its schemas of geometry (UsdGeom); read and written by usd-core.
``reading`` walks the scene, ``values`` knows its primvars, ``writing`` makes one, over time if asked.
"""

from __future__ import annotations

from functools import partial

from reticula.core.formats.format import Format
from reticula.core.formats.usd.reading import read
from reticula.core.formats.usd.writing import write, write_frames

__all__ = ["FORMATS"]

KEEPS = "faces, curves, points, instances and their values but those of edges and lists; groups of faces as subsets"

FORMATS = tuple(
    Format(
        ending,
        name,
        partial(read, ending=ending),
        partial(write, ending=ending),
        KEEPS,
        instances=True,
        places=True,
        apart=True,
        library="usd-core",
        frames=partial(write_frames, ending=ending),
    )
    for ending, name in (("usda", "USD as text"), ("usdc", "USD"), ("usdz", "USD, packed"), ("usd", "USD"))
)
