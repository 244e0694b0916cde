"""How the tests of the service change, evaluate and publish a graph."""

from __future__ import annotations

import base64
from typing import Any

from flask.testing import FlaskClient

PNG = base64.b64encode(b"\x89PNG\r\n\x1a\npicture").decode()


def change(client: FlaskClient, graph: dict[str, Any], what: str, level: str = "", **arguments: Any) -> dict[str, Any]:
    """Work a change out and save it; returns the graph as it is then."""
    made = client.post(
        f"/api/graphs/{graph['id']}/changes", json={"change": {"what": what, **arguments}, "level": level}
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
