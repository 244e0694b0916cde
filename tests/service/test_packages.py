"""Packages out and in through the service, and the depot."""

from __future__ import annotations

import io
import threading
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient
from sqlalchemy import text
from werkzeug.serving import make_server

from reticula.core import ops
from reticula.core.formats import write_bytes
from reticula.core.packages import own_key, read_package, sign_package
from reticula.depot.app import create_depot
from reticula.service.config import Config
from reticula.store.database import Database
from tests.service.publishing import change, evaluate, folded, publish

TOKEN = "the depot's token"


def upload(client: FlaskClient, content: bytes) -> Any:
    form = {"file": (io.BytesIO(content), "tall.zip")}
    return client.post("/api/packages/reviews", data=form, content_type="multipart/form-data")


@pytest.fixture(autouse=True)
def no_operators(client: FlaskClient, database: Database) -> None:
    with database.engine.begin() as connection:
        for table in ("operators", "operator_shapes"):
            connection.execute(text(f"DELETE FROM {table}"))


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

    again = upload(client, data).json
    assert [entry["state"] for entry in again["operators"]] == ["there already"]
    with database.engine.begin() as connection:
        for table in ("operators", "operator_shapes"):
            connection.execute(text(f"DELETE FROM {table}"))
    fresh = upload(client, data).json
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
    refused = upload(client, bytes(broken))
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
    server = make_server("127.0.0.1", 0, create_depot(tmp_path / "depot", TOKEN))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    parts = app.extensions["reticula"]
    old: Config = parts.config
    object.__setattr__(
        parts,
        "config",
        replace(old, depot=f"http://127.0.0.1:{server.server_port}", depot_token=TOKEN, publisher="Reef"),
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
    assert (entry["operator"], entry["here"], entry["publisher"]) == ("tall@1.0.0", True, "Reef")
    with database.engine.begin() as connection:
        connection.execute(text("DELETE FROM operators"))
    seen = client.post("/api/depot/tall@1.0.0/fetch").json
    assert seen["signature"] == {
        "state": "own",
        "publisher": "Reef",
        "fingerprint": entry["fingerprint"],
        "before": "",
    }
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


def test_whose_signature_it_is_and_whether_that_changed(
    client: FlaskClient, graph: dict[str, Any], database: Database, tmp_path: Path
) -> None:
    folded(client, graph)
    publish(client, graph)
    data = client.get("/api/library/tall@1.0.0/package").data
    with database.engine.begin() as connection:
        connection.execute(text("DELETE FROM operators"))
    reef, other = own_key(tmp_path / "reef.pem"), own_key(tmp_path / "other.pem")

    def look(package: bytes) -> dict[str, Any]:
        return upload(client, package).json

    assert look(data)["signature"]["state"] == "unsigned"
    first = look(sign_package(data, reef, "Reef studio"))
    assert (first["signature"]["state"], first["signature"]["publisher"]) == ("new", "Reef studio")
    assert client.post(f"/api/packages/reviews/{first['review']}", json={}).status_code == 200
    (told,) = [one for one in client.get("/api/operators").json["operators"] if one["name"] == "tall@1.0.0"]
    assert told["published"]["origin"].endswith(f"signed by Reef studio ({first['signature']['fingerprint']})")
    assert look(sign_package(data, reef, "Reef studio"))["signature"]["state"] == "same"
    for package in (sign_package(data, other, "Reef studio"), sign_package(data, other, "Somebody"), data):
        changed = look(package)["signature"]
        assert changed["state"] == "changed"
        assert changed["before"] == f"Reef studio ({first['signature']['fingerprint']})"


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
