"""Pictures keep their numbers: 8 and 16 bits, floats, palettes; damaged and immense ones are refused."""

from __future__ import annotations

import io
import struct
import zlib

import imageio.v3 as imageio
import numpy as np
import pytest
import tifffile
from PIL import Image

from reticula.core.diagnostics import collecting
from reticula.core.errors import FormatError
from reticula.core.formats import FORMATS, WRITTEN, read_bytes, write_bytes
from reticula.core.geometry import Geo
from reticula.core.geometry.pictures import picture_of

RNG = np.random.default_rng(3)


def png(pixels: np.ndarray) -> bytes:
    """Return a PNG of whole numbers, put together by hand after ISO/IEC 15948."""
    height, width, channels = pixels.shape
    depth, colour = 8 * pixels.dtype.itemsize, {1: 0, 2: 4, 3: 2, 4: 6}[channels]
    rows = b"".join(b"\0" + row.astype(pixels.dtype.newbyteorder(">")).tobytes() for row in pixels)

    def chunk(name: bytes, data: bytes) -> bytes:
        return len(data).to_bytes(4, "big") + name + data + zlib.crc32(name + data).to_bytes(4, "big")

    head = struct.pack(">IIBBBBB", width, height, depth, colour, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b"")


def tiff(pixels: np.ndarray, **how: object) -> bytes:
    out = io.BytesIO()
    tifffile.imwrite(out, pixels, **how)
    return out.getvalue()


def read(name: str, data: bytes) -> Geo:
    with collecting():
        return read_bytes(name, data)


@pytest.mark.parametrize("channels", [1, 3, 4])
@pytest.mark.parametrize("dtype", [np.uint8, np.uint16])
def test_a_png_keeps_its_bits(channels: int, dtype: type) -> None:
    stored = RNG.integers(0, np.iinfo(dtype).max, (5, 7, channels)).astype(dtype)
    picture = picture_of(read("a.png", png(stored)))
    assert np.array_equal(picture.pixels, stored / np.float64(np.iinfo(dtype).max))
    assert picture.holds == ("colours" if channels > 2 and dtype is np.uint8 else "data")


def test_grey_with_opacity() -> None:
    stored = RNG.integers(0, 255, (3, 4, 2)).astype(np.uint8)
    assert picture_of(read("a.png", png(stored))).pixels.shape[2] in (2, 4)


def test_a_palette_becomes_colours() -> None:
    made = Image.new("P", (2, 1))
    made.putpalette([255, 0, 0, 0, 0, 255])
    made.putdata([0, 1])
    out = io.BytesIO()
    made.save(out, "PNG")
    assert picture_of(read("a.png", out.getvalue())).pixels[0, :, :3].tolist() == [[1, 0, 0], [0, 0, 1]]


def test_a_jpeg_is_upright_and_inks_become_colours() -> None:
    upright = np.zeros((8, 16, 3), np.uint8)
    upright[:, 8:] = 255
    turned = Image.fromarray(upright)
    exif = Image.Exif()
    exif[0x0112] = 3  # the camera stood on its head (Exif 2.3, tag Orientation)
    out = io.BytesIO()
    turned.save(out, "JPEG", exif=exif, quality=95)
    picture = picture_of(read("a.jpg", out.getvalue()))
    assert picture.pixels[4, 2].min() > 0.9 > 0.1 > picture.pixels[4, 13].max()
    out = io.BytesIO()
    Image.new("CMYK", (4, 4), (0, 255, 255, 0)).save(out, "JPEG")
    assert picture_of(read("a.jpeg", out.getvalue())).pixels[0, 0] == pytest.approx([1, 0, 0], abs=0.05)


@pytest.mark.parametrize("compression", [None, "lzw", "zlib", "zstd"])
def test_a_tiff_of_16_bits_in_every_packing(compression: str | None) -> None:
    stored = RNG.integers(0, 65535, (6, 5, 3)).astype(np.uint16)
    picture = picture_of(read("a.tif", tiff(stored, compression=compression, photometric="rgb")))
    assert np.array_equal(picture.pixels, stored / 65535)


def test_heights_in_metres_stay_metres() -> None:
    heights = RNG.normal(-12, 3, (6, 5)).astype(np.float32)
    assert np.array_equal(picture_of(read("a.tiff", tiff(heights))).pixels[..., 0], heights.astype(np.float64))
    below = np.array([[-32000, 5]], np.int16)
    assert picture_of(read("a.tiff", tiff(below))).pixels[..., 0].tolist() == [[-32000, 5]]


def test_planes_palettes_and_negatives_of_tiffs() -> None:
    stored = RNG.integers(0, 255, (3, 9, 8)).astype(np.uint8)
    planes = picture_of(read("a.tif", tiff(stored, photometric="rgb", planarconfig="separate")))
    assert np.array_equal(planes.pixels, np.moveaxis(stored, 0, 2) / 255)
    colours = np.zeros((3, 256), np.uint16)
    colours[:, 1] = [65535, 0, 32768]
    indexed = picture_of(read("a.tif", tiff(np.ones((2, 2), np.uint8), photometric="palette", colormap=colours)))
    assert indexed.pixels[0, 0] == pytest.approx([1, 0, 32768 / 65535])
    negative = picture_of(read("a.tif", tiff(np.array([[0, 255]], np.uint8), photometric="miniswhite")))
    assert negative.pixels[0, :, 0].tolist() == [1, 0]


def test_the_rectangle_has_the_form_of_the_picture() -> None:
    geo = read("a.png", png(np.zeros((10, 40, 1), np.uint8)))
    assert np.ptp(geo.positions, axis=0).tolist() == [1.0, 0.0, 0.25]
    assert geo.attribute("corner", "uv")[2].tolist() == [1, 1]
    assert geo.positions[geo.topology.corner_point[2]].tolist() == [0.5, 0, -0.125]


def test_an_immense_picture_is_refused_before_it_is_unpacked() -> None:
    head = struct.pack(">IIBBBBB", 200_000, 200_000, 16, 2, 0, 0, 0)
    data = b"\x89PNG\r\n\x1a\n" + (13).to_bytes(4, "big") + b"IHDR" + head
    data += zlib.crc32(b"IHDR" + head).to_bytes(4, "big")
    with pytest.raises(FormatError, match="is the most"):
        read_bytes("a.png", data)
    with pytest.raises(FormatError):
        read_bytes("a.png", data.replace(bytes([16, 2, 0, 0, 0]), bytes([8, 2, 0, 0, 0])))


def test_one_ending_is_not_another_and_nothing_is_written() -> None:
    jpeg = imageio.imwrite("<bytes>", np.zeros((2, 2, 3), np.uint8), extension=".jpg")
    with pytest.raises(FormatError, match="this is no PNG"):
        read_bytes("a.png", jpeg)
    assert {"png", "jpg", "jpeg", "tif", "tiff"} == set(FORMATS) - set(WRITTEN)
    with pytest.raises(FormatError, match="read, not written"):
        write_bytes(Geo.empty(), "a.png")
