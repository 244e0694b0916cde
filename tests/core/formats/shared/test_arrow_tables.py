"""Tables as points: columns become values, places and vectors, and back."""

from __future__ import annotations

import datetime

import numpy as np
import pyarrow as pa
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats.shared.arrow_tables import from_arrow, rows_in_words, to_arrow


def test_columns_of_every_type_become_values_and_what_is_missing_is_said(notes: list[Note]) -> None:
    made = from_arrow(
        pa.table(
            {
                "x": [0.0, 1.0, 2.0],
                "y": [1, 1, 1],
                "rank": [1, 2, 3],
                "some": pa.array([1, None, 3]),
                "level [cm]": [0.5, None, float("nan")],
                "open": [True, None, False],
                "name": pa.array(["a", None, "b"]).dictionary_encode(),
                "when": [datetime.datetime(1970, 1, 1, 0, 1), None, datetime.datetime(1970, 1, 2)],
                "nothing": pa.nulls(3),
                "pair": [[1, 2]] * 3,
            }
        )
    )
    points = made.attributes["point"]
    assert made.positions.tolist() == [[0, 1, 0], [1, 1, 0], [2, 1, 0]]
    assert points["rank"].type == "integer"
    assert points["some"].values[[0, 2]].tolist() == [1.0, 3.0]
    assert np.isnan(points["some"].values[1])
    assert np.isnan(points["level"].values).tolist() == [False, True, True]
    assert points["open"].values.tolist() == [True, False, False]
    assert points["name"].values.tolist() == ["a", "", "b"]
    assert points["when"].values[[0, 2]].tolist() == [60.0, 86400.0]
    told = " ".join(note.text for note in notes)
    assert "2 of 3 rows have no value in 'level [cm]': rows 2, 3." in told
    assert "The column 'nothing' is empty and was left out." in told
    assert "The column 'pair' holds list<" in told
    assert not {"nothing", "pair"} & set(points)


def test_components_are_joined_and_names_made_readable(notes: list[Note]) -> None:
    made = from_arrow(pa.table({"drift.x": [1.0], "drift.y": [2.0], "drift.z": [3.0], "lone.y": [4.0], "time": [0]}))
    points = made.attributes["point"]
    assert points["drift"].values.tolist() == [[1.0, 2.0, 3.0]]
    assert points["lone_y"].values.tolist() == [4.0]
    assert points["time_"].values.tolist() == [0]
    assert any("The column 'time' is called 'time_' here." in note.text for note in notes)


def test_rows_without_places_stand_in_a_line(notes: list[Note]) -> None:
    assert from_arrow(pa.table({"level": [5.0, 6.0]})).positions.tolist() == [[0, 0, 0], [1, 0, 0]]
    assert "1 m apart" in notes[0].text


def test_points_and_their_values_make_a_table_and_what_is_no_point_is_told(notes: list[Note]) -> None:
    sheet = ops.grid(cells=[1, 1]).with_attribute("point", "drift", np.eye(4)[:, :3])
    sheet = sheet.with_attribute("face", "shade", [3]).with_attribute("point", "turn", [np.eye(3)] * 4)
    table = to_arrow(sheet)
    assert table.column_names == ["x", "y", "z", "drift.x", "drift.y", "drift.z"]
    assert notes[-1].text == "A table holds points and their values; left out: turn, faces, uv, shade."
    assert from_arrow(table).attributes["point"]["drift"].values.tolist() == np.eye(4)[:, :3].tolist()


def test_tables_that_hold_nothing_or_places_that_cannot_be() -> None:
    with pytest.raises(FormatError, match="the table has no rows"):
        from_arrow(pa.table({"x": pa.array([], pa.float64())}))
    with pytest.raises(FormatError, match="no columns"):
        from_arrow(pa.table({}))
    with pytest.raises(FormatError, match="vertex 1 holds nan"):
        from_arrow(pa.table({"x": [0.0, None], "y": [0.0, 1.0]}))
    assert to_arrow(Geo.empty()).num_rows == 0


def test_rows_are_said_counted_from_one_and_not_all() -> None:
    assert rows_in_words([3]) == "row 4"
    assert rows_in_words(range(7)) == "rows 1, 2, 3, 4, 5 and 2 more"
