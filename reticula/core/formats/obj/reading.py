"""Reads OBJ.

Texture coordinates and normals become corner attributes ``uv`` and ``normal``; names after ``g`` face groups, those
after ``o`` the face attribute ``object``, those after ``usemtl`` the face attribute ``material``. Free-form curves and
smoothing groups are passed over, and that is noted.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, Ints, starts_from_sizes
from reticula.core.diagnostics import note, warn
from reticula.core.errors import FormatError
from reticula.core.finite import all_finite
from reticula.core.formats.obj.materials import with_materials
from reticula.core.formats.obj.writing import OBJECT
from reticula.core.formats.shared.places import check_places
from reticula.core.formats.shared.plain_text import plain_text
from reticula.core.formats.shared.text_lines import Lines, numbers_of, token_counts
from reticula.core.geometry import Attribute, Geo, Topology
from reticula.core.jit import kernel
from reticula.core.language.reserved import readable_name
from reticula.core.rows import unit

__all__ = ["read"]

PASSED_OVER = {
    b"s": "smoothing groups",
    b"curv": "free-form curves",
    b"surf": "free-form surfaces",
}


@kernel
def _references(text: AnyArray, line_size: Ints, out: Ints) -> int:
    """Read words like ``7/-2/3`` into ``out (N, 3)``; a missing part is 0. Returns the bad line, or -1."""
    at, row = 0, 0
    for line in range(len(line_size)):
        end = at + line_size[line]
        part, sign, value, digits = 0, 1, 0, 0
        inside = False
        while at < end:
            c = text[at]
            at += 1
            if c == 32 or (9 <= c <= 13):
                if inside:
                    if digits == 0 and part == 0:
                        return line
                    out[row, part] = sign * value
                    row += 1
                part, sign, value, digits = 0, 1, 0, 0
                inside = False
                continue
            inside = True
            if c == 47:
                if part == 2 or (part == 0 and digits == 0):
                    return line
                out[row, part] = sign * value
                part, sign, value, digits = part + 1, 1, 0, 0
            elif c == 45 and digits == 0 and sign == 1:
                sign = -1
            elif 48 <= c <= 57 and digits < 12:
                value = value * 10 + (c - 48)
                digits += 1
            else:
                return line
    return -1


def read(data: bytes, parts: Mapping[str, bytes] | None = None) -> Geo:
    """Read an OBJ file; ``parts`` are the files of materials that it may name. Raises FormatError with the line of
    whatever is wrong.
    """
    plain = plain_text(data, comment=b"#")
    plain = _continued(plain) if b"\\\n" in plain else plain
    lines = Lines(re.sub(rb"\n[ \t]+", b"\n", plain.lstrip(b" \t")))
    positions, colors = _vertices(lines)
    textures = _table(lines, b"vt", 2, least=1)
    normals = _table(lines, b"vn", 3)
    face_lines = lines.starting_with(b"f")
    curve_lines = lines.starting_with(b"l")
    faces, sizes = _indices(lines, face_lines, 1, 3)
    curve_refs, curve_sizes = _indices(lines, curve_lines, 1, 2)
    corner = _resolve(faces[:, 0], len(positions), lines, b"v", face_lines, sizes)
    along = _resolve(curve_refs[:, 0], len(positions), lines, b"v", curve_lines, curve_sizes)
    curve_start = starts_from_sizes(curve_sizes)
    along, curve_start, closed = _closing(along, curve_start)
    topology = Topology(len(positions), starts_from_sizes(sizes), corner, curve_start, along, closed)
    geo = Geo.of(positions, topology)
    if colors is not None:
        geo = geo.with_attribute("point", "color", colors)
    for name, table, column, word in (("uv", textures, 1, b"vt"), ("normal", normals, 2, b"vn")):
        given = faces[:, column] != 0
        if len(table) and given.any():
            index = np.zeros(len(faces), np.int64)
            used = np.repeat(np.arange(len(sizes)), sizes)
            owners, ones = face_lines[used[given]], np.ones(given.sum(), np.int64)
            try:
                index[given] = _resolve(faces[given, column], len(table), lines, word, owners, ones)
            except FormatError as error:
                warn(f"'{name}' is left out: {error}.")
                continue
            values = np.where(given[:, None], table[index], 0.0)
            geo = geo.with_attribute("corner", name, unit(values) if name == "normal" else values)
    geo = with_materials(_groups(geo, lines, face_lines), lines, face_lines, data, parts or {})
    skipped = [plain for word, plain in PASSED_OVER.items() if len(lines.starting_with(word))]
    if skipped:
        note(f"Passed over: {', '.join(skipped)}.")
    if not len(positions):
        raise FormatError("there is no vertex in this file; is it an OBJ file?")
    return geo


def _vertices(lines: Lines) -> tuple[Floats, Floats | None]:
    at = lines.starting_with(b"v")
    body, size = lines.body(at, 1)
    counts = token_counts(body, size)
    allowed = np.isin(counts, (3, 4, 6, 7))
    if not allowed.all():
        bad = int(np.flatnonzero(~allowed)[0])
        raise FormatError(
            f"a vertex has {counts[bad]} numbers; 3 are a place, 6 a place and a colour, 7 also how opaque it is",
            line=int(at[bad]) + 1,
        )
    values = numbers_of(body, int(counts.sum()), at, size, not_finite=True)
    begin = np.cumsum(counts) - counts
    positions = values[begin[:, None] + np.arange(3)] if len(at) else np.zeros((0, 3))
    check_places(positions, lambda row: {"line": int(at[row]) + 1})
    colored = counts >= 6
    if not colored.any():
        return positions, None
    colors = np.ones((len(at), 4))
    colors[colored, :3] = values[(begin + 3)[colored][:, None] + np.arange(3)]
    opaque = counts == 7
    colors[opaque, 3] = values[begin[opaque] + 6]
    if not all_finite(colors):
        bad = int(np.flatnonzero(~np.isfinite(colors).all(axis=1))[0])
        raise FormatError("a colour is not a finite number", line=int(at[bad]) + 1)
    if not colored.all():
        note(f"{int((~colored).sum()):,} vertices have no colour and are white.")
    return positions, colors


def _table(lines: Lines, word: bytes, width: int, *, least: int = 0) -> Floats:
    """Read the numbers after a word ``(N, width)``; those beyond ``least`` may be missing and are 0."""
    at = lines.starting_with(word)
    if not len(at):
        return np.zeros((0, width))
    body, size = lines.body(at, len(word))
    counts = token_counts(body, size)
    if counts.min() < (least or width):
        bad = int(counts.argmin())
        raise FormatError(
            f"'{word.decode()}' has {counts[bad]} numbers and needs {least or width}", line=int(at[bad]) + 1
        )
    values = np.append(numbers_of(body, int(counts.sum()), at, size), 0.0)
    column = np.arange(width)
    index = (np.cumsum(counts) - counts)[:, None] + column
    return values[np.where(column < counts[:, None], index, -1)]


def _indices(lines: Lines, at: Ints, skip: int, least: int) -> tuple[Ints, Ints]:
    body, size = lines.body(at, skip)
    counts = token_counts(body, size)
    if len(counts) and counts.min() < least:
        bad = int(counts.argmin())
        what = "face" if least == 3 else "line"
        raise FormatError(f"a {what} with {counts[bad]} vertices; it needs {least}", line=int(at[bad]) + 1)
    out = np.zeros((int(counts.sum()), 3), np.int64)
    bad = _references(np.frombuffer(body, np.uint8), size, out)
    if bad >= 0:
        raise FormatError(
            f"'{lines.text(int(at[bad]))[:60]}' holds something that is no vertex number", line=int(at[bad]) + 1
        )
    return out, counts


def _resolve(numbers: Ints, count: int, lines: Lines, word: bytes, owners: Ints, sizes: Ints) -> Indices:
    """Turn numbers from 1, or backwards from the vertices read so far, into indices from 0."""
    owner = np.repeat(owners, sizes)
    index = numbers - 1
    backwards = numbers < 0
    if backwards.any():
        so_far = np.searchsorted(lines.starting_with(word), owner[backwards])
        index[backwards] = so_far + numbers[backwards]
    bad = (index < 0) | (index >= count)
    if bad.any():
        first = int(np.flatnonzero(bad)[0])
        raise FormatError(
            f"'{word.decode()}' number {numbers[first]} does not exist; there are {count}", line=int(owner[first]) + 1
        )
    return index.astype(np.int32)


def _closing(along: Indices, start: Indices) -> tuple[Indices, Indices, AnyArray]:
    """A line that ends where it began (with 3 points or more) becomes a closed curve without the repeated point."""
    if len(start) < 2:
        return along, start, np.zeros(0, bool)
    sizes = np.diff(start)
    closed = (along[start[:-1]] == along[start[1:] - 1]) & (sizes > 3)
    keep = np.ones(len(along), bool)
    keep[(start[1:] - 1)[closed]] = False
    return along[keep], starts_from_sizes(sizes - closed), closed


def _groups(geo: Geo, lines: Lines, face_lines: Ints) -> Geo:
    """Make a face group of each name after ``g``, and the text ``object`` of the names after ``o``."""
    named: dict[str, Attribute] = {}
    at = lines.starting_with(b"g")
    begin = np.searchsorted(face_lines, at)
    end = np.append(begin, len(face_lines))[1:]
    members: dict[str, AnyArray] = {}
    for line, first, last in zip(at.tolist(), begin.tolist(), end.tolist(), strict=True):
        for word in lines.text(line).split()[1:]:
            if word not in ("default", "off", "(null)"):
                name = readable_name(word)
                if name not in members:
                    members[name] = np.zeros(len(face_lines), bool)
                members[name][first:last] = True
    for name, flags in members.items():
        named[name] = Attribute.of(flags)
    at = lines.starting_with(b"o")
    if len(at) and len(face_lines):
        words = np.array(["", *(lines.text(line)[1:].strip() for line in at.tolist())])
        named[OBJECT] = Attribute.of(words[np.searchsorted(at, face_lines)])
    return Geo(geo.topology, {**geo.attributes, "face": {**geo.attributes["face"], **named}})


def _continued(text: bytes) -> bytes:
    """Join lines that a backslash continues; empty lines follow, so that lines keep their numbers."""
    made, waiting = [], 0
    for line in text.split(b"\n"):
        if line.endswith(b"\\"):
            waiting += 1
            made.append(line[:-1] + b" ")
        else:
            made.append(line + b"\n" + b"\n" * waiting)
            waiting = 0
    return b"".join(made)
