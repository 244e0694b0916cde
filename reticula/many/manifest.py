"""What became of every row: a journal while it is made, then a Parquet and a CSV table."""

from __future__ import annotations

import json
import os
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

from reticula.many.columns import columns_of
from reticula.many.digests import digest_of_file
from reticula.many.part import Outcome
from reticula.many.rows import Row

__all__ = ["Entry", "Manifest"]

Entry = dict[str, Any]
"""One row of the manifest: what it was made from, and what became of it."""
PLAIN = ("row", "name", "state", "file", "error")
GROUPS = {"values": True, "inputs": False, "kept": True, "numbers": False, "counts": False}
MORE = ("seconds", "memory", "bytes", "content", "digest", "worker", "key")
LINES = ("warnings", "notes")
"""What the tables have, see :func:`reticula.many.columns.columns_of`."""
SYNC = 50
"""Every so many entries are on the disk for sure."""


class Manifest:
    """Entries by the key of their part, kept in ``stem.jsonl`` as they come; ``write`` makes the tables."""

    def __init__(self, stem: Path) -> None:
        self.journal = stem.with_name(f"{stem.name}.jsonl")
        self.tables = stem.with_name(f"{stem.name}.parquet"), stem.with_name(f"{stem.name}.csv")
        self.journal.parent.mkdir(parents=True, exist_ok=True)
        self.entries: dict[tuple[str, str], Entry] = {(one["key"], one["file"]): one for one in self._read()}
        self._file: Any = None
        self._count = 0

    def done(self, key: str, row: Row) -> Entry | None:
        """Return the entry of a row that was made before, if its file is still what it was."""
        entry = self.entries.get((key, row.out))
        if entry is None or entry["state"] != "done":
            return None
        if row.out and not _is(Path(row.out), entry):
            return None
        return {**entry, "row": row.number, "name": row.name, **_given(row)}

    def add(self, key: str, row: Row, outcome: Outcome) -> Entry:
        """Keep what became of a row: once this returns, it is there after a crash of this process."""
        entry = {"row": row.number, "name": row.name, "key": key, "state": outcome["state"], "file": row.out}
        entry |= _given(row)
        entry |= {
            "error": (outcome.get("error") or {}).get("message", ""),
            "content": outcome.get("content") or "",
            "bytes": outcome.get("size", 0),
            "written": _stamp(row.out),
            "digest": outcome.get("digest", ""),
            "numbers": outcome.get("numbers", {}),
            "counts": outcome.get("counts", {}),
            "seconds": outcome.get("took", 0.0),
            "memory": outcome.get("memory", 0),
            "worker": outcome.get("worker", ""),
            "warnings": outcome.get("warnings", []),
            "notes": outcome.get("notes", []),
        }
        if self._file is None:
            self._file = self._continued()
        self._file.write(json.dumps(entry) + "\n")
        self._file.flush()
        self._count += 1
        if self._count % SYNC == 0:
            os.fsync(self._file.fileno())
        self.entries[key, row.out] = entry
        return entry

    def close(self) -> None:
        """End the journal."""
        if self._file is not None:
            os.fsync(self._file.fileno())
            self._file.close()
            self._file = None

    def write(self, entries: Sequence[Entry]) -> None:
        """Write the tables of these entries, in the order of their rows."""
        import pyarrow as pa
        from pyarrow import csv, parquet

        table = pa.table(columns_of(sorted(entries, key=lambda one: one["row"]), PLAIN, GROUPS, MORE, LINES))
        for path, write in zip(self.tables, (parquet.write_table, csv.write_csv), strict=True):
            part = path.with_name(f"{path.name}.part")
            write(table, part)
            os.replace(part, path)

    def _continued(self) -> Any:
        """Open the journal at its end, on a line of its own: the last one may be half of one."""
        whole = not self.journal.is_file() or self.journal.read_bytes()[-1:] in (b"", b"\n")
        file = self.journal.open("a", encoding="utf-8")
        file.write("" if whole else "\n")
        return file

    def _read(self) -> Iterator[Entry]:
        if not self.journal.is_file():
            return
        for line in self.journal.read_text("utf-8").splitlines():
            try:
                yield json.loads(line)
            except ValueError:  # the last line of a process that was ended while writing it
                continue


def _is(path: Path, entry: Mapping[str, Any]) -> bool:
    """Whether a file is what was written: nobody has touched it since, or its content is the same."""
    if not path.is_file() or path.stat().st_size != entry["bytes"]:
        return False
    return _stamp(str(path)) == entry["written"] or digest_of_file(path) == entry["content"][:32]


def _stamp(path: str) -> int:
    """Return when a file was written, in ns; 0 if it is not there."""
    try:
        return Path(path).stat().st_mtime_ns if path else 0
    except OSError:
        return 0


def _given(row: Row) -> dict[str, Any]:
    return {"values": dict(row.values), "inputs": dict(row.files), "kept": dict(row.kept)}
