"""Read picture: a sheet whose points know the colour or height that a picture has there."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.geometry.pictures import (
    BETWEEN,
    BEYOND,
    Picture,
    has_picture,
    picture_of,
    sample_picture,
    with_picture,
)
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Integer, Number, Shape
from reticula.core.operators.shared.lattice import lattice_quads
from reticula.core.operators.shared.resources import resources

__all__ = ["read_picture"]


@operator(
    "read_picture",
    family="sources",
    inputs=(),
    keywords=("image", "heightmap", "height", "mask", "photo", "texture", "png", "jpg", "tif", "pixel"),
    carries="makes the corner attribute uv, the point attributes color and value (its first channel), and the picture",
    example="""
        chart = read_picture(picture="depth_chart", points=96)
        displace(chart, value="color.x", amount=0.2, along="direction")
    """,
    related=("picture_value", "read_file", "project_shape"),
    parameters=(
        Shape("picture", "", "PNG, JPEG or TIFF of this project, or a name given with --in"),
        Number("size", 1.0, "length of the longer side of the sheet", unit="m", soft=(0.01, 10), low=1e-9),
        Integer(
            "points", 256, "points along the longer side, at most one for each pixel; 0 is all", soft=(0, 1024), low=0
        ),
        Choice(
            "holds",
            "automatic",
            "what its numbers are",
            options={
                "automatic": "colours if there are red, green and blue of 8 bits, else data",
                "data": "heights or masks: numbers as they are",
                "colours": "colours for a screen, which become linear",
            },
        ),
        Choice("between", "linear", "what is between pixels", options=BETWEEN),
        Choice("beyond", "clamp", "what is outside of the picture", options=BEYOND),
    ),
)
def read_picture(*, picture: str, size: float, points: int, holds: str, between: str, beyond: str) -> Geo:
    """Sheet from a picture, flat on the ground: its points have the colour and the value that the picture has there.

    Other operators ask the picture through an input: ``source.at(uv).x`` in *set attribute* or *group*, or
    ``sand.at(position.xz / 2 + 0.5)`` in a script with the input ``sand: geometry``. Places of a picture go from 0 to
    1, from left to right and from its foot to its top.
    """
    if not picture.strip():
        raise ParameterError("picture", "choose a picture")
    stored = resources().load(picture)
    if not has_picture(stored):
        raise ParameterError("picture", f"'{picture}' is no picture; it holds {repr(stored)[5:-1] or 'nothing'}")
    found = replace(picture_of(stored), between=between, beyond=beyond)
    if holds != "automatic":
        found = replace(found, holds=holds)
    return _sheet(found, size, points)


def _sheet(picture: Picture, size: float, most: int) -> Geo:
    """Return a sheet whose points lie in the middles of pixels, or of equal parts of the picture."""
    across, up = picture.size
    longer = max(across, up)
    share = min(1.0, (most or longer) / longer)
    columns, rows = (max(2, round(count * share)) for count in (across, up))
    u, v = (np.arange(columns) + 0.5) / columns, (np.arange(rows) + 0.5) / rows
    places = np.zeros((rows, columns, 3))
    places[..., 0] = (u - 0.5) * size * across / longer
    places[..., 2] = ((0.5 - v) * size * up / longer)[:, None]
    uv = np.stack(np.broadcast_arrays(u, v[:, None]), axis=2).reshape(-1, 2)
    quads = lattice_quads(rows, columns)
    values = sample_picture(picture.linear(), picture.size, picture.rules, uv)
    geo = Geo.from_faces(places.reshape(-1, 3), quads)
    geo = geo.with_attribute("corner", "uv", uv[geo.topology.corner_point])
    geo = geo.with_attribute("point", "color", values).with_attribute("point", "value", values[:, 0].copy())
    return with_picture(geo, picture)
