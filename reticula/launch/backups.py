"""Backup and restore of an installation, while it runs or not."""

from __future__ import annotations

import contextlib
import fcntl
from collections.abc import Iterator
from pathlib import Path

from reticula.launch.mariadb import PrivateMariaDB
from reticula.store.archive import ArchiveError, restore_archive, write_archive
from reticula.store.database import Database

__all__ = ["backup", "restore"]


def backup(var: Path, file: Path) -> dict[str, int]:
    """Write an archive of the installation in ``var``; people may go on working. Raises ArchiveError."""
    if not (var / "mariadb").is_dir():
        raise ArchiveError(f"there is no installation in {var}")
    with _database(var) as database:
        return write_archive(database, _folders(var), file)


def restore(var: Path, file: Path) -> dict[str, int]:
    """Fill ``var``, in which nothing may be yet, from an archive. Raises ArchiveError."""
    var.mkdir(parents=True, exist_ok=True, mode=0o700)
    with (var / "lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise ArchiveError(f"Reticula runs in {var}; stop it, or restore into another folder") from None
        with _database(var) as database:
            return restore_archive(database, _folders(var), file)


def _folders(var: Path) -> dict[str, Path]:
    return {"assets": var / "assets", "depot": var / "depot"}


@contextlib.contextmanager
def _database(var: Path) -> Iterator[Database]:
    """The database of an installation: the one that runs, or started for as long as it is needed."""
    server = PrivateMariaDB(var / "mariadb")
    running = Database(server.url)
    if running.is_up():
        yield running
        return
    try:
        server.start()
        yield Database(server.url)
    except RuntimeError as error:
        raise ArchiveError(str(error)) from None
    finally:
        server.stop()
