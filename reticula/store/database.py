"""The connection, and sessions that either keep everything or nothing."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from alembic.util.exc import CommandError
from sqlalchemy import Engine, create_engine, text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

__all__ = ["Database", "NewerData", "is_deadlock"]


DEADLOCK = (1205, 1213)


def is_deadlock(error: OperationalError) -> bool:
    """Return whether MariaDB took a session back because of another one: it may be done again."""
    return error.orig is not None and bool(set(error.orig.args[:1]) & set(DEADLOCK))


class NewerData(Exception):
    """The tables are those of a release that is newer than the code."""


def _alembic() -> Config:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    return config


class Database:
    """A MariaDB database, by URL. Broken connections are replaced before they are used."""

    def __init__(self, url: str) -> None:
        self.url = url
        self.engine: Engine = create_engine(
            url, pool_pre_ping=True, pool_recycle=1800, pool_size=10, max_overflow=20, hide_parameters=True
        )

    @contextlib.contextmanager
    def session(self) -> Iterator[Session]:
        """Open a session; commit at the end, roll back if anything is raised."""
        with Session(self.engine, expire_on_commit=False) as session, session.begin():
            yield session

    def migrate(self, revision: str = "head") -> None:
        """Bring the tables up to a migration, the newest one by default; raise NewerData if they are newer than all."""
        config = _alembic()
        config.attributes["engine"] = self.engine
        try:
            command.upgrade(config, revision)
        except CommandError as error:
            raise NewerData(
                f"the data are of a newer release than this one ({error}); start that release, or restore a backup"
            ) from None

    @staticmethod
    def knows(revision: str) -> bool:
        """Return whether there is a migration of this name."""
        return revision in {script.revision for script in ScriptDirectory.from_config(_alembic()).walk_revisions()}

    def is_up(self) -> bool:
        """Return whether the database answers."""
        try:
            with self.engine.connect() as connection:
                connection.execute(text("SELECT 1"))
            return True
        except Exception:
            return False
