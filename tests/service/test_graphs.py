"""Graphs: edits, revisions, undo and redo, and what is refused."""

from typing import Any

import pytest
from flask.testing import FlaskClient

Graph = dict[str, Any]


def distance(value: float) -> list[dict[str, Any]]:
    return [{"op": "replace", "path": "/nodes/tall/parameters/distance", "value": value}]


def edit(client: FlaskClient, graph: Graph, revision: int, value: float, label: str = "") -> Any:
    body = {"revision": revision, "patch": distance(value), "label": label}
    return client.post(f"/api/graphs/{graph['id']}/edits", json=body)


def value_of(state: Graph) -> float:
    return state["document"]["nodes"]["tall"]["parameters"]["distance"]


def test_projects_and_graphs_are_listed_renamed_and_deleted(client: FlaskClient, graph: Graph) -> None:
    project = graph["project_id"]
    assert client.get("/api/projects").json["projects"] == [{"id": project, "title": "Reef", "role": "manage"}]
    assert client.put(f"/api/projects/{project}", json={"title": "Shoal"}).json["title"] == "Shoal"
    listed = client.get(f"/api/projects/{project}/graphs").json["graphs"]
    assert listed == [{"id": graph["id"], "title": "Tile", "revision": 0}]
    assert client.delete(f"/api/graphs/{graph['id']}").status_code == 204
    assert client.get(f"/api/graphs/{graph['id']}").status_code == 404
    assert client.delete(f"/api/projects/{project}").status_code == 204
    assert client.get(f"/api/projects/{project}/graphs").json["message"] == f"There is no project '{project}'."


def test_edits_count_revisions_and_are_logged(client: FlaskClient, graph: Graph) -> None:
    first = edit(client, graph, 0, 1.0, "raise it").json
    assert (first["revision"], value_of(first), first["undo"], first["redo"]) == (1, 1.0, "raise it", None)
    edit(client, graph, 1, 2.0, "higher")
    log = client.get(f"/api/graphs/{graph['id']}/edits").json["edits"]
    assert [(entry["revision"], entry["kind"], entry["label"]) for entry in log] == [
        (1, "edit", "raise it"),
        (2, "edit", "higher"),
    ]
    assert value_of(client.get(f"/api/graphs/{graph['id']}").json) == 2.0


def test_a_stale_edit_gets_the_current_state(client: FlaskClient, graph: Graph) -> None:
    gone = {"revision": 0, "patch": [{"op": "remove", "path": "/nodes/tall"}]}
    client.post(f"/api/graphs/{graph['id']}/edits", json=gone)
    answer = edit(client, graph, 0, 9.0)
    assert answer.status_code == 409
    assert answer.json["code"] == "stale"
    assert (answer.json["graph"]["revision"], list(answer.json["graph"]["document"]["nodes"])) == (1, ["sheet"])
    assert client.post(f"/api/graphs/{graph['id']}/undo", json={"revision": 0}).status_code == 409


def test_an_edit_goes_on_top_of_what_others_did(client: FlaskClient, graph: Graph) -> None:
    path = f"/api/graphs/{graph['id']}/edits"
    edit(client, graph, 0, 1.0)
    other = [{"op": "add", "path": "/nodes/sheet/title", "value": "Tile"}]
    made = client.post(path, json={"revision": 0, "patch": other}).json
    assert (made["revision"], value_of(made), made["document"]["nodes"]["sheet"]["title"]) == (2, 1.0, "Tile")
    later = edit(client, graph, 0, 9.0).json
    assert (later["revision"], value_of(later)) == (3, 9.0), "of one value the later edit wins"


def test_undo_and_redo_walk_the_log(client: FlaskClient, graph: Graph) -> None:
    for revision, value in enumerate([1.0, 2.0, 3.0]):
        edit(client, graph, revision, value, f"to {value:g}")
    revision = 3

    def walk(word: str) -> Graph:
        nonlocal revision
        state = client.post(f"/api/graphs/{graph['id']}/{word}", json={"revision": revision}).json
        revision = state["revision"]
        return state

    assert [value_of(walk("undo")) for _ in range(2)] == [2.0, 1.0]
    state = walk("redo")
    assert (value_of(state), state["undo"], state["redo"]) == (2.0, "to 2", "to 3")
    edit(client, graph, revision, 7.0, "to 7")
    revision += 1
    answer = client.post(f"/api/graphs/{graph['id']}/redo", json={"revision": revision})
    assert (answer.status_code, answer.json["message"]) == (409, "There is nothing to redo.")
    assert [value_of(walk("undo")) for _ in range(3)] == [2.0, 1.0, 0.5]
    assert (
        client.post(f"/api/graphs/{graph['id']}/undo", json={"revision": revision}).json["message"]
        == "There is nothing to undo."
    )


@pytest.mark.parametrize(
    ("patch", "message"),
    [
        ([{"op": "replace", "path": "/nodes/gone/parameters", "value": 1}], "the edit does not fit"),
        ([{"op": "launch", "path": "/nodes"}], "the edit does not fit"),
        ([{"path": "/nodes"}], "the edit does not fit"),
        ([{"op": "add", "path": "/nodes/tall/speed", "value": 1}], "at nodes / tall"),
        ([{"op": "remove", "path": "/nodes"}], "'nodes' is a required property"),
        ([], "patch"),
    ],
)
def test_edits_that_would_break_the_graph_change_nothing(
    client: FlaskClient, graph: Graph, patch: Any, message: str
) -> None:
    answer = client.post(f"/api/graphs/{graph['id']}/edits", json={"revision": 0, "patch": patch})
    assert answer.status_code == 422
    assert message in answer.json["message"]
    assert client.get(f"/api/graphs/{graph['id']}").json["revision"] == 0


def test_requests_that_do_not_fit_name_the_field(client: FlaskClient, graph: Graph) -> None:
    for body in (
        {"patch": distance(1)},
        {"revision": "x", "patch": distance(1)},
        {"revision": 0, "patch": distance(1), "lable": "a"},
    ):
        assert client.post(f"/api/graphs/{graph['id']}/edits", json=body).status_code == 422
    answer = client.post(f"/api/graphs/{graph['id']}/edits", data="{", content_type="application/json")
    assert answer.status_code in (400, 422)
    assert answer.json["message"]
    wrong = client.post(
        f"/api/projects/{graph['project_id']}/graphs", json={"title": "x", "document": {"format": "other"}}
    )
    assert "the graph document is not valid" in wrong.json["message"]


def test_settings_and_health(client: FlaskClient) -> None:
    assert client.put("/api/settings", json={"theme": "night", "later": 1}).json == {"theme": "night", "later": 1}
    assert client.get("/api/settings").json["theme"] == "night"
    assert client.put("/api/settings", json={"theme": "pink"}).status_code == 422
    assert client.get("/api/health").json["status"] == "ok"


def test_strangers_are_refused(client: FlaskClient) -> None:
    assert client.get("/api/projects", headers={"Host": "reef.example"}).status_code == 403
    assert (
        client.post("/api/projects", json={"title": "x"}, headers={"Origin": "http://reef.example"}).status_code == 403
    )
    same = client.post("/api/projects", json={"title": "x"}, headers={"Origin": "http://localhost"})
    assert same.status_code == 201
    assert "script-src 'self'" in same.headers["Content-Security-Policy"]
    assert client.get("/api/nothing").json["message"] == "There is no '/api/nothing'."
    assert client.get("/../../etc/passwd").status_code == 404
