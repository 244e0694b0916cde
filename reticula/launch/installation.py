"""The database of an installation, for commands that work on it while it runs or not."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path

from reticula.launch.mariadb import PrivateMariaDB
from reticula.store.archive import ArchiveError
from reticula.store.database import Database

__all__ = ["open_database"]


@contextlib.contextmanager
def open_database(var: Path) -> Iterator[Database]:
    """Hand out the database of the installation in ``var``: the one that runs, or one started for as long as it is
    needed. Raises ArchiveError if it cannot be started.
    """
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
