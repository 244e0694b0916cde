"""Pictures of heights, masks and colours: PNG, JPEG and TIFF, as a flat rectangle of 1 m that carries the pixels.

PNG after ISO/IEC 15948, JPEG after ITU-T T.81, TIFF 6.0 (1992); read by imageio, tifffile and imagecodecs. Whole
numbers without a sign become 0 to 1 (16 bits are kept), others stay as they are: heights of a survey are metres.
"""

from __future__ import annotations

import io
import logging
from functools import partial
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError, GeometryError
from reticula.core.formats.format import Format
from reticula.core.formats.shared.needed import library, said
from reticula.core.geometry import Geo
from reticula.core.geometry.pictures import Picture, with_picture
from reticula.core.geometry.pictures.picture import MOST_NUMBERS

__all__ = ["FORMATS", "read"]

PNG = b"\x89PNG\r\n\x1a\n"
DEEP_COLOURS = (2, 6)
"""Colour types of PNG with red, green and blue."""


def read(data: bytes, *, ending: str) -> Geo:
    """Read a picture; raise FormatError for what is none, or too large a one."""
    try:
        stored = _tiff(data) if ending in ("tif", "tiff") else _screen_picture(data, ending)
    except FormatError:
        raise
    except Exception as problem:  # The libraries pass on whatever their decoders raise.
        raise FormatError(f"this is no {ending.upper()}, or it is damaged: {said(problem)}") from None
    pixels = _numbers(stored)
    colours = stored.shape[2] >= 3 and stored.dtype == np.uint8
    rows, columns, channels = pixels.shape
    note(f"{columns:,} × {rows:,} pixels, {channels} × {8 * stored.dtype.itemsize} bits")
    wide, high = columns / max(rows, columns), rows / max(rows, columns)
    corners = np.array([[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]])
    places = np.stack([corners[:, 0] * wide, np.zeros(4), -corners[:, 1] * high], axis=1)
    sheet = Geo.from_faces(places, [[0, 1, 2, 3]]).with_attribute("corner", "uv", corners + 0.5)
    try:
        return with_picture(sheet, Picture(pixels, "colours" if colours else "data"))
    except GeometryError as error:
        raise FormatError(str(error)) from None


def _numbers(stored: AnyArray) -> AnyArray:
    """Return pixels as numbers ``(H, W, C)``: those without a sign as parts of their largest."""
    if stored.dtype == bool:
        return stored.astype(np.float64)
    if stored.dtype.kind == "u":
        return stored / np.float64(np.iinfo(stored.dtype).max)
    if stored.dtype.kind not in "if":
        raise FormatError(f"pixels of the type {stored.dtype} are not read")
    return stored.astype(np.float64)


def _check_size(shape: Any) -> None:
    """Refuse a picture that is too large before it is unpacked."""
    if np.prod(np.asarray(shape, np.float64)) > MOST_NUMBERS:
        size = " × ".join(f"{one:,}" for one in shape)
        raise FormatError(f"the picture has {size} numbers; {MOST_NUMBERS:,} is the most")


def _in_rows(pixels: AnyArray) -> AnyArray:
    """Return pixels as ``(H, W, C)``."""
    if pixels.ndim == 2:
        return pixels[:, :, None]
    if pixels.ndim != 3:
        raise FormatError("this is a stack of pictures; one was expected")
    if pixels.shape[2] > 4 >= pixels.shape[0]:
        pixels = np.moveaxis(pixels, 0, 2)  # a plane for each channel
    if pixels.shape[2] > 4:
        raise FormatError(f"the picture has {pixels.shape[2]} channels; 4 is the most")
    return pixels


def _screen_picture(data: bytes, ending: str) -> AnyArray:
    """Return the pixels of a PNG or a JPEG, upright as its camera was held."""
    if ending == "png" and data.startswith(PNG) and len(data) > 26 and data[24] == 16 and data[25] in DEEP_COLOURS:
        width, height = (int.from_bytes(data[at : at + 4], "big") for at in (16, 20))
        _check_size((height, width, 4))
        return _in_rows(library("imagecodecs", "imagecodecs").png_decode(data))
    if not data.startswith(PNG if ending == "png" else b"\xff\xd8"):
        raise FormatError(f"this is no {'PNG' if ending == 'png' else 'JPEG'}")
    imageio = library("imageio.v3", "imageio")
    told = imageio.improps(data, plugin="pillow", index=0)
    _check_size(told.shape)
    if len(told.shape) == 3 and ending != "png" and told.shape[2] == 4:
        return _in_rows(imageio.imread(data, plugin="pillow", index=0, mode="RGB", rotate=True))  # inks of a printer
    return _in_rows(imageio.imread(data, plugin="pillow", index=0, rotate=True))


def _tiff(data: bytes) -> AnyArray:
    """Return the pixels of the first picture of a TIFF."""
    tifffile = library("tifffile", "tifffile")
    # It logs every odd tag; what cannot be read is said here.
    logging.getLogger("tifffile").setLevel(logging.CRITICAL)
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        page = file.pages[0]
        _check_size(page.shape)
        pixels = np.asarray(page.asarray())
        if page.colormap is not None:
            return np.ascontiguousarray(np.moveaxis(page.colormap, 0, 1)[pixels])
        white_is_zero = page.photometric == 0 and pixels.dtype.kind == "u"
        return _in_rows(np.iinfo(pixels.dtype).max - pixels if white_is_zero else pixels)


def _write(geo: Geo, **options: Any) -> bytes:
    raise FormatError("pictures are read, not written; choose a format of meshes")


FORMATS = tuple(
    Format(
        ending,
        name,
        partial(read, ending=ending),
        _write,
        "one picture: heights, masks or colours, on a rectangle",
        writes=False,
        library=by,
    )
    for ending, name, by in (
        ("jpeg", "JPEG", "imageio"),
        ("jpg", "JPEG", "imageio"),
        ("png", "PNG", "imageio, imagecodecs"),
        ("tif", "TIFF", "tifffile, imagecodecs"),
        ("tiff", "TIFF", "tifffile, imagecodecs"),
    )
)
