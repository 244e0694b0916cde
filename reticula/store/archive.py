"""One consistent archive of all that is kept: the tables, the contents of shapes, and the depot's packages."""

from __future__ import annotations

import io
import json
import os
import shutil
import zipfile
from collections.abc import Iterator, Mapping
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from sqlalchemy import MetaData, Table, insert, select, text
from sqlalchemy.engine import Connection

from reticula.store.database import Database

__all__ = ["ArchiveError", "restore_archive", "write_archive"]

FORMAT = "reticula backup"
VERSION = 1
ROWS = 500
STAMP = "alembic_version"


class ArchiveError(Exception):
    """The archive cannot be written or restored; the message is for the person at the keyboard."""


def write_archive(database: Database, folders: Mapping[str, Path], path: Path) -> dict[str, int]:
    """Write all rows as they are at one moment, and the files in ``folders`` by the name they have in the archive.

    People may go on working: rows come from one snapshot, and files that rows name are never deleted at once. Returns
    how many rows of each table, and how many files, there are. The archive is there whole or not at all.
    """
    part = path.with_name(path.name + ".part")
    counts: dict[str, int] = {}
    try:
        with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
            with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=5) as archive:
                with database.engine.connect().execution_options(isolation_level="REPEATABLE READ") as connection:
                    connection.execute(text("START TRANSACTION WITH CONSISTENT SNAPSHOT"))
                    tables = _tables(connection)
                    stamp = connection.execute(text(f"SELECT version_num FROM {STAMP}")).scalar_one()
                    for table in tables:
                        counts[table.name] = _write_rows(archive, connection, table)
                counts["files"] = _write_files(archive, folders)
                about = {
                    "format": FORMAT,
                    "version": VERSION,
                    "schema": stamp,
                    "made": datetime.now(UTC).isoformat(),
                    "counts": counts,
                }
                archive.writestr("about.json", json.dumps(about, indent=2))
            file.flush()
            os.fsync(file.fileno())
        part.replace(path)
    finally:
        part.unlink(missing_ok=True)
    return counts


def restore_archive(database: Database, folders: Mapping[str, Path], path: Path) -> dict[str, int]:
    """Fill an empty installation from an archive; raise ArchiveError if it is not empty, or the archive is no good.

    Tables are made as they were when the archive was written, filled, and brought up to the newest migration.
    """
    try:
        archive = zipfile.ZipFile(path)
        about = json.loads(archive.read("about.json"))
    except (OSError, zipfile.BadZipFile, KeyError, ValueError) as error:
        raise ArchiveError(f"{path} is no backup that can be read: {error}") from None
    with archive:
        if about.get("format") != FORMAT or about.get("version") != VERSION:
            raise ArchiveError(f"{path} is no backup of this kind")
        if not database.knows(about["schema"]):
            raise ArchiveError("the backup was written by a newer release than this one; restore it with that one")
        bad = archive.testzip()
        if bad is not None:
            raise ArchiveError(f"the backup is broken at '{bad}'; take another one")
        database.migrate(about["schema"])
        with database.engine.begin() as connection:
            tables = _tables(connection)
            full = [table.name for table in tables if connection.execute(select(table).limit(1)).first() is not None]
            if full:
                raise ArchiveError(f"there is something here already ({', '.join(full)}); restore into an empty folder")
            for table in tables:
                _read_rows(archive, connection, table)
        for name in archive.namelist():
            _read_file(archive, name, folders)
    database.migrate()
    counts: dict[str, int] = about["counts"]
    return counts


def _tables(connection: Connection) -> list[Table]:
    """All tables as they are in the database, those that others refer to first."""
    found = MetaData()
    found.reflect(connection)
    return [table for table in found.sorted_tables if table.name != STAMP]


def _write_rows(archive: zipfile.ZipFile, connection: Connection, table: Table) -> int:
    count = 0
    with archive.open(f"tables/{table.name}.jsonl", "w", force_zip64=True) as out:
        rows = connection.execution_options(stream_results=True, max_row_buffer=ROWS).execute(select(table))
        for row in rows.mappings():
            plain = {key: value.isoformat() if isinstance(value, datetime) else value for key, value in row.items()}
            out.write(json.dumps(plain, ensure_ascii=False).encode() + b"\n")
            count += 1
    return count


def _read_rows(archive: zipfile.ZipFile, connection: Connection, table: Table) -> None:
    name = f"tables/{table.name}.jsonl"
    if name not in archive.namelist():
        return
    moments = [column.name for column in table.columns if column.type.python_type is datetime]
    for rows in _in_parts(io.TextIOWrapper(archive.open(name), "utf-8")):
        for row in rows:
            row.update({key: datetime.fromisoformat(row[key]) for key in moments if row.get(key)})
        connection.execute(insert(table), rows)


def _in_parts(lines: io.TextIOWrapper) -> Iterator[list[dict[str, Any]]]:
    part: list[dict[str, Any]] = []
    for line in lines:
        part.append(json.loads(line))
        if len(part) >= ROWS:
            yield part
            part = []
    if part:
        yield part


def _write_files(archive: zipfile.ZipFile, folders: Mapping[str, Path]) -> int:
    count = 0
    for name, folder in folders.items():
        for path in sorted(folder.iterdir()) if folder.is_dir() else ():
            if path.is_file() and path.suffix != ".part":
                archive.write(path, f"files/{name}/{path.name}")
                count += 1
    return count


def _read_file(archive: zipfile.ZipFile, name: str, folders: Mapping[str, Path]) -> None:
    """Put a file where it was; names that lead elsewhere are passed over."""
    kind, _, rest = name.partition("/")
    folder, _, own = rest.partition("/")
    if kind != "files" or folder not in folders or not own or own != Path(own).name:
        return
    folders[folder].mkdir(parents=True, exist_ok=True, mode=0o700)
    with archive.open(name) as source, (folders[folder] / own).open("wb") as target:
        (folders[folder] / own).chmod(0o600)
        shutil.copyfileobj(source, target)
        target.flush()
        os.fsync(target.fileno())
