"""Backup and restore of an installation, while it runs or not."""

from __future__ import annotations

import fcntl
from pathlib import Path

from reticula.launch.installation import open_database
from reticula.store.archive import ArchiveError, restore_archive, write_archive

__all__ = ["backup", "restore"]


def backup(var: Path, file: Path) -> dict[str, int]:
    """Write an archive of the installation in ``var``; people may go on working. Raises ArchiveError."""
    if not (var / "mariadb").is_dir():
        raise ArchiveError(f"there is no installation in {var}")
    with open_database(var) as database:
        return write_archive(database, _folders(var), file)


def restore(var: Path, file: Path) -> dict[str, int]:
    """Fill ``var``, in which nothing may be yet, from an archive. Raises ArchiveError."""
    var.mkdir(parents=True, exist_ok=True, mode=0o700)
    with (var / "lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise ArchiveError(f"Reticula runs in {var}; stop it, or restore into another folder") from None
        with open_database(var) as database:
            return restore_archive(database, _folders(var), file)


def _folders(var: Path) -> dict[str, Path]:
    return {name: var / name for name in ("assets", "depot", "keys", "sheets")}
