"""CSV: points and their values, a row each, with or without a row of names.

After RFC 4180 (2005), and what programs write besides: semicolons, tabs, bars or blanks between cells, commas in
numbers then, lines of remarks that begin with ``#``. Cells may be empty: numbers are not a number there.
"""

from __future__ import annotations

import io
import re
from typing import TYPE_CHECKING

from reticula.core.errors import FormatError
from reticula.core.formats.format import Format
from reticula.core.formats.shared.arrow_tables import from_arrow, to_arrow
from reticula.core.formats.shared.plain_text import plain_text
from reticula.core.geometry import Geo

if TYPE_CHECKING:
    import pyarrow.csv

__all__ = ["FORMAT", "read", "write"]

SEPARATORS = (b";", b"\t", b"|", b",")
EMPTY = ["", "NA", "N/A", "n/a", "na", "NaN", "nan", "NULL", "null", "None", "none", "#N/A", "-", "--", "missing"]
LOOKED_AT = 50
"""Rows that tell how numbers are written."""
TIMES = ["%Y-%m-%d %H:%M", "%d.%m.%Y %H:%M:%S", "%d.%m.%Y %H:%M", "%d.%m.%Y"]
REMARK = re.compile(rb"(?m)^#[^\n]*")
BLANKS = re.compile(rb"(?<=\S)[ \t]+(?=\S)")
VALUE = re.compile(rb"[-+0-9.,:/TZeE ]*")
"""A number, a date or a time, or nothing."""


def read(data: bytes) -> Geo:
    """Read a CSV file; raise FormatError with the line of whatever is wrong."""
    import pyarrow as pa
    from pyarrow import csv

    text = REMARK.sub(b"", plain_text(data))
    lines = text.split(b"\n")
    filled = [number for number, line in enumerate(lines) if line.strip()]
    if not filled:
        raise FormatError("the file has no rows")
    begin = [lines[number] for number in filled[:LOOKED_AT]]
    first = begin[0]
    if not any(one in first.strip() for one in SEPARATORS) and BLANKS.search(first):
        text = BLANKS.sub(b"\t", text)
        begin = [BLANKS.sub(b"\t", line) for line in begin]
        first = begin[0]
    separator = max(SEPARATORS, key=first.count)
    named = not all(VALUE.fullmatch(cell.strip()) for cell in first.split(separator))
    try:
        table = csv.read_csv(
            io.BytesIO(text),
            read_options=csv.ReadOptions(
                use_threads=False,
                autogenerate_column_names=not named,
                encoding="utf8" if _is_utf8(text) else "latin1",
            ),
            parse_options=csv.ParseOptions(delimiter=separator.decode(), newlines_in_values=b'"' in text),
            convert_options=_conversion(separator, [cell.strip() for line in begin for cell in line.split(separator)]),
        )
    except pa.ArrowInvalid as error:
        raise _told(str(error), filled) from None
    if not named:
        listed = [f"column_{number + 1}" for number in range(table.num_columns)]
        table = table.rename_columns(list("xyz") if len(listed) == 3 else listed)
    return from_arrow(table)


def _conversion(separator: bytes, cells: list[bytes]) -> pyarrow.csv.ConvertOptions:
    """How cells are read; commas are in numbers where something else is between them, and no number has a point."""
    from pyarrow import csv

    comma, point = (any(re.fullmatch(rb"-?\d+[" + mark + rb"]\d+", cell) for cell in cells) for mark in (b",", b"."))
    return csv.ConvertOptions(
        null_values=EMPTY,
        true_values=["true", "True", "TRUE", "yes"],
        false_values=["false", "False", "FALSE", "no"],
        decimal_point="," if comma and not point else ".",
        timestamp_parsers=[csv.ISO8601, *TIMES],
        quoted_strings_can_be_null=True,
        strings_can_be_null=False,
    )


def _is_utf8(text: bytes) -> bool:
    try:
        text.decode()
    except UnicodeDecodeError:
        return False
    return True


def _told(message: str, filled: list[int]) -> FormatError:
    """Say with its line what the reader found."""
    row = re.search(r"#(\d+)", message)
    cells = re.search(r"Expected (\d+) columns, got (\d+)", message)
    at = filled[min(int(row[1]), len(filled)) - 1] + 1 if row else None
    if cells:
        return FormatError(f"this row has {cells[2]} cells, the first one {cells[1]}; mend or remove it", line=at)
    return FormatError(f"this is no table: {message.splitlines()[0][:200]}", line=at)


def write(geo: Geo) -> bytes:
    """Return a CSV file: points and their values, with a row of names. All else is left out."""
    from pyarrow import csv

    out = io.BytesIO()
    csv.write_csv(to_arrow(geo), out, csv.WriteOptions(quoting_style="needed"))
    return out.getvalue()


FORMAT = Format("csv", "CSV", read, write, "points and their values", faces=False)
