"""CSV as programs write it: separators, commas in numbers, remarks, dates, holes, with and without names."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes


def columns(text: str | bytes) -> dict[str, Any]:
    geo = read_bytes("log.csv", text if isinstance(text, bytes) else text.encode())
    return {name: found.values.tolist() for name, found in geo.attributes["point"].items()}


@pytest.mark.parametrize(
    "text", ["when,level\n0,1.5\n1,2\n", "when;level\n0;1,5\n1;2,0\n", "when\tlevel\r\n0\t1.5\r\n1\t2"]
)
def test_cells_are_between_commas_semicolons_or_tabs(text: str) -> None:
    found = columns(text)
    assert (found["when"], found["level"]) == ([0, 1], [1.5, 2.0])


def test_remarks_empty_lines_and_a_mark_of_the_encoding_are_passed_over() -> None:
    found = columns(b"\xef\xbb\xbf# a tide gauge\n\nlevel,name\n1,\xc3\xa4\n# between\n2,b\n")
    assert (found["level"], found["name"]) == ([1, 2], ["ä", "b"])
    assert columns("Höhe,b\n1,2\n".encode("latin-1"))["Höhe"] == [1]


def test_empty_cells_and_words_for_nothing_are_no_numbers() -> None:
    assert np.isnan(columns("a,b\n,1\nNA,1\n--,1\n3,1\n")["a"]).tolist() == [True, True, True, False]


def test_point_lists_need_no_names() -> None:
    assert columns("1 2 3\n 4  5 6\n")["position"] == [[1, 2, 3], [4, 5, 6]]
    assert columns("1,2,3\n4,5,6\n")["position"] == [[1, 2, 3], [4, 5, 6]]
    assert columns("1.0,2.5\n")["column_2"] == [2.5]


def test_dates_are_seconds() -> None:
    found = columns("when;level\n01.02.2026 10:00;3,25\n01.02.2026 10:30;4,5\n")
    assert np.diff(found["when"]).tolist() == [1800.0]
    assert np.diff(columns("when,v\n2026-02-01T10:00:00Z,1\n2026-02-01T10:00:05Z,2\n")["when"]).tolist() == [5.0]


def test_a_point_and_its_values_go_out_and_come_back() -> None:
    sheet = ops.grid(cells=[1, 1]).with_attribute("point", "name", ['a "b"', "c,d", "", "e\nf"])
    again = read_bytes("a.csv", write_bytes(sheet, "a.csv"))
    assert again.positions.tolist() == sheet.positions.tolist()
    assert again.attributes["point"]["name"].values.tolist() == ['a "b"', "c,d", "", "e\nf"]


@pytest.mark.parametrize(
    ("data", "told"),
    [
        (b"a,b\n1,2\n\n1,2,3\n", "line 4: this row has 3 cells, the first one 2"),
        (b"# nothing\n\n", "the file has no rows"),
        (b"a,b\n", "the table has no rows"),
        (b"\xff\xfea,b", "written in UTF-16"),
        (b"x,y\n0,1e400\n", "vertex 0 holds inf"),
    ],
)
def test_what_is_no_table_is_said_with_its_line(data: bytes, told: str) -> None:
    with pytest.raises(FormatError, match=told):
        read_bytes("log.csv", data)
