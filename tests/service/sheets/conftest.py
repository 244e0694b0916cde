"""A graph with a dial, and sheets of it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.core.graph.structure.document import empty_document
from tests.helpers import wait_until

Make = Callable[..., dict[str, Any]]


@pytest.fixture
def tile(client: FlaskClient, project: str) -> str:
    """A grid of some cells, raised: two dials, and one that does nothing."""
    document = {
        **empty_document("Tile"),
        "dials": {
            "lift": {"type": "number", "value": 0.1},
            "cells": {"type": "integer", "value": 2},
            "idle": {"type": "number", "value": 0.0},
        },
        "nodes": {
            "sheet": {"operator": "grid", "parameters": {"cells": {"formula": "vec2(cells, cells)"}}},
            "up": {
                "operator": "extrude",
                "inputs": {"geo": ["sheet"]},
                "parameters": {"distance": {"formula": "lift"}},
            },
        },
        "looking_at": "up",
    }
    return str(client.post(f"/api/projects/{project}/graphs", json={"title": "Tile", "document": document}).json["id"])


@pytest.fixture
def make(client: FlaskClient, tile: str) -> Make:
    """Make a sheet of the tile."""

    def made(vary: dict[str, str], **plan: Any) -> dict[str, Any]:
        answer = client.post(f"/api/graphs/{tile}/sheets", json={"plan": {"vary": vary, **plan}})
        assert answer.status_code == 201, answer.json
        return dict(answer.json)

    return made


@pytest.fixture
def ended(client: FlaskClient) -> Callable[[str], dict[str, Any]]:
    """Wait until nothing is made of a sheet any more; return it with its variants."""

    def wait(sheet: str) -> dict[str, Any]:
        found: dict[str, Any] = {}

        def over() -> bool:
            found.update(client.get(f"/api/sheets/{sheet}/variants").json)
            return found["sheet"]["state"] != "running"

        wait_until(over)
        return found

    return wait
