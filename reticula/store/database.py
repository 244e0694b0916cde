"""The connection, and sessions that either keep everything or nothing."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path

from sqlalchemy import Engine, create_engine, text
from sqlalchemy.exc import OperationalError, ProgrammingError
from sqlalchemy.orm import Session

__all__ = ["Database", "NewerData", "is_deadlock", "revisions"]


DEADLOCK = (1205, 1213)


def is_deadlock(error: OperationalError) -> bool:
    """Return whether MariaDB took a session back because of another one: it may be done again."""
    return error.orig is not None and bool(set(error.orig.args[:1]) & set(DEADLOCK))


class NewerData(Exception):
    """The tables are those of a release that is newer than the code."""


MIGRATIONS = Path(__file__).parent / "migrations"


def revisions() -> list[str]:
    """Return the names of all migrations, the newest one last: files are called by them."""
    return sorted(path.name.partition("_")[0] for path in (MIGRATIONS / "versions").glob("[0-9]*.py"))


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
        if revision == "head" and self.revision() == revisions()[-1]:
            return  # nearly every start: what does the work takes a second to load
        from alembic import command
        from alembic.config import Config
        from alembic.util.exc import CommandError

        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS))
        config.attributes["engine"] = self.engine
        try:
            command.upgrade(config, revision)
        except CommandError as error:
            raise NewerData(
                f"the data are of a newer release than this one ({error}); start that release, or restore a backup"
            ) from None

    def revision(self) -> str | None:
        """Return the name of the migration that the tables are at; None if there are none yet."""
        try:
            with self.engine.connect() as connection:
                found = connection.execute(text("SELECT version_num FROM alembic_version")).scalar()
        except ProgrammingError:
            return None
        return None if found is None else str(found)

    @staticmethod
    def knows(revision: str) -> bool:
        """Return whether there is a migration of this name."""
        return revision in revisions()

    def is_up(self) -> bool:
        """Return whether the database answers."""
        try:
            with self.engine.connect() as connection:
                connection.execute(text("SELECT 1"))
            return True
        except Exception:
            return False
