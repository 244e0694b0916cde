"""The rows of a batch: every file that a pattern finds with every row of a table, and where each result goes."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from glob import glob
from itertools import product
from pathlib import Path
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.formats import format_of

__all__ = ["MOST_ROWS", "Row", "rows_of", "with_variants"]

MOST_ROWS = 1_000_000
NAME, NUMBER = "name", "row"
PLACE = re.compile(r"\{([^{}]*)\}")
UNSAFE = re.compile(r"[^\w.+-]+")


@dataclass(frozen=True)
class Row:
    """One result to be made. ``files`` are paths by the name of an input or shape, ``values`` what is set, ``kept``
    the columns of the table that set nothing; ``out`` is where it goes, empty for nowhere.
    """

    number: int
    name: str
    files: Mapping[str, str] = field(default_factory=dict)
    values: Mapping[str, Any] = field(default_factory=dict)
    kept: Mapping[str, Any] = field(default_factory=dict)
    out: str = ""


def with_variants(
    table: Sequence[Mapping[str, Any]], variants: Sequence[Mapping[str, Any]]
) -> Sequence[Mapping[str, Any]]:
    """Return every row of a table with every variant; raise GraphError for a value that both give."""
    if not variants[0]:
        return table
    for name in variants[0]:
        if any(name in row for row in table):
            raise GraphError(f"'{name}' is varied, and a column of the table; take one of them away")
    return [{**row, **variant} for row in table or [{}] for variant in variants]


def rows_of(
    patterns: Mapping[str, str],
    table: Sequence[Mapping[str, Any]],
    *,
    accepts: Iterable[str],
    settable: Callable[[str], bool],
    out: str = "",
    folder: Path = Path(),
) -> list[Row]:
    """Return every row to be made: every combination of the files that ``patterns`` find, with every row of the table.

    A column of the table is a value that is ``settable``, a file for one that is ``accepted`` (below
    ``folder``), or ``name``; any other one is kept beside the result. ``{name}``, ``{row}`` and every column, dial and
    input may stand in ``out``. Raises GraphError for a pattern that finds nothing, for a name that is given twice,
    and if two rows would be written to one file.
    """
    known = set(accepts)
    columns = {name for row in table for name in row}
    for name in patterns:
        if name not in known:
            raise GraphError(f"nothing is called '{name}'; there are {', '.join(sorted(known)) or 'no inputs'}")
        if name in columns:
            raise GraphError(f"'{name}' is given by a pattern and by a column of the table; take one of them away")
    found = {name: _found(name, pattern) for name, pattern in patterns.items()}
    total = max(len(table), 1)
    for there in found.values():
        total *= len(there)
    if total > MOST_ROWS:
        raise GraphError(f"these are {total:,} results; {MOST_ROWS:,} is the most at a time")
    made: list[Row] = []
    for cells, combination in product(table or [{}], product(*found.values())):
        files = dict(zip(found, combination, strict=True))
        files |= {name: str(folder / str(cell)) for name, cell in cells.items() if name in known and cell is not None}
        values = {k: v for k, v in cells.items() if v is not None and k not in known and settable(k)}
        kept = {k: v for k, v in cells.items() if k not in known and k not in values and k != NAME}
        name = str(cells.get(NAME) or "-".join(Path(one).stem for one in files.values()) or f"{len(made) + 1}")
        row = Row(len(made) + 1, name, files, values, kept)
        made.append(Row(row.number, name, files, values, kept, _place(out, row) if out else ""))
    _check_places(made, out)
    return made


def _found(name: str, pattern: str) -> list[str]:
    files = sorted(one for one in glob(pattern, recursive=True) if Path(one).is_file())
    if not files:
        raise GraphError(f"'{pattern}' for '{name}' finds no file")
    return files


def _place(out: str, row: Row) -> str:
    known = {
        **row.kept,
        **row.values,
        **{name: Path(file).stem for name, file in row.files.items()},
        NAME: row.name,
        NUMBER: f"{row.number:04}",
    }

    def put(match: re.Match[str]) -> str:
        if match[1] not in known:
            raise GraphError(f"'{{{match[1]}}}' of '{out}' is unknown; there are {', '.join(sorted(known))}")
        return UNSAFE.sub("_", str(known[match[1]]))

    return PLACE.sub(put, out)


def _check_places(rows: Sequence[Row], out: str) -> None:
    if not out:
        return
    format_of(out)
    twice = {place: times for place, times in Counter(row.out for row in rows).items() if times > 1}
    if twice:
        first = next(iter(twice))
        raise GraphError(
            f"{sum(twice.values()):,} results would be written over each other ({first}); put {{row}} in it"
        )
