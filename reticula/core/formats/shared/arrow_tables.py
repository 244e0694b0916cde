"""Tables of rows and named columns, as Apache Arrow holds them, as points with values, and back.

A row is a point. Columns called x, y and z are its place; ``drift.x``, ``drift.y``, ``drift.z`` are one vector.
Whatever is a date or a time becomes a number of seconds.
"""

from __future__ import annotations

import re
from typing import TYPE_CHECKING, Any

import numpy as np

from reticula.core.arrays import AnyArray, Floats, as_rows
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.formats.shared.places import check_places
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.attribute_types import TYPES
from reticula.core.language.reserved import readable_name

if TYPE_CHECKING:
    import pyarrow as pa

__all__ = ["from_arrow", "rows_in_words", "to_arrow"]

UNIT = re.compile(r"\s*[\[(][^\])]*[\])]\s*$")
"""A unit at the end of a column's name: ``level [m]``."""
PARTS = {name: letter for letter in "xyzw" for name in (letter, letter.upper())}
MOST_COLUMNS = 1_000
MOST_SAID = 5


def from_arrow(table: pa.Table) -> Geo:
    """Return the rows of a table as points; raise FormatError for a table without rows or places that cannot be."""
    if not table.num_columns or not table.num_rows:
        raise FormatError("the table has no rows" if table.num_columns else "the table has no columns")
    if table.num_columns > MOST_COLUMNS:
        raise FormatError(f"the table has {table.num_columns:,} columns; {MOST_COLUMNS:,} is the most")
    columns: dict[str, AnyArray] = {}
    for name, column in zip(table.column_names, table.columns, strict=True):
        values = _values(name, column.combine_chunks())
        if values is not None:
            called = _free(_name(name), columns)
            columns[called] = values
            if called != UNIT.sub("", name).strip():
                note(f"The column '{name}' is called '{called}' here.")
    geo = Geo.of(_places(columns, table.num_rows))
    for name, values in _joined(columns).items():
        geo = geo.with_attribute("point", name, values)
    return geo


def _name(column: str) -> str:
    """The name of an attribute for a column's, which may have a unit behind it."""
    stem, dot, part = UNIT.sub("", column).strip().rpartition(".")
    return f"{readable_name(stem)}.{PARTS[part]}" if dot and part in PARTS else readable_name(f"{stem}{dot}{part}")


def _free(name: str, taken: dict[str, AnyArray]) -> str:
    return next(free for free in [name, *(f"{name}_{n}" for n in range(2, MOST_COLUMNS + 2))] if free not in taken)


def _values(name: str, column: pa.Array) -> AnyArray | None:
    """Return the values of a column ``(N,)``, not a number where it has none; None for what cannot be held."""
    import pyarrow as pa
    import pyarrow.compute as pc

    is_a = pa.types
    kind = column.type
    if is_a.is_dictionary(kind):
        column, kind = column.dictionary_decode(), kind.value_type
    if is_a.is_null(kind):
        note(f"The column '{name}' is empty and was left out.")
        return None
    if is_a.is_string(kind) or is_a.is_large_string(kind):
        return np.array(pc.fill_null(column, "").to_pylist(), dtype=str)
    if is_a.is_temporal(kind):
        column = _seconds(column)
        note(f"The times in '{name}' became seconds{' since 1970' if is_a.is_timestamp(kind) else ''}.")
    elif is_a.is_boolean(kind):
        column = pc.fill_null(column, False) if column.null_count else column
        return np.asarray(column.to_numpy(zero_copy_only=False), dtype=bool)
    elif is_a.is_decimal(kind):
        column = column.cast(pa.float64())
    elif not (is_a.is_integer(kind) or is_a.is_floating(kind)):
        note(f"The column '{name}' holds {kind} and was left out.")
        return None
    whole = is_a.is_integer(column.type) and not column.null_count and column.type != pa.uint64()
    values: AnyArray = column.to_numpy(zero_copy_only=False).astype(np.int64 if whole else np.float64)
    missing = np.flatnonzero(values != values)  # not a number
    if len(missing):
        note(f"{len(missing):,} of {len(values):,} rows have no value in '{name}': {rows_in_words(missing)}.")
    return values


def _seconds(column: pa.Array) -> pa.Array:
    import pyarrow as pa
    import pyarrow.compute as pc

    kind = column.type
    if pa.types.is_date(kind):
        column, kind = column.cast(pa.timestamp("us")), pa.timestamp("us")
    per_second = {"s": 1.0, "ms": 1e3, "us": 1e6, "ns": 1e9}[kind.unit]
    whole = column.cast(pa.int32()).cast(pa.int64()) if kind.bit_width == 32 else column.cast(pa.int64())
    return pc.divide(whole.cast(pa.float64(), safe=False), per_second)


def rows_in_words(rows: Any) -> str:
    """Return which rows, counted from 0, are meant, as they are said: counted from 1, the first few."""
    listed = [f"{int(row) + 1:,}" for row in rows[:MOST_SAID]]
    word = "row" if len(rows) == 1 else "rows"
    more = f" and {len(rows) - MOST_SAID:,} more" if len(rows) > MOST_SAID else ""
    return f"{word} {', '.join(listed)}{more}"


def _places(columns: dict[str, AnyArray], count: int) -> Floats:
    """Take the columns x, y and z out, and return the places in m; without them the rows stand in a line along x."""
    named = {name.lower(): name for name in columns if name.lower() in ("x", "y", "z")}
    if not {"x", "y"} <= set(named) or any(columns[name].dtype.kind not in "fi" for name in named.values()):
        note("The table has no x and y: its rows stand in a line along x, 1 m apart.")
        return np.stack([np.arange(count, dtype=np.float64), np.zeros(count), np.zeros(count)], axis=1)
    zero = np.zeros(count)
    taken = {letter: columns.pop(name) for letter, name in named.items()}
    places = np.stack([taken.get(letter, zero).astype(np.float64) for letter in "xyz"], axis=1)
    check_places(places)
    return places


def _joined(columns: dict[str, AnyArray]) -> dict[str, AnyArray]:
    """Return the columns with those of one vector joined."""
    made: dict[str, AnyArray] = {}
    for name, values in columns.items():
        stem, dot, part = name.rpartition(".")
        parts = [columns.get(f"{stem}.{letter}") for letter in "xyzw"] if dot else []
        size = next((n for n, one in enumerate(parts) if one is None or one.dtype.kind not in "fi"), len(parts))
        if size < 2:
            made[_free(readable_name(name), made)] = values
        elif part == "x":
            stacked = [one for one in parts[:size] if one is not None]
            made[_free(stem, made)] = np.stack(stacked, axis=1).astype(np.float64)
        elif "xyzw".index(part) >= size:
            made[_free(readable_name(name), made)] = values
    return made


def to_arrow(geo: Geo) -> pa.Table:
    """Return the points of a geometry as a table, a row each; note what a table cannot hold."""
    import pyarrow as pa

    columns: dict[str, AnyArray] = dict(zip("xyz", geo.positions.T, strict=True))
    lost = []
    for name, attribute in geo.attributes["point"].items():
        kind = TYPES[attribute.type]
        if name == "position":
            continue
        if kind.is_list or kind.shown == "matrix":
            lost.append(name)
        elif kind.is_single:
            columns[name] = attribute.values
        else:
            rows = as_rows(attribute.values)
            columns |= {f"{name}.{part}": rows[:, at] for at, part in enumerate(kind.parts)}
    shape = geo.topology
    lost += ["faces"] * bool(shape.face_count) + ["curves"] * bool(shape.curve_count)
    lost += [name for kind, named in geo.attributes.items() if kind != "point" for name in named]
    if lost:
        note(f"A table holds points and their values; left out: {', '.join(lost)}.")
    return pa.table({name: pa.array(np.ascontiguousarray(values)) for name, values in columns.items()})
