"""The service on top of the session's MariaDB."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient
from sqlalchemy import text

from reticula.service.app import create_app
from reticula.service.config import MEGABYTE, Config
from reticula.store.database import Database
from reticula.workers.tickets import Limits

LAUNCH = "the launcher's secret"


@pytest.fixture(scope="session")
def app(database: Database, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Any]:
    config = Config(
        database.url,
        tmp_path_factory.mktemp("var"),
        Path(__file__).resolve().parents[2] / "web" / "dist",
        upload_bytes=2 * MEGABYTE,
        workers=1,
        limits=Limits(seconds=10.0, memory_bytes=3 * 1024 * MEGABYTE),
    )
    made = create_app(config)
    yield made
    made.extensions["reticula"].close()


@pytest.fixture(scope="session")
def guarded(database: Database, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Any]:
    config = Config(
        database.url,
        tmp_path_factory.mktemp("guarded"),
        Path(__file__).resolve().parents[2] / "web" / "dist",
        upload_bytes=2 * MEGABYTE,
        workers=1,
        limits=Limits(seconds=10.0, memory_bytes=3 * 1024 * MEGABYTE),
        sign_in=True,
        launch_secret=LAUNCH,
    )
    made = create_app(config)
    yield made
    made.extensions["reticula"].close()


@pytest.fixture
def client(app: Any, database: Database) -> Iterator[FlaskClient]:
    with database.engine.begin() as connection:
        for table in ("settings", "projects"):
            connection.execute(text(f"DELETE FROM {table}"))
    yield app.test_client()
    # What one test leaves running takes an evaluator from the next.
    pool = app.extensions["reticula"].pool
    for ticket in list(pool._tickets.values()):
        pool.stop(ticket)


@pytest.fixture
def project(client: FlaskClient) -> str:
    return client.post("/api/projects", json={"title": "Reef"}).json["id"]


@pytest.fixture
def graph(client: FlaskClient, project: str) -> dict[str, Any]:
    document = {
        "format": "reticula graph",
        "version": 1,
        "looking_at": "tall",
        "dials": {},
        "nodes": {
            "sheet": {"operator": "grid", "parameters": {"cells": [4, 4]}},
            "tall": {"operator": "extrude", "inputs": {"geo": ["sheet"]}, "parameters": {"distance": 0.5}},
        },
    }
    return client.post(f"/api/projects/{project}/graphs", json={"title": "Tile", "document": document}).json
