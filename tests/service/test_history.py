"""The history over HTTP: moments read, named, compared, and gone back to."""

from __future__ import annotations

from typing import Any

import pytest
from flask.testing import FlaskClient


def edit(client: FlaskClient, graph: dict[str, Any], revision: int, path: str, value: Any, label: str = "") -> Any:
    patch = [{"op": "add", "path": path, "value": value}]
    body = {"revision": revision, "patch": patch, "label": label}
    return client.post(f"/api/graphs/{graph['id']}/edits", json=body)


@pytest.fixture
def edited(client: FlaskClient, graph: dict[str, Any]) -> str:
    """The path of a graph after three edits, the second of which was undone."""
    edit(client, graph, 0, "/nodes/ball", {"operator": "sphere"}, "add a sphere")
    edit(client, graph, 1, "/nodes/tall/parameters/distance", 2.0, "raise it")
    path = f"/api/graphs/{graph['id']}"
    client.post(f"{path}/undo", json={"revision": 2})
    edit(client, graph, 3, "/nodes/tall/title", "Wall", "call it Wall")
    return path


def test_the_log_has_times_and_names(client: FlaskClient, edited: str) -> None:
    client.put(f"{edited}/moments/1", json={"name": "With a ball"})
    edits = client.get(f"{edited}/edits").json["edits"]
    assert [(one["revision"], one["kind"], one["target"]) for one in edits] == [
        (1, "edit", None),
        (2, "edit", None),
        (3, "undo", 2),
        (4, "edit", None),
    ]
    assert edits[0]["name"] == "With a ball"
    assert edits[0]["at"].endswith("+00:00")


def test_a_branch_that_undo_left_is_read_and_gone_back_to(client: FlaskClient, edited: str) -> None:
    found = client.get(f"{edited}/moments/2").json
    assert found["document"]["nodes"]["tall"]["parameters"]["distance"] == 2.0
    answer = client.post(f"{edited}/back", json={"revision": 4, "to": 2, "label": "back to ‘raise it’"})
    assert answer.json["document"] == {**found["document"]}
    assert (answer.json["revision"], answer.json["undo"]) == (5, "back to ‘raise it’")
    undone = client.post(f"{edited}/undo", json={"revision": 5}).json
    assert undone["document"]["nodes"]["tall"]["title"] == "Wall"


def test_going_back_to_what_it_is_says_so_and_a_stale_one_is_refused(client: FlaskClient, edited: str) -> None:
    same = client.post(f"{edited}/back", json={"revision": 4, "to": 4})
    assert (same.status_code, same.json["message"]) == (422, "the graph is the same as it was then")
    assert client.post(f"{edited}/back", json={"revision": 3, "to": 1}).status_code == 409


def test_two_moments_are_compared_in_words(client: FlaskClient, edited: str) -> None:
    found = client.get(f"{edited}/moments?old=1&new=2").json
    assert found == {"changes": [{"node": "tall", "what": "distance 0.5 → 2.0"}], "more": 0}
    assert client.get(f"{edited}/moments?old=0&new=99").status_code == 422


def test_an_earlier_moment_is_evaluated_from_what_is_kept(client: FlaskClient, edited: str) -> None:
    client.post(f"{edited}/evaluations", json={"wait": 20})
    body = {"revision": 2, "node": "tall", "queries": [{"what": "summary"}]}
    (look,) = client.post(f"{edited}/looks", json=body).json["looks"]
    assert look["bounds"][1][1] == 2.0
    again = client.post(f"{edited}/evaluations", json={"wait": 20, "revision": 2}).json
    assert all(report["cached"] for report in again["nodes"].values())
