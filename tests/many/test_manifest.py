"""A manifest keeps what was made over crashes, and knows a file that is not what it was."""

from __future__ import annotations

from pathlib import Path

from pyarrow import parquet

from reticula.many.digests import digest_of_bytes
from reticula.many.manifest import Manifest
from reticula.many.rows import Row


def outcome(data: bytes) -> dict[str, object]:
    numbers = {"volume": 0.5, "odd": None}
    return {"state": "done", "content": f"{digest_of_bytes(data)}.ply", "size": len(data), "numbers": numbers}


def test_what_was_made_is_known_again_while_its_file_is_the_same(tmp_path: Path) -> None:
    row = Row(1, "east", {"scan": "east.ply"}, {"height": 0.1}, {"site": "A"}, str(tmp_path / "east.ply"))
    first = Manifest(tmp_path / "manifest")
    Path(row.out).write_bytes(b"mesh")
    first.add("k1", row, outcome(b"mesh"))
    first.close()
    with first.journal.open("a") as file:
        file.write('{"key": "k2", "fi')  # the process ended while it wrote
    again = Manifest(tmp_path / "manifest")
    assert (again.done("k1", row) or {})["numbers"]["volume"] == 0.5
    assert again.done("k2", row) is None
    again.add("k3", row, outcome(b"mesh"))
    again.close()
    assert Manifest(tmp_path / "manifest").done("k3", row), "what comes after half a line is not lost with it"
    Path(row.out).write_bytes(b"mess")
    assert again.done("k1", row) is None, "somebody else wrote over it"
    Path(row.out).unlink()
    assert again.done("k1", row) is None


def test_failures_are_made_again(tmp_path: Path) -> None:
    kept = Manifest(tmp_path / "manifest")
    kept.add("k1", Row(1, "a"), {"state": "failed", "error": {"message": "too thin"}})
    assert kept.done("k1", Row(1, "a")) is None
    kept.add("k1", Row(1, "a"), {"state": "done"})
    assert kept.done("k1", Row(1, "a"))


def test_tables_have_a_column_for_each_thing_in_the_order_of_the_rows(tmp_path: Path) -> None:
    kept = Manifest(tmp_path / "out" / "manifest")
    rows = [Row(2, "b", values={"height": 1, "size": [1, 2]}), Row(1, "a", values={"height": 0.5}, kept={"seconds": 3})]
    kept.write([kept.add(f"k{row.number}", row, outcome(b"")) for row in rows])
    table = parquet.read_table(kept.tables[0]).to_pydict()
    assert table["row"] == [1, 2]
    assert table["height"] == [0.5, 1.0]
    assert table["size"] == [None, "[1, 2]"]
    assert table["numbers.volume"] == [0.5, 0.5]
    assert table["numbers.odd"] == [None, None]
    assert kept.tables[1].read_text().startswith('"row","name","state","file","error","height"')
