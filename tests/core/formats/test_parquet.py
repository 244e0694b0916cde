"""Parquet: columns with their types, and files that are none."""

from __future__ import annotations

import io

import numpy as np
import pyarrow as pa
import pytest
from pyarrow import parquet

from reticula.core import ops
from reticula.core.errors import FormatError
from reticula.core.formats import parquet as ours
from reticula.core.formats import read_bytes, write_bytes


def test_points_and_their_values_go_out_and_come_back() -> None:
    sheet = ops.grid(cells=[2, 2]).with_attribute("point", "rank", np.arange(9))
    sheet = sheet.with_attribute("point", "open", np.arange(9) > 3).with_attribute("point", "name", list("abcdefghi"))
    again = read_bytes("a.parquet", write_bytes(sheet, "a.parquet"))
    for name, found in sheet.attributes["point"].items():
        assert again.attributes["point"][name].type == found.type
        assert np.array_equal(again.attributes["point"][name].values, found.values)


def test_files_of_another_program_are_read_in_parts() -> None:
    out = io.BytesIO()
    parquet.write_table(pa.table({"hours": range(100), "level": pa.array([0.5] * 100, pa.float32())}), out, 10)
    again = read_bytes("a.parquet", out.getvalue())
    assert again.attributes["point"]["hours"].values.tolist() == list(range(100))


def test_damaged_and_too_large_files_are_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    data = write_bytes(ops.grid(), "a.parquet")
    with pytest.raises(FormatError, match="no Parquet file, or a damaged one"):
        read_bytes("a.parquet", data[:-6])
    monkeypatch.setattr(ours, "MOST_CELLS", 10)
    with pytest.raises(FormatError, match="cells; 10 is the most"):
        read_bytes("a.parquet", data)
