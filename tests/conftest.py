"""Shared by all tests."""

from __future__ import annotations

import os
from collections.abc import Iterator
from typing import Any

import numpy as np
import pytest
from hypothesis import settings

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from reticula.launch.mariadb import PrivateMariaDB
from reticula.store.database import Database

settings.register_profile("quick", deadline=None, max_examples=40)
settings.register_profile("campaign", deadline=None, max_examples=2000)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "quick"))


@pytest.fixture
def notes() -> Iterator[list[Note]]:
    """Collect what operators note; without it a warning fails the test."""
    with collecting() as gathered:
        yield gathered


@pytest.fixture
def rng() -> np.random.Generator:
    return np.random.default_rng(20)


@pytest.fixture
def mixed() -> Geo:
    """A triangle, a quad and a pentagon in a row, a loose point and an open and a closed curve."""
    from reticula.core.geometry import Topology

    positions = [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [2, 0, 0], [3, 0.5, 0], [2, 1, 0], [0.5, 2, 0], [9, 9, 9]]
    shape = Topology(
        9, [0, 4, 9, 12], [0, 1, 2, 3, 1, 4, 5, 6, 2, 3, 2, 7], [0, 3, 6], [0, 1, 4, 3, 7, 2], [False, True]
    )
    return Geo.of(positions, shape)


@pytest.fixture
def cube() -> Geo:
    return ops.box(size=(2, 2, 2))


@pytest.fixture
def chain() -> dict[str, Any]:
    """Return a document of four nodes and two dials."""
    return {
        "format": "reticula graph",
        "version": 1,
        "looking_at": "fine",
        "dials": {
            "height": {"type": "number", "value": 0.5, "low": 0, "high": 2},
            "width": {"type": "integer", "value": 3},
        },
        "nodes": {
            "sheet": {"operator": "grid", "parameters": {"cells": {"formula": "vec2(width, 2)"}}},
            "tall": {
                "operator": "extrude",
                "inputs": {"geo": ["sheet"]},
                "parameters": {"distance": {"formula": "height * (1 + index)"}},
            },
            "fine": {"operator": "smooth_subdivide", "inputs": {"geo": ["tall"]}},
            "side": {"operator": "box"},
        },
    }


@pytest.fixture(autouse=True, scope="session")
def no_building_aside() -> None:
    """Kernels of scripts are built in the background only where a test asks for it."""
    from reticula.core.language.compiled import builder

    builder().enabled = False


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[PrivateMariaDB]:
    made = PrivateMariaDB(tmp_path_factory.mktemp("mariadb") / "server", first_port=34210)
    made.start()
    yield made
    made.stop()


@pytest.fixture(scope="session")
def database(server: PrivateMariaDB) -> Database:
    made = Database(server.url)
    made.migrate()
    return made
