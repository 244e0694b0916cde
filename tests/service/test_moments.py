"""Earlier moments of a graph, and what is wrong with every node, through the service."""

from typing import Any

import numpy as np
from flask.testing import FlaskClient

Graph = dict[str, Any]


def edit(client: FlaskClient, graph: Graph, *patch: dict[str, Any]) -> Graph:
    body = {"revision": graph["revision"], "patch": list(patch), "label": "test"}
    made = client.post(f"/api/graphs/{graph['id']}/edits", json=body)
    assert made.status_code == 200, made.json
    return made.json


def with_box(client: FlaskClient, graph: Graph) -> Graph:
    box = {"operator": "box", "parameters": {"size": [1, 1, 1]}}
    return edit(client, graph, {"op": "add", "path": "/nodes/block", "value": box})


def look(client: FlaskClient, graph: Graph, *queries: dict[str, Any], **more: Any) -> Any:
    return client.post(f"/api/graphs/{graph['id']}/looks", json={"node": "block", "queries": list(queries), **more})


def test_a_node_is_looked_at_as_it_was(client: FlaskClient, graph: Graph) -> None:
    first = with_box(client, graph)
    later = edit(client, first, {"op": "replace", "path": "/nodes/block/parameters/size", "value": [3, 1, 1]})
    bounds = lambda **more: look(client, graph, {"what": "summary"}, **more).json["looks"][0]["bounds"]  # noqa: E731
    assert bounds()[1][0] == 1.5
    assert bounds(revision=first["revision"])[1][0] == 0.5
    assert bounds(revision=later["revision"])[1][0] == 1.5
    missing = look(client, graph, {"what": "summary"}, revision=graph["revision"])
    assert missing.status_code == 422
    assert "no node 'block'" in missing.json["message"]


def test_a_node_is_compared_with_itself_at_an_earlier_moment(client: FlaskClient, graph: Graph) -> None:
    first = with_box(client, graph)
    edit(
        client,
        first,
        {"op": "replace", "path": "/nodes/block/parameters/size", "value": [3, 1, 1]},
        {"op": "add", "path": "/nodes/block/parameters/cells", "value": [2, 1, 1]},
    )
    query = {"what": "difference", "to": "block", "at": first["revision"]}
    found = look(client, graph, query).json["looks"][0]
    assert found["counts"]["faces"] == [10, 4]
    assert found["farthest"] == 1.0
    assert found["moved"] == 8
    none = look(client, graph, {"what": "difference", "to": "block", "at": None}).json["looks"][0]
    assert none["farthest"] == 0.0
    asked = {"node": query.get("to"), "wait": 20, "queries": [query]}
    evaluated = client.post(f"/api/graphs/{graph['id']}/evaluations", json=asked).json["looks"][0]
    assert "by a look, not by an evaluation" in evaluated["error"]["message"], "the moment is not passed over"
    gone = look(client, graph, {**query, "at": graph["revision"]})
    assert gone.status_code == 422
    unnamed = look(client, graph, {**query, "at": "yesterday"})
    assert unnamed.status_code == 422
    assert "queries.0.difference.at: Input should be a valid integer" in unnamed.json["message"]
    beyond = look(client, graph, {**query, "at": 999})
    assert "no revision 999" in beyond.json["message"]


def test_every_node_says_what_is_wrong_with_it(client: FlaskClient, graph: Graph) -> None:
    sheet = {"operator": "grid", "parameters": {"cells": [2, 2]}}
    apart = {"operator": "unshare", "inputs": {"geo": ["sheet"]}}
    broken = {"operator": "group", "inputs": {"geo": ["sheet"]}, "parameters": {"where": "nonsense > 1"}}
    add = [
        {"op": "add", "path": f"/nodes/{name}", "value": value}
        for name, value in (("sheet", sheet), ("apart", apart), ("broken", broken))
    ]
    edit(client, graph, *add)
    url = f"/api/graphs/{graph['id']}"
    found = client.post(f"{url}/checks", json={}).json["nodes"]
    assert [(one["name"], one["kind"], one["count"]) for one in found["sheet"]["found"]] == [
        ("open borders", "edge", 8)
    ]
    assert {one["name"]: one["count"] for one in found["apart"]["found"]} == {
        "open borders": 16,
        "points in one place": 12,
    }
    assert "broken" not in found
    reports = client.post(f"{url}/evaluations", json={"wait": 20}).json["nodes"]
    assert found["apart"]["key"] == reports["apart"]["key"]


def test_the_place_of_a_shape_is_told_as_a_matrix(client: FlaskClient, graph: Graph) -> None:
    made = with_box(client, graph)
    placed = {"operator": "set_place", "inputs": {"geo": ["block"]}, "parameters": {"move": [1, 2, 3]}}
    edit(client, made, {"op": "add", "path": "/nodes/placed", "value": placed})
    url = f"/api/graphs/{graph['id']}/looks"
    ask = lambda node: client.post(url, json={"node": node, "queries": [{"what": "place"}]}).json["looks"][0]["matrix"]  # noqa: E731
    assert ask("block") == np.eye(4).reshape(-1).tolist()
    assert np.reshape(ask("placed"), (4, 4))[:3, 3].tolist() == [1, 2, 3]
