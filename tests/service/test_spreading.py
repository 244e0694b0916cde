"""Heavy parts of a loop in the page: the service has its workers run them, and the geometry is the same."""

from __future__ import annotations

from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.core.formats import write_bytes
from reticula.core.graph import run_graph
from reticula.core.graph.structure.document import empty_document
from reticula.many.cluster import Cluster
from tests.core.graph.building import graph, node
from tests.helpers import wait_until
from tests.service.test_evaluations import evaluate

INNER = graph(
    {
        "fine": node("split_faces", "geo", levels={"formula": "8 if part == 0 else 1"}),
        "soft": node("simplify", "fine", share=0.1),
        "up": node("extrude", "soft", distance={"formula": "0.1 + 0.01 * part"}),
    },
    inputs=("geo",),
    outputs={"geo": "up"},
)


def heavy(parts: int) -> dict[str, Any]:
    each = node("for_each", "tiles", graph=INNER, over="element", spread=True)
    nodes = {"tiles": node("grid", cells=[parts, 1]), "each": each}
    return {**empty_document("Heavy"), "nodes": nodes, "looking_at": "each"}


def test_workers_run_them(client: FlaskClient, project: str, monkeypatch: pytest.MonkeyPatch) -> None:
    by: list[str] = []
    outcomes = Cluster.outcomes

    def noted(self: Any, *given: Any) -> Any:
        for part, outcome in outcomes(self, *given):
            by.append(outcome["worker"])
            yield part, outcome

    monkeypatch.setattr(Cluster, "outcomes", noted)
    document = heavy(24)
    path = f"/api/projects/{project}/graphs"
    made = client.post(path, json={"title": "Heavy", "document": document}).json
    ticket = evaluate(client, made, node="each", wait=0)["ticket"]
    found: dict[str, Any] = {}

    def ended() -> bool:
        found.update(client.get(f"/api/evaluations/{ticket}?wait=5").json)
        return found["state"] not in ("waiting", "running")

    wait_until(ended)
    assert by, "it was too light to be spread: make it heavier"
    assert found["nodes"]["each"]["state"] == "done", found["nodes"]["each"]["error"]
    written = client.get(f"/api/graphs/{made['id']}/export?node=each&format=ply").data
    assert written == write_bytes(run_graph(document, node="each"), "each.ply")
