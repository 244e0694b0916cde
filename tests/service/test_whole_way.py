"""One operator all the way: folded, nested three deep, looped, tied, published twice, packed, brought into an empty
catalogue.
"""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

from flask.testing import FlaskClient
from sqlalchemy import text

from reticula.core import Geo, load_package
from reticula.core.formats import read_bytes
from reticula.store.database import Database
from tests.service.test_operators import change


def digest(client: FlaskClient, graph: dict[str, Any], node: str) -> str:
    """The hash of what a node makes, by way of a file that keeps everything."""
    answer = client.get(f"/api/graphs/{graph['id']}/export?node={node}&format=ply")
    assert answer.status_code == 200, answer.json
    return read_bytes("a.ply", answer.data).digest


def test_nothing_changes_on_the_whole_way(
    client: FlaskClient, project: str, database: Database, tmp_path: Path
) -> None:
    with database.engine.begin() as connection:
        connection.execute(text("DELETE FROM operators"))
    nodes = {
        "sheet": {"operator": "grid", "parameters": {"cells": [5, 5]}},
        "mark": {
            "operator": "group",
            "inputs": {"geo": ["sheet"]},
            "parameters": {"where": "random(3) < share", "name": "bud"},
        },
        "raise": {
            "operator": "extrude",
            "inputs": {"geo": ["mark"]},
            "parameters": {"where": "bud", "distance": {"formula": "0.1 * share"}, "together": False},
        },
        "soft": {"operator": "smooth_subdivide", "inputs": {"geo": ["raise"]}, "parameters": {"levels": 1}},
        "turned": {
            "operator": "transform",
            "inputs": {"geo": ["soft"]},
            "parameters": {"scale": {"formula": "vec3(soft.levels)"}},
        },
    }
    dials = {"share": {"type": "number", "value": 0.4}}
    document = {"format": "reticula graph", "version": 1, "dials": dials, "nodes": nodes, "looking_at": "turned"}
    graph = client.post(f"/api/projects/{project}/graphs", json={"title": "Way", "document": document}).json
    before = digest(client, graph, "turned")

    change(client, graph, "fold", nodes=["mark"], title="Buds")
    assert digest(client, graph, "turned") == before
    change(client, graph, "fold", nodes=["buds", "raise"], title="Raised")
    assert digest(client, graph, "turned") == before
    made = change(client, graph, "fold", nodes=["raised", "soft"], title="Soft buds")
    assert digest(client, graph, "turned") == before
    inner = made["document"]["nodes"]["soft_buds"]["graph"]["nodes"]["raised"]["graph"]["nodes"]["buds"]["graph"]
    assert "mark" in inner["nodes"]
    assert made["document"]["nodes"]["turned"]["parameters"]["scale"] == {"formula": "vec3(soft_buds.soft_levels)"}
    change(client, graph, "rename node", node="soft_buds", title="Colony")
    change(client, graph, "rename dial", level="colony", dial="soft_levels", name="rounds")
    made = change(
        client, graph, "make dial", level="colony/raised", node="raise", parameter="together", name="as_one", up=1
    )
    assert made["document"]["nodes"]["turned"]["parameters"]["scale"] == {"formula": "vec3(colony.rounds)"}
    assert digest(client, graph, "turned") == before

    about = {"node": "colony", "name": "colony", "summary": "Buds"}
    assert client.post(f"/api/graphs/{graph['id']}/publications", json={**about, "release": "1.0.0"}).json["published"]
    change(client, graph, "make dial", level="colony/raised", node="raise", parameter="inset", name="inset", up=1)
    second = client.post(f"/api/graphs/{graph['id']}/publications", json={**about, "release": "1.1.0"}).json
    assert second["differences"]["new"] == ["the dial 'inset'"]
    assert second["breaks"] == []

    packed = client.get("/api/library/colony@1.1.0/package").data
    (tmp_path / "colony.zip").write_bytes(packed)
    with database.engine.begin() as connection:
        for table in ("operators", "operator_shapes", "projects"):
            connection.execute(text(f"DELETE FROM {table}"))
    seen = client.post(
        "/api/packages/reviews", data={"file": (io.BytesIO(packed), "c.zip")}, content_type="multipart/form-data"
    ).json
    client.post(f"/api/packages/reviews/{seen['review']}", json={})
    use = {
        "sheet": nodes["sheet"],
        "colony": {"operator": "colony@1.1.0", "inputs": {"geo": ["sheet"]}, "parameters": {"share": 0.4}},
        "turned": {
            **nodes["turned"],
            "inputs": {"geo": ["colony"]},
            "parameters": {"scale": {"formula": "vec3(colony.rounds)"}},
        },
    }
    fresh = client.post("/api/projects", json={"title": "Fresh"}).json["id"]
    used = client.post(
        f"/api/projects/{fresh}/graphs", json={"title": "U", "document": {**document, "nodes": use}}
    ).json
    assert digest(client, used, "turned") == before
    change(client, used, "unfold", node="colony")
    assert digest(client, used, "turned") == before

    colony = load_package(tmp_path / "colony.zip")
    from reticula.core import ops

    made_here: Geo = colony(ops.grid(cells=(5, 5)), share=0.4)
    made_here.write(tmp_path / "here.ply")
    assert Geo.read(tmp_path / "here.ply").digest == before

    body = client.get(f"/api/graphs/{used['id']}").json["document"]
    looped = {
        **body,
        "nodes": {
            "sheet": use["sheet"],
            "again": {
                "operator": "repeat",
                "inputs": {"geo": ["sheet"]},
                "parameters": {"rounds": 1},
                "graph": {
                    "format": "reticula graph",
                    "version": 1,
                    "inputs": [{"name": "geo"}],
                    "outputs": [{"name": "geo", "feed": "colony"}],
                    "nodes": {
                        "in_geo": {"operator": "input"},
                        "colony": {**use["colony"], "inputs": {"geo": ["in_geo"]}},
                    },
                },
            },
        },
    }
    loop = client.post(f"/api/projects/{fresh}/graphs", json={"title": "L", "document": looped}).json
    assert digest(client, loop, "again") == before
