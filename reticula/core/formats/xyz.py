"""XYZ: points as rows of numbers between blanks, as scanners and survey programs write them.

There is no standard (common practice, no source): three numbers are a place; what follows are columns, named by a first
line, with or without ``#``, or told by their look: three whole numbers up to 255 are a colour in sRGB, three numbers of
length 1 a normal, one more number the strength of the echo. A first line of one number alone is the count of points.
"""

from __future__ import annotations

import re

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.formats.format import Format
from reticula.core.formats.shared.losses import losses
from reticula.core.formats.shared.places import check_places
from reticula.core.formats.shared.plain_text import plain_text
from reticula.core.formats.shared.text_lines import Lines, numbers_of, token_counts
from reticula.core.geometry import Attribute, Geo
from reticula.core.language.reserved import readable_name
from reticula.core.srgb import from_bytes

__all__ = ["FORMAT", "read", "write"]

PARTED = re.compile(r"(.+)\.([xyzw])")
LETTERS = "xyzw"


def read(data: bytes) -> Geo:
    """Read an XYZ file; raise FormatError with the line of whatever is wrong."""
    text = plain_text(data)
    names = _names(text)
    plain = re.sub(rb"#[^\n]*", b"", text)
    plain = re.sub(rb"[;,\t]", b" ", plain)
    lines = Lines(plain)
    at = np.flatnonzero(token_counts(*lines.body(np.arange(len(lines.begin)), 0)) > 0)
    at = at[1:] if len(at) and re.search(r"[^-+\d.eEnaif\s]", lines.text(int(at[0])), re.I) else at
    body, size = lines.body(at, 0)
    counts = token_counts(body, size)
    if len(counts) > 1 and counts[0] == 1:
        at, (body, size) = at[1:], lines.body(at[1:], 0)
        counts = counts[1:]
    if not len(at):
        raise FormatError("the file has no points")
    if (counts != counts[0]).any() or counts[0] < 3:
        bad = int(np.flatnonzero((counts != counts[0]) | (counts < 3))[0])
        raise FormatError(
            f"a row of {counts[bad]} numbers; {max(int(counts[0]), 3)} were expected", line=int(at[bad]) + 1
        )
    table = numbers_of(body, int(counts.sum()), at, size, not_finite=True).reshape(len(at), -1)
    check_places(table[:, :3], lambda row: {"line": int(at[row]) + 1})
    if names and len(names) != table.shape[1]:
        note(f"The first line names {len(names)} columns; the rows have {table.shape[1]}. The names were left out.")
        names = []
    return _valued(Geo.of(table[:, :3]), table[:, 3:], names[3:])


def _names(text: bytes) -> list[str]:
    """Return the names of the columns, if a first line has some."""
    first = next((line for line in text.split(b"\n") if line.strip()), b"").decode("utf-8", "replace")
    words = re.sub(r"[;,\t]", " ", first.strip().lstrip("#/")).split()
    named = [word.lower() for word in words[:3]] == ["x", "y", "z"]
    return words if named else []


def _valued(geo: Geo, rest: Floats, names: list[str]) -> Geo:
    if not rest.shape[1]:
        return geo
    for name, columns in _told(rest) if not names else _named(names):
        values = rest[:, columns]
        if name == "color" and _are_bytes(values):
            geo = geo.with_attribute("point", name, from_bytes(values.astype(np.uint8)))
        elif name == "color":
            geo = geo.with_attribute("point", name, np.concatenate([values, np.ones((len(values), 1))], axis=1)[:, :4])
        elif len(columns) > 1:
            geo = geo.with_attribute("point", name, values)
        else:
            whole = bool((values == np.floor(values)).all() and (np.abs(values) < 2**53).all())
            geo = geo.with_attribute(
                "point", name, Attribute.of(values[:, 0].astype(np.int64 if whole else np.float64))
            )
    return geo


def _are_bytes(values: Floats) -> bool:
    return bool(((values >= 0) & (values <= 255) & (values == np.floor(values))).all() and values.max(initial=0) > 1)


def _told(rest: Floats) -> list[tuple[str, list[int]]]:
    """Return what columns without names look like."""
    wide, at = rest.shape[1], 0
    made: list[tuple[str, list[int]]] = []
    if wide in (1, 4, 7) and not (wide == 4 and _are_bytes(rest)):
        made.append(("strength", [0]))
        at = 1
    while wide - at >= 3:
        three = list(range(at, at + 3))
        known = {name for name, _ in made}
        length = np.linalg.norm(rest[:, three], axis=1)
        if _are_bytes(rest[:, three]) and "color" not in known:
            four = [*three, at + 3] if wide - at == 4 and _are_bytes(rest[:, [at + 3]]) else three
            made.append(("color", four))
            three = four
        elif (np.abs(length - 1.0) < 0.01).all() and "normal" not in known:
            made.append(("normal", three))
        else:
            break
        at += len(three)
    return [*made, *((f"value_{column + 1}", [column]) for column in range(at, wide))]


def _named(names: list[str]) -> list[tuple[str, list[int]]]:
    """Return the values that named columns make: ``drift.x drift.y drift.z`` are one vector, ``r g b`` a colour."""
    made: list[tuple[str, list[int]]] = []
    at = 0
    lower = [name.lower() for name in names]
    while at < len(names):
        run = next(
            (
                words
                for words in (["r", "g", "b", "a"], ["r", "g", "b"], ["red", "green", "blue"])
                if lower[at : at + len(words)] == words
            ),
            None,
        )
        if run:
            made.append(("color", list(range(at, at + len(run)))))
            at += len(run)
            continue
        if lower[at : at + 3] == ["nx", "ny", "nz"]:
            made.append(("normal", [at, at + 1, at + 2]))
            at += 3
            continue
        part = PARTED.fullmatch(names[at])
        many = 1
        while part and at + many < len(names) and many < 4 and names[at + many] == f"{part[1]}.{LETTERS[many]}":
            many += 1
        if part and part[2] == "x" and many > 1:
            made.append((readable_name(part[1]), list(range(at, at + many))))
        else:
            many = 1
            made.append((readable_name(names[at]), [at]))
        at += many
    return made


def write(geo: Geo) -> bytes:
    """Return an XYZ file: a row of numbers for each point, below a line that names them. All else is left out."""
    names, columns, lost = list("xyz"), [geo.positions], []
    for name, found in geo.attributes["point"].items():
        if name == "position":
            continue
        if found.start is not None or found.info.dtype is np.str_ or len(found.info.shape) > 1:
            lost.append(f"point {name}")
            continue
        values = found.values.astype(np.float64).reshape(len(found), -1)
        columns.append(values)
        if name == "color" and values.shape[1] == 4:
            names += list("rgba")
        elif name == "normal" and values.shape[1] == 3:
            names += ["nx", "ny", "nz"]
        else:
            names += [f"{name}.{letter}" for letter in LETTERS[: values.shape[1]]] if values.shape[1] > 1 else [name]
    lost += losses(geo, {("point", name) for name in geo.attributes["point"]}, ("faces", "curves"))
    if lost:
        note(f"XYZ holds points alone; left out: {', '.join(lost)}.")
    table = np.concatenate(columns, axis=1)
    row = " ".join(["%.17g"] * table.shape[1]) + "\n"
    return f"# {' '.join(names)}\n{(row * len(table)) % tuple(table.reshape(-1).tolist())}".encode()


FORMAT = Format("xyz", "XYZ", read, write, "points and their values", faces=False)
