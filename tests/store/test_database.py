"""Sessions keep everything or nothing; migrations make the tables of the models."""

import subprocess
import sys

import pytest
from sqlalchemy import inspect, text

from reticula.store import projects
from reticula.store.database import MIGRATIONS, Database, NewerData, revisions
from reticula.store.models import Base


def test_a_session_that_fails_keeps_nothing(database: Database) -> None:
    with database.session() as session:
        before = len(projects.list_all(session))
    with pytest.raises(RuntimeError), database.session() as session:  # noqa: PT012
        projects.create(session, "Lost")
        raise RuntimeError
    with database.session() as session:
        assert len(projects.list_all(session)) == before


def test_migrations_make_what_the_models_say(database: Database) -> None:
    database.migrate()
    made = inspect(database.engine)
    for name, table in Base.metadata.tables.items():
        assert {column["name"] for column in made.get_columns(name)} == set(table.columns.keys()), name


def test_a_database_that_does_not_answer_is_not_up(database: Database) -> None:
    assert database.is_up()
    assert not Database("mysql+pymysql://nobody@127.0.0.1:1/none").is_up()


def test_data_of_a_newer_release_are_refused(database: Database) -> None:
    with database.engine.begin() as connection:
        known = connection.execute(text("SELECT version_num FROM alembic_version")).scalar_one()
        connection.execute(text("UPDATE alembic_version SET version_num = '9999'"))
    try:
        with pytest.raises(NewerData, match="newer release than this one"):
            database.migrate()
    finally:
        with database.engine.begin() as connection:
            connection.execute(text("UPDATE alembic_version SET version_num = :known"), {"known": known})


def test_the_newest_migration_is_known_by_its_file(database: Database) -> None:
    from alembic.config import Config
    from alembic.script import ScriptDirectory

    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    script = ScriptDirectory.from_config(config)
    assert script.get_heads() == [revisions()[-1]]
    assert {one.revision for one in script.walk_revisions()} == set(revisions())
    assert database.revision() == revisions()[-1]


def test_tables_that_are_up_to_date_are_left_at_once(database: Database) -> None:
    code = (
        "import sys; from reticula.store.database import Database; "
        f"Database({database.url!r}).migrate(); sys.exit('alembic' in sys.modules)"
    )
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0
