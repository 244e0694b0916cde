"""``reticula backup`` and ``reticula restore``: one archive of all that an installation keeps."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import click

from reticula.cli.console import fail, progress
from reticula.cli.options import VAR_FOLDER

__all__ = ["backup_command", "restore_command"]

FILE = click.argument("file", type=click.Path(dir_okay=False, path_type=Path))


@click.command("backup")
@FILE
@VAR_FOLDER
def backup_command(file: Path, var: Path) -> int:
    """Write an archive of projects, shapes and packages, while people work or not."""
    from reticula.launch.backups import backup

    return _done("Wrote", file, lambda: backup(var.resolve(), file))


@click.command("restore")
@FILE
@VAR_FOLDER
def restore_command(file: Path, var: Path) -> int:
    """Fill an empty installation from an archive."""
    from reticula.launch.backups import restore

    return _done("Restored", file, lambda: restore(var.resolve(), file))


def _done(word: str, file: Path, work: Callable[[], dict[str, Any]]) -> int:
    from reticula.store.archive import ArchiveError

    try:
        with progress(file.name):
            counts = work()
    except ArchiveError as error:
        fail(error)
        return 1
    print(f"{word} {file}: " + ", ".join(f"{count:,} {name.replace('_', ' ')}" for name, count in counts.items()) + ".")
    return 0
