"""A session of which nothing stays."""

from collections.abc import Iterator

import pytest
from sqlalchemy.orm import Session

from reticula.store.database import Database


@pytest.fixture
def session(database: Database) -> Iterator[Session]:
    with Session(database.engine, expire_on_commit=False) as made:
        yield made
        made.rollback()
