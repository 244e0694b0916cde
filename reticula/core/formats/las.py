"""LAS and LAZ: points of laser scanners with their values.

After the ASPRS, "LAS Specification 1.4 – R15" (2019); read and written by laspy, LAZ by lazrs. Its z is up, ours is y.
Colours of 16 bits are taken as sRGB and made linear.
"""

from __future__ import annotations

import io
import struct
from functools import partial
from typing import Any

import numpy as np

from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.formats.format import Format
from reticula.core.formats.shared.losses import losses
from reticula.core.formats.shared.needed import library, said
from reticula.core.formats.shared.survey import sited, upright, z_up
from reticula.core.geometry import Attribute, Geo
from reticula.core.language.reserved import readable_name
from reticula.core.srgb import from_bytes, to_srgb

__all__ = ["FORMATS", "read", "write"]

COLORS = ("red", "green", "blue")
FLAGS = ("synthetic", "key_point", "withheld", "overlap", "scan_direction_flag", "edge_of_flight_line")
MOST = 200_000_000
"""Points of one file."""
STEP = 1e-4
"""To how many m places are written."""
KNOWN = {
    "intensity": "u2",
    "return_number": "u1",
    "number_of_returns": "u1",
    "classification": "u1",
    "user_data": "u1",
    "scan_angle": "i2",
    "point_source_id": "u2",
    "gps_time": "f8",
}
"""Values with places of their own in a file, and how wide they are."""
NIBBLES = ("return_number", "number_of_returns")


def read(data: bytes) -> Geo:
    """Read a LAS or LAZ file; raise FormatError for what is broken."""
    laspy = library("laspy", "laspy[lazrs]")
    _check_head(data)
    try:
        with laspy.open(io.BytesIO(data)) as source:
            header = source.header
            count, packed = header.point_count, header.are_points_compressed
            if count > MOST:
                raise FormatError(f"the file holds {count:,} points; {MOST:,} is the most. Thin it out first")
            if not packed and count * header.point_format.size > len(data) - header.offset_to_point_data:
                raise FormatError(f"the head promises {count:,} points; the file is too short for them")
            found = source.read()
    except FormatError:
        raise
    except Exception as problem:  # The library passes on whatever its parsers raise.
        raise FormatError(f"this LAS cannot be read: {said(problem)}") from None
    places = upright(np.stack([np.asarray(found.x), np.asarray(found.y), np.asarray(found.z)], axis=1))
    if not len(places):
        raise FormatError("the file has no points")
    return _valued(sited(places), found)


def _check_head(data: bytes) -> None:
    """Refuse a head that promises more than the file can hold: laspy would look for it for hours."""
    if data[:4] != b"LASF" or len(data) < 227:
        raise FormatError("a LAS begins with the letters LASF and a head of 227 bytes; this file does not", byte=0)
    begin, records = struct.unpack_from("<II", data, 96)
    if begin > len(data) or records * 54 > begin:
        raise FormatError(f"the head promises {records:,} records and points from byte {begin:,} on", byte=96)
    if data[25] >= 4 and len(data) >= 375:
        far, more = struct.unpack_from("<QI", data, 235)
        if more and far + more * 60 > len(data):
            raise FormatError(f"the head promises {more:,} records from byte {far:,} on", byte=235)


def _valued(geo: Geo, found: Any) -> Geo:
    names = list(found.point_format.dimension_names)
    if all(name in names for name in COLORS):
        raw = np.stack([np.asarray(found[name]) for name in COLORS], axis=1)
        if raw.any():
            raw = (raw * 257).astype(np.uint16) if raw.max() < 256 else raw.astype(np.uint16)
            geo = geo.with_attribute("point", "color", from_bytes(raw))
    for name in names:
        if name in ("X", "Y", "Z", *COLORS) or not name.strip():
            continue
        values = np.asarray(found[name])
        if not values.any() or values.ndim > 2 or (values.ndim == 2 and values.shape[1] not in (2, 3, 4)):
            continue
        if name in FLAGS:
            made = Attribute.of(values.astype(bool), "flag")
        else:
            made = Attribute.of(
                values.astype(np.int64 if values.dtype.kind in "iu" and values.ndim == 1 else np.float64)
            )
        geo = geo.with_attribute("point", readable_name(name.strip().replace(" ", "_")), made)
    return geo


def write(geo: Geo, *, packed: bool = False) -> bytes:
    """Return a LAS 1.4, or with ``packed`` a LAZ: points to a tenth of a millimetre, and their values. All else is
    left out.
    """
    laspy = library("laspy", "laspy[lazrs]")
    places = z_up(geo.positions)
    named = {name: found for name, found in geo.attributes["point"].items() if name != "position"}
    colored = "color" in named and named["color"].info.shape in ((3,), (4,))
    header = laspy.LasHeader(version="1.4", point_format=7 if colored else 6)
    header.scales = np.full(3, STEP)
    header.offsets = np.floor(places.min(axis=0)) if len(places) else np.zeros(3)
    widest = float(np.ptp(places, axis=0).max()) if len(places) else 0.0
    if widest / STEP > 2**31 - 1:
        header.scales = np.full(3, widest / (2**31 - 2))
        note(f"The points span {widest:,.0f} m; places were written to {widest / 2**31:.2g} m.")
    lost = []
    extra = {}
    for name, found in named.items():
        plain = found.start is None and found.info.dtype is not np.str_ and found.info.shape in ((), (2,), (3,))
        if (colored and name == "color") or name in KNOWN or name in FLAGS:
            continue
        if not plain or len(name.encode()) > 32:
            lost.append(f"point {name}")
            continue
        extra[name] = found
        type = {"f": "f8", "i": "i8", "b": "u1"}[found.values.dtype.kind]
        wide = found.info.shape[0] if found.info.shape else ""
        header.add_extra_dim(laspy.ExtraBytesParams(name=name, type=f"{wide}{type}"))
    made = laspy.LasData(header)
    made.x, made.y, made.z = places.T
    lost += _fill(made, named, colored)
    for name, found in extra.items():
        made[name] = found.values
    lost += losses(geo, {("point", name) for name in geo.attributes["point"]}, ("faces", "curves"))
    if lost:
        note(f"LAS holds points alone; left out: {', '.join(lost)}.")
    out = io.BytesIO()
    made.write(out, do_compress=packed)
    return out.getvalue()


def _fill(made: Any, named: dict[str, Attribute], colored: bool) -> list[str]:
    """Write values that have places of their own; return the names of those that do not fit there."""
    lost = []
    if colored:
        codes = np.rint(to_srgb(named["color"].values[:, :3]) * 65535).astype(np.uint16)
        made.red, made.green, made.blue = codes.T
    for name in (*KNOWN, *FLAGS):
        found = named.get(name)
        if found is None:
            continue
        if found.info.shape or found.start is not None or found.info.dtype is np.str_:
            lost.append(f"point {name}")
            continue
        if name in FLAGS:
            made[name] = found.values.astype(bool).astype(np.uint8)
            continue
        kind = np.dtype(KNOWN[name])
        if kind.kind == "f":
            made[name] = found.values
            continue
        low, high = (0, 15) if name in NIBBLES else (np.iinfo(kind).min, np.iinfo(kind).max)
        made[name] = np.clip(np.nan_to_num(found.values.astype(np.float64)), low, high).astype(kind)
        if (made[name] != found.values).any():
            note(f"'{name}' was brought to whole numbers from {low} to {high}, as LAS holds it.")
    return lost


FORMATS = (
    Format("las", "LAS", read, partial(write, packed=False), "points and their values", faces=False, library="laspy"),
    Format(
        "laz",
        "LAZ",
        read,
        partial(write, packed=True),
        "points and their values",
        faces=False,
        apart=True,
        library="laspy, lazrs",
    ),
)
