"""Files by pattern and rows of a table become rows, each with a place of its own."""

from __future__ import annotations

from pathlib import Path

import pyarrow as pa
import pytest
from pyarrow import parquet

from reticula.core.errors import GraphError
from reticula.many import rows as rows_module
from reticula.many.rows import rows_of
from reticula.workers.row_files import read_table


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    (tmp_path / "scans").mkdir()
    for name in ("east", "north"):
        (tmp_path / "scans" / f"{name}.ply").write_bytes(b"")
    monkeypatch.chdir(tmp_path)
    return tmp_path


def settable(name: str) -> bool:
    return name in ("height", "wall.distance")


def test_every_file_is_made_with_every_row(folder: Path) -> None:
    table = [{"height": 0.1, "site": "reef A"}, {"height": 0.2, "site": "reef B"}]
    made = rows_of(
        {"scan": "scans/*.ply"}, table, accepts=["scan"], settable=settable, out="out/{scan}-{height}-{site}.ply"
    )
    assert [row.out for row in made] == [
        "out/east-0.1-reef_A.ply",
        "out/north-0.1-reef_A.ply",
        "out/east-0.2-reef_B.ply",
        "out/north-0.2-reef_B.ply",
    ]
    assert [row.number for row in made] == [1, 2, 3, 4]
    assert made[3].files == {"scan": "scans/north.ply"}
    assert made[3].values == {"height": 0.2}
    assert made[3].kept == {"site": "reef B"}, "what sets nothing is kept beside the result"
    assert made[3].name == "north"


def test_columns_name_files_and_parameters_and_empty_cells_leave_the_default(folder: Path) -> None:
    cells = 'spring,scans/east.ply,,"[1, 2]",2026-03-01'
    (folder / "season.csv").write_text(f"name,scan,height,wall.distance,when\n{cells}\n")
    table = read_table(folder / "season.csv")
    (row,) = rows_of({}, table, accepts=["scan"], settable=settable, out="{name}.ply", folder=folder)
    assert row.name == "spring"
    assert row.files == {"scan": str(folder / "scans/east.ply")}
    assert row.values == {"wall.distance": [1, 2]}
    assert row.kept == {"height": None, "when": "2026-03-01"}


def test_parquet_tables_are_read_as_csv_is(tmp_path: Path) -> None:
    parquet.write_table(pa.table({"height": [0.5, None], "name": ["a", "b"]}), tmp_path / "t.parquet")
    assert read_table(tmp_path / "t.parquet") == [{"height": 0.5, "name": "a"}, {"height": None, "name": "b"}]


@pytest.mark.parametrize(
    ("patterns", "table", "out", "message"),
    [
        ({"scan": "scans/*.obj"}, [], "", r"'scans/\*.obj' for 'scan' finds no file"),
        ({"reef": "scans/*.ply"}, [], "", "nothing is called 'reef'; there are scan"),
        ({"scan": "scans/*.ply"}, [{"scan": "a.ply"}], "", "by a pattern and by a column"),
        ({"scan": "scans/*.ply"}, [], "all.ply", "2 results would be written over each other .*all.ply"),
        ({"scan": "scans/*.ply"}, [], "{site}.ply", "'{site}' of .* is unknown; there are name, row, scan"),
    ],
)
def test_what_cannot_be_meant_is_said_before_anything_is_made(
    folder: Path, patterns: dict[str, str], table: list[dict[str, str]], out: str, message: str
) -> None:
    with pytest.raises(GraphError, match=message):
        rows_of(patterns, table, accepts=["scan"], settable=settable, out=out)


def test_too_many_are_refused_before_they_are_listed(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(rows_module, "MOST_ROWS", 3)
    with pytest.raises(GraphError, match="4 results; 3 is the most"):
        rows_of({"scan": "scans/*.ply"}, [{}, {}], accepts=["scan"], settable=settable)


def test_what_is_no_number_is_an_empty_cell_and_an_infinite_one_is_said(tmp_path: Path) -> None:
    parquet.write_table(
        pa.table({"lift": [float("nan"), 1.0], "at": [[0.0, float("nan")], None]}), tmp_path / "t.parquet"
    )
    assert read_table(tmp_path / "t.parquet") == [{"lift": None, "at": [0.0, None]}, {"lift": 1.0, "at": None}]
    (tmp_path / "t.csv").write_text("name,lift\na,1\nb,inf\n")
    with pytest.raises(GraphError, match="'lift' of row 2 is infinite"):
        read_table(tmp_path / "t.csv")
    with pytest.raises(GraphError, match="2 rows; 1 is the most"):
        read_table(tmp_path / "t.parquet", 1)


@pytest.mark.parametrize(("name", "text"), [("a.csv", "height\n"), ("a.txt", "1"), ("a.parquet", "no")])
def test_tables_that_cannot_be_read_are_said(tmp_path: Path, name: str, text: str) -> None:
    (tmp_path / name).write_text(text)
    with pytest.raises(GraphError, match=name):
        read_table(tmp_path / name)
    with pytest.raises(GraphError, match=r"none\.csv"):
        read_table(tmp_path / "none.csv")
