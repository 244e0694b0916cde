"""Folding, publishing, importing and the depot, through the service."""

from __future__ import annotations

import base64
import io
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient
from sqlalchemy import text
from werkzeug.serving import make_server

from reticula.core import ops
from reticula.core.formats import write_bytes
from reticula.core.packages import read_package
from reticula.depot.app import create_depot
from reticula.service.config import Config
from reticula.store.database import Database

PNG = base64.b64encode(b"\x89PNG\r\n\x1a\npicture").decode()


@pytest.fixture(autouse=True)
def no_operators(client: FlaskClient, database: Database) -> None:
    with database.engine.begin() as connection:
        for table in ("operators", "operator_shapes"):
            connection.execute(text(f"DELETE FROM {table}"))


def change(client: FlaskClient, graph: dict[str, Any], what: str, level: str = "", **arguments: Any) -> dict[str, Any]:
    """Work a change out and save it; returns the graph as it is then."""
    made = client.post(
        f"/api/graphs/{graph['id']}/changes", json={"what": what, "level": level, "arguments": arguments}
    )
    assert made.status_code == 200, made.json
    now = client.get(f"/api/graphs/{graph['id']}").json
    saved = client.post(
        f"/api/graphs/{graph['id']}/edits",
        json={"revision": now["revision"], "patch": made.json["patch"], "label": what},
    )
    assert saved.status_code == 200, saved.json
    return saved.json | {"cards": made.json["cards"], "name": made.json["name"]}


def evaluate(client: FlaskClient, graph: dict[str, Any], node: str, level: str = "") -> dict[str, Any]:
    query = {"node": node, "level": level, "wait": 20, "queries": [{"what": "summary"}]}
    answer = client.post(f"/api/graphs/{graph['id']}/evaluations", json=query).json
    assert answer["state"] == "done", answer
    return answer


def folded(client: FlaskClient, graph: dict[str, Any]) -> dict[str, Any]:
    made = change(client, graph, "fold", nodes=["tall"], title="Tall")
    return change(client, made, "make dial", level="tall", node="tall", parameter="distance", name="height")


def publish(client: FlaskClient, graph: dict[str, Any], **more: Any) -> Any:
    about = {"node": "tall", "name": "tall", "release": "1.0.0", "summary": "Raises", "tags": ["raise"], "picture": PNG}
    return client.post(f"/api/graphs/{graph['id']}/publications", json={**about, **more})


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
        answer = client.post(f"/api/graphs/{graph['id']}/changes", json={"what": what, "arguments": arguments})
        assert answer.status_code == 422
        return str(answer.json["message"])

    assert "choose the cards to fold" in message("fold", nodes=[])
    assert "cannot be done with these arguments" in message("fold")
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


def test_packages_out_and_in(client: FlaskClient, project: str, graph: dict[str, Any], database: Database) -> None:
    mesh = write_bytes(ops.box(size=(3, 1, 1)), "rock.ply")
    client.post(
        f"/api/projects/{project}/assets",
        data={"file": (io.BytesIO(mesh), "rock.ply")},
        content_type="multipart/form-data",
    )
    nodes = {
        "rock": {"operator": "project_shape", "parameters": {"shape": "rock"}},
        "tall": {"operator": "transform", "inputs": {"geo": ["rock"]}},
    }
    document = {"format": "reticula graph", "version": 1, "nodes": nodes, "looking_at": "tall"}
    rocky = client.post(f"/api/projects/{project}/graphs", json={"title": "Rock", "document": document}).json
    change(client, rocky, "fold", nodes=["rock", "tall"], title="Tall")
    assert publish(client, rocky, name="rock_pile").json["published"]
    data = client.get("/api/library/rock_pile@1.0.0/package").data
    assert read_package(data)().bounds[1, 0] == pytest.approx(1.5)

    def send(content: bytes) -> Any:
        return client.post(
            "/api/packages/reviews",
            data={"file": (io.BytesIO(content), "rock.zip")},
            content_type="multipart/form-data",
        )

    again = send(data).json
    assert [entry["state"] for entry in again["operators"]] == ["there already"]
    with database.engine.begin() as connection:
        for table in ("operators", "operator_shapes"):
            connection.execute(text(f"DELETE FROM {table}"))
    fresh = send(data).json
    assert [entry["state"] for entry in fresh["operators"]] == ["new"]
    assert client.post(f"/api/packages/reviews/{fresh['review']}", json={}).json == {
        "brought": ["rock_pile@1.0.0"],
        "kept": [],
    }
    assert client.post(f"/api/packages/reviews/{fresh['review']}", json={}).status_code == 404
    assert client.get("/api/library/rock_pile@1.0.0/package").data == data
    user = {"format": "reticula graph", "version": 1, "nodes": {"r": {"operator": "rock_pile@1.0.0"}}}
    other = client.post("/api/projects", json={"title": "Elsewhere"}).json["id"]
    used = client.post(f"/api/projects/{other}/graphs", json={"title": "U", "document": user}).json
    assert evaluate(client, used, "r")["looks"][0]["bounds"][1][0] == pytest.approx(1.5)
    broken = bytearray(data)
    broken[len(broken) // 2] ^= 255
    refused = send(bytes(broken))
    assert refused.status_code == 422
    assert refused.json["code"] in ("format", "graph")
    assert len(client.get("/api/operators").json["operators"]) == len(ops.__dir__()) + 1


def test_colliding_operators_are_brought_side_by_side(
    client: FlaskClient, graph: dict[str, Any], database: Database
) -> None:
    folded(client, graph)
    publish(client, graph)
    data = client.get("/api/library/tall@1.0.0/package").data
    with database.engine.begin() as connection:
        connection.execute(text("DELETE FROM operators"))
    publish(client, graph, summary="Another one")
    form = {"file": (io.BytesIO(data), "tall.zip")}
    seen = client.post("/api/packages/reviews", data=form, content_type="multipart/form-data").json
    assert (seen["operators"][0]["state"], seen["operators"][0]["other_name"]) == ("collides", "tall_2")
    undecided = client.post(f"/api/packages/reviews/{seen['review']}", json={})
    assert "say which to keep" in undecided.json["message"]
    made = client.post(f"/api/packages/reviews/{seen['review']}", json={"choices": {"tall@1.0.0": "beside"}}).json
    assert made == {"brought": ["tall_2@1.0.0"], "kept": []}
    names = [entry["name"] for entry in client.get("/api/operators").json["operators"]]
    assert names[-2:] == ["tall@1.0.0", "tall_2@1.0.0"]
    assert client.get("/api/library/tall_2@1.0.0/picture").status_code == 200


@pytest.fixture
def depot(app: Any, tmp_path: Path) -> Iterator[str]:
    server = make_server("127.0.0.1", 0, create_depot(tmp_path / "depot"))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    parts = app.extensions["reticula"]
    old: Config = parts.config
    object.__setattr__(
        parts, "config", old.__class__(**{**old.__dict__, "depot": f"http://127.0.0.1:{server.server_port}"})
    )
    yield str(tmp_path / "depot")
    server.shutdown()
    server.server_close()
    object.__setattr__(parts, "config", old)


def test_the_depot_lists_takes_and_gives(
    client: FlaskClient, graph: dict[str, Any], depot: str, database: Database
) -> None:
    folded(client, graph)
    publish(client, graph)
    assert client.get("/api/depot").json == {"available": True, "message": "", "packages": []}
    assert client.post("/api/depot/tall@1.0.0/publish").status_code == 204
    assert client.post("/api/depot/tall@1.0.0/publish").status_code == 204
    [entry] = client.get("/api/depot").json["packages"]
    assert (entry["operator"], entry["here"]) == ("tall@1.0.0", True)
    with database.engine.begin() as connection:
        connection.execute(text("DELETE FROM operators"))
    seen = client.post("/api/depot/tall@1.0.0/fetch").json
    assert client.post(f"/api/packages/reviews/{seen['review']}", json={}).json["brought"] == ["tall@1.0.0"]
    with database.engine.begin() as connection:
        connection.execute(text("DELETE FROM operators"))
    publish(client, graph, summary="Another one")
    refused = client.post("/api/depot/tall@1.0.0/publish")
    assert refused.status_code == 409
    assert "publish a new release" in refused.json["message"]
    (Path(depot) / "broken-1.0.0.zip").write_bytes(b"nonsense")
    assert len(client.get("/api/depot").json["packages"]) == 1
    assert client.post("/api/depot/gone@1.0.0/fetch").status_code == 503


def test_a_depot_that_is_down_is_said_in_words(client: FlaskClient, graph: dict[str, Any], app: Any) -> None:
    assert client.get("/api/depot").json["message"] == "No depot is set up. The operators here go on working."
    parts = app.extensions["reticula"]
    old = parts.config
    object.__setattr__(parts, "config", old.__class__(**{**old.__dict__, "depot": "http://127.0.0.1:9"}))
    try:
        answer = client.get("/api/depot").json
        assert answer["available"] is False
        assert "The depot does not answer" in answer["message"]
        assert client.post("/api/depot/tall@1.0.0/fetch").status_code == 503
    finally:
        object.__setattr__(parts, "config", old)
