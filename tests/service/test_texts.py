"""Texts while they are written, and the two ways to write one program, over the service."""

from typing import Any

import pytest
from flask.testing import FlaskClient

Graph = dict[str, Any]
SCRIPT = "amount: number(0, 1) = 0.2\nreef: geometry\nprint(index)\nhere.a = amount"


@pytest.fixture
def scripted(client: FlaskClient, project: str) -> Graph:
    nodes = {
        "sheet": {"operator": "grid", "parameters": {"cells": [4, 4]}},
        "own": {"operator": "script", "inputs": {"geo": ["sheet"]}, "parameters": {"source": SCRIPT}},
        "wave": {"operator": "noise_value", "parameters": {"scale": 2.0}},
        "raised": {
            "operator": "displace",
            "inputs": {"geo": ["own"]},
            "parameters": {"value": {"wire": "wave"}, "where": "index > 3"},
        },
    }
    document = {"format": "reticula graph", "version": 1, "looking_at": "raised", "dials": {}, "nodes": nodes}
    return client.post(f"/api/projects/{project}/graphs", json={"title": "Own", "document": document}).json  # type: ignore[no-any-return]


def ask(client: FlaskClient, graph: Graph, what: str, **body: Any) -> Any:
    return client.post(f"/api/graphs/{graph['id']}/{what}", json=body)


def test_a_text_is_told_about(client: FlaskClient, scripted: Graph) -> None:
    found = ask(client, scripted, "texts", node="own", parameter="source", source=SCRIPT, elements=[2]).json
    assert found["error"] is None
    assert found["printed"] == ["2"]
    assert [(c["name"], c["high"]) for c in found["controls"]] == [("amount", 1.0)]
    assert [entry["name"] for entry in found["inputs"]] == ["reef"]
    assert {"position", "amount", "reef"} <= {entry["name"] for entry in found["names"]}


def test_a_broken_text_has_line_and_column(client: FlaskClient, scripted: Graph) -> None:
    found = ask(client, scripted, "texts", node="own", parameter="source", source="x = 1\nhere.a = y").json
    assert (found["error"]["line"], found["error"]["column"]) == (2, 10)
    assert "near it are" in found["error"]["message"] or "there is" in found["error"]["message"]


def test_a_formula_is_told_about_with_its_draft(client: FlaskClient, scripted: Graph) -> None:
    draft = [{"op": "replace", "path": "/nodes/sheet/parameters/cells", "value": [2, 2]}]
    found = ask(client, scripted, "texts", node="raised", parameter="where", source="index > 3", draft=draft).json
    assert found["result"] == "flag: 5 of 9 (55.6%)"


@pytest.mark.parametrize(
    ("what", "body", "message"),
    [
        ("texts", {"node": "gone", "parameter": "where", "source": "1"}, "no node 'gone'"),
        ("texts", {"node": "raised", "parameter": "wher", "source": "1"}, "did you mean"),
        ("rewrites", {"node": "raised", "parameter": "where", "to": "text"}, "no wire ends at 'where'"),
        ("rewrites", {"node": "own", "parameter": "source", "to": "nodes"}, "cannot be drawn"),
    ],
)
def test_refusals(client: FlaskClient, scripted: Graph, what: str, body: Graph, message: str) -> None:
    answer = ask(client, scripted, what, **body)
    assert answer.status_code == 422
    assert message in answer.json["message"]


def test_a_text_that_is_too_long_is_refused(client: FlaskClient, scripted: Graph) -> None:
    assert ask(client, scripted, "texts", node="own", parameter="source", source="x" * 30_000).status_code == 422


def test_wires_become_text_and_text_becomes_wires(client: FlaskClient, scripted: Graph) -> None:
    text = ask(client, scripted, "rewrites", node="raised", parameter="value", to="text").json
    assert text["value"] == {"formula": "noise((position) * 2.0)"}
    drawn = ask(client, scripted, "rewrites", node="raised", parameter="where", to="nodes").json
    assert drawn["value"]["wire"] in drawn["nodes"]
    assert {node["operator"] for node in drawn["nodes"].values()} == {"attribute_value", "compare_value"}


def test_a_script_runs_and_an_endless_one_is_stopped_while_others_work(client: FlaskClient, scripted: Graph) -> None:
    done = client.post(f"/api/graphs/{scripted['id']}/evaluations", json={"wait": 20}).json
    assert done["nodes"]["raised"]["state"] == "done"
    draft = [{"op": "replace", "path": "/nodes/own/parameters/source", "value": "k = 0\nwhile True:\n    k += 1"}]
    running = client.post(f"/api/graphs/{scripted['id']}/evaluations", json={"wait": 0.3, "draft": draft}).json
    assert running["state"] in ("running", "waiting")
    assert client.get("/api/health").json["database"]
    client.delete(f"/api/evaluations/{running['ticket']}")
    again = client.post(f"/api/graphs/{scripted['id']}/evaluations", json={"wait": 20}).json
    assert again["nodes"]["raised"]["state"] == "done"


def test_a_live_text_reads_the_frame_before_as_it_was(client: FlaskClient, project: str) -> None:
    text = "gone = position - here.before('position')\nhere.speed = length(gone)"
    moved = {"operator": "transform", "inputs": {"geo": ["sheet"]}}
    moved["parameters"] = {"move": {"formula": "vec3(frame * frame, 0, 0)"}}
    nodes = {
        "sheet": {"operator": "grid", "parameters": {"cells": [2, 2]}},
        "moved": moved,
        "own": {"operator": "script", "inputs": {"geo": ["moved"]}, "parameters": {"source": text}},
    }
    document = {"format": "reticula graph", "version": 1, "nodes": nodes, "looking_at": "own"}
    graph = client.post(f"/api/projects/{project}/graphs", json={"title": "g", "document": document}).json["id"]
    live = {"what": "live", "node": "own", "parameter": "source", "source": text, "kind": "point", "element": 4}
    body = {"node": "own", "frame": 7, "queries": [live]}
    (found,) = client.post(f"/api/graphs/{graph}/looks", json=body).json["looks"]
    assert found["block"]["lines"] == [[1, "(13, 0, 0)"], [2, "13"]], "49 - 36"
    why = {"what": "why", "kind": "point", "element": 4, "name": "speed"}
    (told,) = client.post(f"/api/graphs/{graph}/looks", json={**body, "queries": [why]}).json["looks"]
    assert told["texts"][0]["lines"] == [[1, "(13, 0, 0)"], [2, "13"]]
