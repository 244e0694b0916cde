"""Sessions keep everything or nothing; migrations make the tables of the models."""

import pytest
from sqlalchemy import inspect, text

from reticula.store import projects
from reticula.store.database import Database, NewerData
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
