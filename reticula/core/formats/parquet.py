"""Parquet: points and their values in columns, types kept. After the Apache Parquet format; Arrow reads and writes."""

from __future__ import annotations

import io

from reticula.core.errors import FormatError
from reticula.core.formats.format import Format
from reticula.core.formats.shared.arrow_tables import from_arrow, to_arrow
from reticula.core.geometry import Geo

__all__ = ["FORMAT", "read", "write"]

MOST_CELLS = 500_000_000


def read(data: bytes) -> Geo:
    """Read a Parquet file; raise FormatError if it is none, or damaged, or too large when it is unpacked."""
    import pyarrow as pa
    from pyarrow import parquet

    try:
        file = parquet.ParquetFile(io.BytesIO(data))
        cells = file.metadata.num_rows * file.metadata.num_columns
        if cells > MOST_CELLS:
            raise FormatError(f"the table has {cells:,} cells; {MOST_CELLS:,} is the most")
        table = file.read(use_threads=False)
    except (pa.ArrowException, OSError, ValueError) as error:
        if isinstance(error, FormatError):
            raise
        raise FormatError(f"this is no Parquet file, or a damaged one: {str(error).splitlines()[0][:200]}") from None
    return from_arrow(table)


def write(geo: Geo) -> bytes:
    """Return a Parquet file: points and their values. All else is left out."""
    from pyarrow import parquet

    out = io.BytesIO()
    parquet.write_table(to_arrow(geo), out)
    return out.getvalue()


FORMAT = Format("parquet", "Parquet", read, write, "points and their values", faces=False)
