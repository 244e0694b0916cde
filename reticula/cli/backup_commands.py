"""``reticula backup`` and ``reticula restore``: one archive of all that an installation keeps."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path
from typing import Any

from reticula.bundle import VAR

__all__ = ["add_backup_commands"]


def add_backup_commands(commands: Any) -> None:
    """Add both commands."""
    for name, help, function in (
        ("backup", "write an archive of projects, shapes and packages, while people work or not", _backup),
        ("restore", "fill an empty installation from an archive", _restore),
    ):
        made = commands.add_parser(name, help=help)
        made.add_argument("file", type=Path, help="the archive, e.g. reef.backup.zip")
        made.add_argument(
            "--var", type=Path, default=Path(os.environ.get("RETICULA_VAR", VAR)), help="where data are kept"
        )
        made.set_defaults(function=function)


def _backup(given: argparse.Namespace) -> int:
    from reticula.launch.backups import backup

    return _done("Wrote", given.file, lambda: backup(given.var.resolve(), given.file))


def _restore(given: argparse.Namespace) -> int:
    from reticula.launch.backups import restore

    return _done("Restored", given.file, lambda: restore(given.var.resolve(), given.file))


def _done(word: str, file: Path, run: Any) -> int:
    from reticula.store.archive import ArchiveError

    try:
        counts = run()
    except ArchiveError as error:
        print(f"reticula: {error}", file=sys.stderr)
        return 1
    print(f"{word} {file}: " + ", ".join(f"{count:,} {name.replace('_', ' ')}" for name, count in counts.items()) + ".")
    return 0
