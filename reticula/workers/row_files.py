"""Tables whose rows say what is made many times."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.values import value_of_text

__all__ = ["read_table"]


def read_table(path: Path, most: int | None = None) -> list[dict[str, Any]]:
    """Return the rows of a CSV or Parquet file; empty cells are None. Raises GraphError for any other file, and for one
    that has more than ``most`` rows.
    """
    import pyarrow as pa
    from pyarrow import csv, parquet

    try:
        if path.suffix.lower() == ".csv":
            table = csv.read_csv(path, convert_options=csv.ConvertOptions(strings_can_be_null=True))
        elif path.suffix.lower() in (".parquet", ".pq"):
            table = parquet.read_table(path)
        else:
            raise GraphError(f"the table '{path}' is neither .csv nor .parquet")
    except (pa.ArrowInvalid, FileNotFoundError) as error:
        raise GraphError(f"the table '{path}' cannot be read: {error}") from None
    if most is not None and table.num_rows > most:
        raise GraphError(f"the table '{path.name}' has {table.num_rows:,} rows; {most:,} is the most")
    rows: list[dict[str, Any]] = table.to_pylist()
    if not rows:
        raise GraphError(f"the table '{path}' has no rows")
    return [{name: _plain(cell, name, at) for name, cell in row.items()} for at, row in enumerate(rows, 1)]


def _plain(cell: Any, name: str, row: int) -> Any:
    """Return a cell as JSON can hold it; texts that are JSON, such as vectors, are what they say, and what is no number
    is an empty cell. Raises GraphError for a number that is not finite.
    """
    if isinstance(cell, str):
        return value_of_text(cell) if cell.lstrip()[:1] in ("[", "{") else cell
    if isinstance(cell, list):
        return [_plain(one, name, row) for one in cell]
    if isinstance(cell, float) and math.isinf(cell):
        raise GraphError(f"'{name}' of row {row} is infinite; numbers are finite")
    if isinstance(cell, float) and math.isnan(cell):
        return None
    return cell if cell is None or isinstance(cell, (bool, int, float)) else str(cell)
