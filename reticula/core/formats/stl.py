"""STL, binary and ASCII: triangles without shared points. On reading, points with exactly equal places are shared.

After the 3D Systems StereoLithography Interface Specification (1989), as restated by common practice.
"""

from __future__ import annotations

import re

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices
from reticula.core.diagnostics import note
from reticula.core.equal_rows import row_order, unique_rows
from reticula.core.errors import FormatError
from reticula.core.finite import all_finite
from reticula.core.formats.format import ENCODING, Format
from reticula.core.formats.shared.places import check_places
from reticula.core.formats.shared.plain_text import plain_text
from reticula.core.formats.shared.text_lines import Lines, numbers_of, token_counts
from reticula.core.formats.shared.told import told
from reticula.core.geometry import Geo, triangles
from reticula.core.jit import inline, kernel

__all__ = ["FORMAT", "read", "write"]

RECORD = np.dtype([("normal", "<f4", 3), ("corner", "<f4", (3, 3)), ("extra", "<u2")])


def read(data: bytes) -> Geo:
    """Read an STL file of either kind; raise FormatError with the line or byte of whatever is wrong."""
    corners = (_read_ascii(bytes(data)) if _is_ascii(data) else _read_binary(data)).reshape(-1, 3)
    told(0.4)
    first, which = unique_rows((corners + 0.0).view(np.int64 if corners.dtype == np.float64 else np.int32))
    unique = corners[first].astype(np.float64)
    order = row_order(unique)
    rank = np.empty(len(order), np.int32)
    rank[order] = np.arange(len(order), dtype=np.int32)
    told(0.8)
    unique, faces = unique[order], rank[which].reshape(-1, 3)
    whole = (faces[:, 0] != faces[:, 1]) & (faces[:, 1] != faces[:, 2]) & (faces[:, 2] != faces[:, 0])
    if not whole.all():
        note(f"Left out {int((~whole).sum()):,} triangles whose corners coincide.")
    note("Points with equal places were joined; STL does not say which faces touch.")
    return Geo.from_faces(unique, faces[whole])


def _is_ascii(data: bytes) -> bool:
    if not data[:512].removeprefix(b"\xef\xbb\xbf").lstrip().lower().startswith(b"solid"):
        return False
    if len(data) >= 84 and len(data) == 84 + 50 * int.from_bytes(data[80:84], "little"):
        return False
    return b"facet" in data[:2048].lower() or b"endsolid" in data[:2048].lower()


def _read_binary(data: bytes) -> AnyArray:
    if len(data) < 84:
        raise FormatError("a binary STL file begins with 84 bytes; this one is shorter", byte=len(data))
    count = int.from_bytes(data[80:84], "little")
    there = (len(data) - 84) // RECORD.itemsize
    if count > there:
        raise FormatError(
            f"the header promises {count:,} triangles, but there is room for {there:,}; the file is "
            "cut short or no STL",
            byte=84 + there * RECORD.itemsize,
        )
    records = np.frombuffer(data, RECORD, count, 84)
    corners = np.ascontiguousarray(records["corner"])
    if not all_finite(corners):
        bad = int(np.flatnonzero(~np.isfinite(corners).all(axis=(1, 2)))[0])
        raise FormatError("a place is not a finite number", byte=84 + bad * RECORD.itemsize)
    return corners


def _read_ascii(data: bytes) -> Floats:
    text = re.sub(rb"[ \t]*\n[ \t]*", b"\n", plain_text(data))
    lines = Lines(text.lower())
    at = lines.starting_with(b"vertex")
    body, size = lines.body(at, 6)
    counts = token_counts(body, size)
    if not len(at) or (counts != 3).any():
        bad = int(at[np.flatnonzero(counts != 3)[0]]) if len(at) else 0
        raise FormatError("a vertex needs three numbers" if len(at) else "there is no triangle", line=bad + 1)
    if len(at) % 3:
        raise FormatError("the last triangle has fewer than three corners; the file is cut short", line=int(at[-1]) + 1)
    places = numbers_of(body, 3 * len(at), at, size, not_finite=True).reshape(-1, 3)
    check_places(places, lambda row: {"line": int(at[row]) + 1})
    return places.reshape(-1, 3, 3)


@inline
def _normal(a: Floats, b: Floats, c: Floats) -> tuple[float, float, float]:
    ux, uy, uz = b[0] - a[0], b[1] - a[1], b[2] - a[2]
    vx, vy, vz = c[0] - a[0], c[1] - a[1], c[2] - a[2]
    nx, ny, nz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
    length = np.sqrt(nx * nx + ny * ny + nz * nz)
    return (nx / length, ny / length, nz / length) if length > 0.0 else (0.0, 0.0, 0.0)


@kernel
def _facets(places: Floats, corner_point: Indices, corner: Indices, numbers: Floats) -> None:
    """Write each triangle ``corner (T, 3)`` as a file holds it: its normal, then its places ``(T, 12)``."""
    for t in range(len(corner)):
        a = places[corner_point[corner[t, 0]]]
        b = places[corner_point[corner[t, 1]]]
        c = places[corner_point[corner[t, 2]]]
        numbers[t, 0], numbers[t, 1], numbers[t, 2] = _normal(a, b, c)
        for k in range(3):
            numbers[t, 3 + k], numbers[t, 6 + k], numbers[t, 9 + k] = a[k], b[k], c[k]


@kernel
def _records(places: Floats, corner_point: Indices, corner: Indices, halves: AnyArray) -> None:
    """The same as records of 50 bytes, by two of them ``(T, 25)``: single precision, and two bytes that say nothing."""
    row = np.zeros(12, np.float32)
    bits = row.view(np.uint16)
    for t in range(len(corner)):
        a = places[corner_point[corner[t, 0]]]
        b = places[corner_point[corner[t, 1]]]
        c = places[corner_point[corner[t, 2]]]
        row[0], row[1], row[2] = _normal(a, b, c)
        for k in range(3):
            row[3 + k], row[6 + k], row[9 + k] = a[k], b[k], c[k]
        for k in range(24):
            halves[t, k] = bits[k]
        halves[t, 24] = 0


def write(geo: Geo, encoding: str = "binary") -> bytes:
    """Return an STL file: every face cut into triangles, places in 32-bit floats. All attributes are left out."""
    cut = triangles(geo)
    lost = [name for named in geo.attributes.values() for name in named if name != "position"]
    if lost or geo.topology.curve_count:
        note(f"STL holds triangles only; left out: {', '.join(lost + ['curves'] * bool(geo.topology.curve_count))}.")
    if encoding == "ascii":
        numbers = np.empty((len(cut.corner), 12))
        _facets(geo.positions, geo.topology.corner_point, cut.corner, numbers)
        block = "facet normal %.9g %.9g %.9g\nouter loop\n" + "vertex %.9g %.9g %.9g\n" * 3 + "endloop\nendfacet\n"
        values = tuple(numbers.reshape(-1).tolist())
        return ("solid reticula\n" + (block * len(numbers)) % values + "endsolid reticula\n").encode()
    halves = np.empty((len(cut.corner), RECORD.itemsize // 2), np.uint16)
    _records(geo.positions, geo.topology.corner_point, cut.corner, halves)
    return b"".join((b"Reticula".ljust(80), len(halves).to_bytes(4, "little"), halves.data))


FORMAT = Format("stl", "STL", read, write, "triangles only", {"encoding": ("binary", "ascii")}, ENCODING, mapped=True)
