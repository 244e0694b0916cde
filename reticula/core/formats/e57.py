"""E57: points of laser scanners, several scans in one file, each at its own place.

After ASTM E2807 – 11, "Standard Specification for 3D Imaging Data Exchange"; read and written by pye57. Its z is up,
ours is y. Colours of 8 bits are taken as sRGB and made linear.
"""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.formats.format import Format
from reticula.core.formats.shared.losses import losses
from reticula.core.formats.shared.needed import library, said
from reticula.core.formats.shared.survey import sited, upright, z_up
from reticula.core.geometry import Geo
from reticula.core.srgb import from_bytes, to_bytes

__all__ = ["FORMAT", "read", "write"]

COLORS = ("colorRed", "colorGreen", "colorBlue")
MOST = 200_000_000
"""Points of one file."""


def read(data: bytes) -> Geo:
    """Read an E57, all scans at their places; ``scan`` numbers them where there are several.

    Raises FormatError for what is broken.
    """
    pye57 = library("pye57", "pye57")
    if data[:8] != b"ASTM-E57":
        raise FormatError("an E57 begins with the letters ASTM-E57; this file does not", byte=0)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "scan.e57"
        path.write_bytes(data)
        try:
            scans = _scans(pye57.E57(str(path)))
        except FormatError:
            raise
        except Exception as problem:  # The library passes on whatever its parsers raise.
            raise FormatError(f"this E57 cannot be read: {said(problem)}") from None
    if not scans:
        raise FormatError("the file has no points")
    places = np.concatenate([np.stack([scan[f"cartesian{axis}"] for axis in "XYZ"], axis=1) for scan in scans])
    finite = np.isfinite(places).all(axis=1)
    if not finite.all():
        note(f"Left out {int((~finite).sum()):,} points that the scanner marked as missing.")
    geo = sited(upright(places[finite].astype(np.float64)))
    whole = [name for name in ("intensity", *COLORS) if all(name in scan for scan in scans)]
    joined = {name: np.concatenate([scan[name] for scan in scans])[finite] for name in whole}
    if "intensity" in joined:
        geo = geo.with_attribute("point", "intensity", joined["intensity"].astype(np.float64))
    if all(name in joined for name in COLORS):
        codes = np.stack([joined[name] for name in COLORS], axis=1).clip(0, 255).astype(np.uint8)
        geo = geo.with_attribute("point", "color", from_bytes(codes))
    if len(scans) > 1:
        number = np.repeat(np.arange(len(scans)), [len(scan["cartesianX"]) for scan in scans])[finite]
        geo = geo.with_attribute("point", "scan", number)
    return geo


def _scans(source: Any) -> list[dict[str, AnyArray]]:
    found, total = [], 0
    for number in range(source.scan_count):
        total += source.get_header(number).point_count
        if total > MOST:
            raise FormatError(f"the file holds more than {MOST:,} points; thin it out first")
        scan = source.read_scan(number, intensity=True, colors=True, ignore_missing_fields=True)
        if len(scan.get("cartesianX", ())):
            found.append(scan)
    return found


def write(geo: Geo) -> bytes:
    """Return an E57 of one scan: points with colour and ``intensity``. All else is left out."""
    pye57 = library("pye57", "pye57")
    places = z_up(geo.positions)
    middle = np.round(places.mean(axis=0)) if len(places) else np.zeros(3)
    near = places - middle
    table: dict[str, AnyArray] = {f"cartesian{axis}": near[:, i].copy() for i, axis in enumerate("XYZ")}
    named = geo.attributes["point"]
    kept = {"position"}
    if "intensity" in named and named["intensity"].info.shape == () and named["intensity"].values.dtype.kind in "fi":
        table["intensity"] = np.nan_to_num(named["intensity"].values.astype(np.float32))
        kept.add("intensity")
    if "color" in named and named["color"].info.shape in ((3,), (4,)):
        codes = to_bytes(named["color"].values[:, :3])
        table |= {name: codes[:, i].copy() for i, name in enumerate(COLORS)}
        kept.add("color")
    lost = losses(geo, {("point", name) for name in kept}, ("faces", "curves"))
    if lost:
        note(f"E57 holds points with colour and intensity alone; left out: {', '.join(lost)}.")
    if not len(places):
        raise FormatError("E57 holds points, and there are none to write")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "scan.e57"
        made = pye57.E57(str(path), mode="w")
        made.write_scan_raw(table, translation=middle)
        made.close()
        return path.read_bytes()


FORMAT = Format("e57", "E57", read, write, "points with colour and intensity", faces=False, apart=True, library="pye57")
