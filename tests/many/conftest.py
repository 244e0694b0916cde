"""Two workers of this machine for all tests here, and a graph that they make."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from reticula.core import ops
from reticula.core.graph.structure.document import empty_document
from reticula.many.cluster import Cluster
from reticula.workers.tickets import Limits


@pytest.fixture(scope="session")
def limits() -> Limits:
    return Limits(seconds=8.0, memory_bytes=6 * 1024**3)


@pytest.fixture(scope="session")
def cluster(limits: Limits) -> Iterator[Cluster]:
    with Cluster(workers=2, limits=limits) as made:
        yield made


@pytest.fixture
def graph() -> dict[str, Any]:
    """A scan that comes in, is split, and raised by a dial."""
    return {
        **empty_document("Raised"),
        "inputs": [{"name": "scan"}],
        "dials": {"lift": {"type": "number", "value": 0.1}},
        "nodes": {
            "scan": {"operator": "input", "parameters": {"name": "scan"}},
            "fine": {"operator": "split_faces", "inputs": {"geo": ["scan"]}},
            "up": {"operator": "extrude", "inputs": {"geo": ["fine"]}, "parameters": {"distance": {"formula": "lift"}}},
        },
        "result": "up",
    }


@pytest.fixture
def scans(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A folder with four scans, which is the working folder."""
    folder = tmp_path / "scans"
    folder.mkdir()
    for number, name in enumerate(("bay", "east", "north", "west"), start=2):
        ops.grid(cells=(number, number)).write(folder / f"{name}.ply")
    monkeypatch.chdir(tmp_path)
    return folder
