"""OFF: points and polygons, with normals, colours and uv of points, and colours of faces.

After the Geomview manual, "OFF Files" (The Geometry Center, 1996): text, with the prefixes ``ST``, ``C`` and ``N``.
Colours in whole numbers are taken as sRGB and made linear, those in floats are taken as linear (common practice, no
source).
"""

from __future__ import annotations

import re

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Ints, ragged_index, starts_from_sizes
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.finite import all_finite
from reticula.core.formats.format import Format
from reticula.core.formats.shared.losses import losses
from reticula.core.formats.shared.places import check_places
from reticula.core.formats.shared.plain_text import plain_text
from reticula.core.formats.shared.text_lines import Lines, numbers_of, token_counts
from reticula.core.geometry import Geo, Topology
from reticula.core.rows import unit
from reticula.core.srgb import to_linear

__all__ = ["FORMAT", "read", "write"]

HEAD = re.compile(rb"\s*(ST)?(C)?(N)?(4)?(n)?OFF\b[ \t]*(BINARY)?")


def read(data: bytes) -> Geo:
    """Read an OFF file; raise FormatError with the line of whatever is wrong."""
    text = plain_text(data, comment=b"#")
    head = HEAD.match(text)
    if head and (head[4] or head[5] or head[6]):
        raise FormatError("OFF in binary or with more than three dimensions is not read; save it as text", line=1)
    texture, color, normal = (head[1], head[2], head[3]) if head else (None, None, None)
    lines = Lines(b" " * head.end() + text[head.end() :] if head else text)
    filled = np.flatnonzero(token_counts(*lines.body(np.arange(len(lines.begin)), 0)) > 0)
    if not len(filled):
        raise FormatError("the file holds no counts of points and faces", line=1)
    body, size = lines.body(filled[:1], 0)
    counts = numbers_of(body, int(token_counts(body, size)[0]), filled[:1], size)
    if len(counts) < 2 or (counts < 0).any() or (counts != np.floor(counts)).any():
        raise FormatError("an OFF begins with the counts of points, faces and edges", line=int(filled[0]) + 1)
    points, faces = int(counts[0]), int(counts[1])
    if points + faces > len(filled) - 1:
        raise FormatError(
            f"the head promises {points:,} points and {faces:,} faces; there are {len(filled) - 1:,} lines",
            line=int(filled[0]) + 1,
        )
    geo = _vertices(lines, filled[1 : 1 + points], bool(texture), bool(color), bool(normal))
    return _faces(lines, filled[1 + points : 1 + points + faces], geo)


def _rows(lines: Lines, at: Ints) -> tuple[Floats, Ints]:
    """Return the numbers of some lines, and where those of each begin."""
    body, size = lines.body(at, 0)
    counts = token_counts(body, size)
    return numbers_of(body, int(counts.sum()), at, size, not_finite=True), starts_from_sizes(counts).astype(np.int64)


def _vertices(lines: Lines, at: Ints, texture: bool, color: bool, normal: bool) -> Geo:
    values, start = _rows(lines, at)
    sizes = np.diff(start)
    least = 3 + 3 * normal + 3 * color + 2 * texture
    if len(at) and sizes.min() < least:
        bad = int(sizes.argmin())
        raise FormatError(f"a point has {sizes[bad]} numbers and needs {least}", line=int(at[bad]) + 1)
    column = start[:-1, None]
    places = values[column + np.arange(3)] if len(at) else np.zeros((0, 3))
    check_places(places, lambda row: {"line": int(at[row]) + 1})
    named = {}
    done = 3
    if normal:
        named["normal"] = unit(values[column + done + np.arange(3)])
        done += 3
    if color:
        wide = int(min(sizes.min() - done - 2 * texture, 4)) if len(at) else 3
        named["color"] = _colors(values[column + done + np.arange(wide)])
    if texture:
        named["uv"] = values[start[1:, None] - 2 + np.arange(2)]
    if any(not all_finite(found) for found in named.values()):
        raise FormatError("a value of a point is not a finite number", line=int(at[0]) + 1)
    return Geo.of(places, None, **named)


def _colors(given: Floats) -> Floats:
    """Return colours ``(N, 3)`` or ``(N, 4)`` as linear ones with opacity: whole numbers beyond 1 are bytes in sRGB."""
    made = np.ones((len(given), 4))
    made[:, : given.shape[1]] = given
    if len(given) and given.max() > 1.0 and (given == np.floor(given)).all():
        made[:, : given.shape[1]] /= 255.0
        made[:, :3] = to_linear(np.clip(made[:, :3], 0.0, 1.0))
    return made


def _faces(lines: Lines, at: Ints, geo: Geo) -> Geo:
    if not len(at):
        return geo
    values, start = _rows(lines, at)
    sizes, given = values[start[:-1]], np.diff(start)
    whole = (sizes == np.floor(sizes)) & (sizes >= 0) & (sizes < given)
    if not whole.all():
        bad = int(np.flatnonzero(~whole)[0])
        raise FormatError("a face tells its number of points and then these", line=int(at[bad]) + 1)
    count = sizes.astype(np.int64)
    kept = count >= 3
    if not kept.all():
        note(f"Left out {int((~kept).sum()):,} faces with fewer than three points.")
    index = ragged_index(
        np.stack([start[:-1] + 1, start[:-1] + 1 + count], axis=1).reshape(-1), 2 * np.flatnonzero(kept)
    )
    corner = values[index[0]]
    bad_corner = ~((corner >= 0) & (corner < geo.topology.point_count) & (corner == np.floor(corner)))
    if bad_corner.any():
        first = int(np.flatnonzero(bad_corner)[0])
        owner = int(np.searchsorted(np.cumsum(count[kept]), first, side="right"))
        line = int(at[np.flatnonzero(kept)[owner]]) + 1
        raise FormatError(
            f"a face uses point {corner[first]:g}; there are {geo.topology.point_count}, counted from 0", line=line
        )
    topology = Topology(geo.topology.point_count, starts_from_sizes(count[kept]), corner.astype(np.int32))
    made = Geo(topology, {"point": geo.attributes["point"]})
    rest = given - 1 - count
    if (rest[kept] >= 3).any():
        made = made.with_attribute("face", "color", _face_colors(values, (start[:-1] + 1 + count)[kept], rest[kept]))
    elif (rest[kept] == 1).any():
        note("Colours of faces by a number in a table were left out: the table is not in the file.")
    return made


def _face_colors(values: Floats, begin: Ints, rest: Ints) -> Floats:
    colors = np.ones((len(begin), 4))
    for wide in (3, 4):
        some = np.flatnonzero(rest >= 4 if wide == 4 else rest == 3)
        if len(some):
            colors[some] = _colors(values[begin[some, None] + np.arange(wide)])
    if not all_finite(colors):
        raise FormatError("a colour of a face is not a finite number")
    return colors


def write(geo: Geo) -> bytes:
    """Return an OFF file: points with normals, colours and uv, and faces with their colours. All else is left out."""
    named = geo.attributes["point"]
    parts: list[AnyArray] = [geo.positions]
    prefix = ""
    for name, mark, types in (("normal", "N", ("vec3",)), ("color", "C", ("vec4",)), ("uv", "ST", ("vec2",))):
        if name in named and named[name].type in types:
            parts.append(named[name].values)
            prefix = mark + prefix
    shape = geo.topology
    table = np.concatenate(parts, axis=1)
    row = " ".join(["%.17g"] * table.shape[1]) + "\n"
    text = [
        f"{prefix}OFF\n{shape.point_count} {shape.face_count} 0\n",
        (row * len(table)) % tuple(table.reshape(-1).tolist()),
    ]
    colors = geo.find("face", "color").values if _face_colored(geo) else None
    text.append(_face_text(geo, colors))
    _say_what_is_lost(geo, colors is not None)
    return "".join(text).encode()


def _face_colored(geo: Geo) -> bool:
    return geo.has("face", "color") and geo.find("face", "color").type == "vec4"


def _face_text(geo: Geo, colors: AnyArray | None) -> str:
    shape = geo.topology
    sizes = np.diff(shape.face_start)
    made = np.empty(shape.face_count, object)
    for size in np.unique(sizes).tolist():
        some = np.flatnonzero(sizes == size)
        corners = shape.corner_point[shape.face_start[some][:, None] + np.arange(size)]
        row = " ".join([str(size), *["%d"] * size])
        values: AnyArray = corners
        if colors is not None:
            row += " %.17g" * 4
            values = np.concatenate([corners.astype(np.float64), colors[some]], axis=1)
        made[some] = ((row + "\n") * len(some) % tuple(values.reshape(-1).tolist())).splitlines(True)
    return "".join(made.tolist())


def _say_what_is_lost(geo: Geo, colored: bool) -> None:
    kept = {("point", "position"), ("point", "normal"), ("point", "color"), ("point", "uv")}
    kept |= {("face", "color")} if colored else set()
    lost = losses(geo, kept, ("curves",))
    if lost:
        note(f"OFF cannot hold {', '.join(lost)}; write PLY to keep them.")


FORMAT = Format("off", "OFF", read, write, "faces, and normals, colours and uv of points")
