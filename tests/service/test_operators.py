"""Folding and publishing through the service."""

from __future__ import annotations

from typing import Any

import pytest
from flask.testing import FlaskClient
from sqlalchemy import text

from reticula.store.database import Database
from tests.service.publishing import change, evaluate, folded, publish


@pytest.fixture(autouse=True)
def no_operators(client: FlaskClient, database: Database) -> None:
    with database.engine.begin() as connection:
        for table in ("operators", "operator_shapes"):
            connection.execute(text(f"DELETE FROM {table}"))


def test_folding_is_an_edit_that_can_be_taken_back(client: FlaskClient, graph: dict[str, Any]) -> None:
    before = evaluate(client, graph, "tall")["nodes"]["tall"]["counts"]
    made = change(client, graph, "fold", nodes=["tall"], title="Tall")
    assert made["cards"] == ["tall"]
    assert evaluate(client, graph, "tall")["nodes"]["tall"]["counts"] == before
    assert made["document"]["nodes"]["tall"]["operator"] == "folded"
    inside = evaluate(client, graph, "tall", level="tall")
    assert inside["nodes"]["tall"]["counts"] == before
    assert set(inside["nodes"]) == {"in_geo", "tall"}
    undone = client.post(f"/api/graphs/{graph['id']}/undo", json={"revision": made["revision"]}).json
    assert undone["document"]["nodes"]["tall"]["operator"] == "extrude"


def test_changes_that_cannot_be_made_say_why(client: FlaskClient, graph: dict[str, Any]) -> None:
    def message(what: str, **arguments: Any) -> str:
        answer = client.post(f"/api/graphs/{graph['id']}/changes", json={"change": {"what": what, **arguments}})
        assert answer.status_code == 422
        return str(answer.json["message"])

    assert "choose the cards to fold" in message("fold", nodes=[])
    assert "change.fold.nodes: Field required" in message("fold")
    assert "holds no graph to unfold" in message("unfold", node="sheet")
    assert "cannot follow itself" in message("tie", node="sheet", parameter="cells", follows="sheet", of="cells")
    assert "there is no node 'x'" in message("rename node", node="x", title="y")


def test_looks_texts_and_exports_work_inside(client: FlaskClient, graph: dict[str, Any]) -> None:
    folded(client, graph)
    level = {"level": "tall", "node": "tall"}
    look = client.post(f"/api/graphs/{graph['id']}/looks", json={**level, "queries": [{"what": "summary"}]}).json
    assert look["looks"][0]["counts"]["faces"] > 16
    told = client.post(
        f"/api/graphs/{graph['id']}/texts", json={**level, "parameter": "distance", "source": "height * 2"}
    ).json
    assert told["result"] == "number: 1"
    assert any(name["name"] == "height" for name in told["names"])
    data = client.get(f"/api/graphs/{graph['id']}/export?node=tall&level=tall&format=obj").data
    assert data.count(b"\nf ") == look["looks"][0]["counts"]["faces"]
    wrong = client.post(f"/api/graphs/{graph['id']}/looks", json={"level": "sheet", "node": "x", "queries": []})
    assert "'sheet' holds no graph to look into" in wrong.json["message"]


def test_publish_use_and_publish_again(client: FlaskClient, project: str, graph: dict[str, Any]) -> None:
    made = folded(client, graph)
    dry = publish(client, graph, dry=True).json
    assert (dry["published"], dry["before"], dry["breaks"]) == (False, None, [])
    assert publish(client, graph).json["operator"] == "tall@1.0.0"
    assert publish(client, graph).status_code == 422
    entry = next(e for e in client.get("/api/operators").json["operators"] if e["name"] == "tall@1.0.0")
    assert [p["name"] for p in entry["parameters"]] == ["height"]
    assert entry["published"]["releases"] == ["1.0.0"]
    assert client.get("/api/library/tall@1.0.0/picture").data.startswith(b"\x89PNG")
    user = {
        "format": "reticula graph",
        "version": 1,
        "looking_at": "t",
        "nodes": {
            "s": {"operator": "grid"},
            "t": {"operator": "tall@1.0.0", "inputs": {"geo": ["s"]}, "parameters": {"height": 2.0}},
        },
    }
    other = client.post(f"/api/projects/{project}/graphs", json={"title": "User", "document": user}).json
    assert evaluate(client, other, "t")["looks"][0]["bounds"][1][1] == pytest.approx(2.0)
    assert evaluate(client, other, "tall", level="t")["nodes"]["tall"]["state"] == "done"

    made = change(client, made, "rename dial", level="tall", dial="height", name="rise")
    answer = publish(client, graph, release="1.1.0")
    assert "must be 2.0.0 at least" in answer.json["message"]
    second = publish(client, graph, release="2.0.0").json
    assert second["differences"]["gone"] == ["the dial 'height'"]
    found = client.get("/api/library/tall/differences?before=1.0.0&after=2.0.0").json
    assert found["new"] == ["the dial 'rise'"]
    assert evaluate(client, other, "t")["looks"][0]["bounds"][1][1] == pytest.approx(2.0)
    other = change(client, other, "update", node="t", release="2.0.0")
    assert other["document"]["nodes"]["t"]["parameters"] == {"height": 2.0}
    assert "the value is put by" in evaluate(client, other, "t")["nodes"]["t"]["notes"][0]["text"]


def test_a_release_that_breaks_needs_a_reason(client: FlaskClient, graph: dict[str, Any]) -> None:
    folded(client, graph)
    publish(client, graph)
    edit = {"op": "add", "path": "/nodes/tall/graph/nodes/tall/parameters/where", "value": "index < 3"}
    now = client.get(f"/api/graphs/{graph['id']}").json
    client.post(f"/api/graphs/{graph['id']}/edits", json={"revision": now["revision"], "patch": [edit]})
    refused = publish(client, graph, release="1.0.1")
    assert refused.status_code == 422
    assert "this release breaks what 1.0.0 promised: the example" in refused.json["message"]
    assert refused.json["parameter"] == "reason"
    assert publish(client, graph, release="1.0.1", reason="only the first cards are meant").json["published"]
