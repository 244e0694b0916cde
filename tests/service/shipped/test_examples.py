"""Examples of operators as the page takes them: with the shapes they need, evaluated in a project."""

from io import BytesIO

import pytest
from flask.testing import FlaskClient

from reticula.core.operators import OPERATORS


@pytest.mark.parametrize("name", ["read_file", "project_shape", "read_picture", "picture_value", "evolve", "for_each"])
def test_an_example_runs_in_a_project(client: FlaskClient, project: str, name: str) -> None:
    found = client.get(f"/api/operators/{name}/example").json
    assert found["text"] == OPERATORS[name].example
    for shape in found["shapes"]:
        data = client.get(f"/api/demos/shapes/{shape['name']}").data
        made = client.post(f"/api/projects/{project}/assets", data={"file": (BytesIO(data), shape["file_name"])})
        assert made.json["name"] == shape["name"]
    title = {"title": "Example", "document": found["document"]}
    graph = client.post(f"/api/projects/{project}/graphs", json=title).json["id"]
    answer = client.post(f"/api/graphs/{graph}/evaluations", json={"wait": 30}).json
    assert {node: report["error"] for node, report in answer["nodes"].items() if report["error"]} == {}
    assert answer["nodes"][found["document"]["looking_at"]]["state"] == "done"


def test_shapes_that_are_named_as_files_come_along(client: FlaskClient) -> None:
    shapes = client.get("/api/operators/read_file/example").json["shapes"]
    assert shapes == [{"name": "survey_scan", "file_name": "survey_scan.ply"}]
    assert client.get("/api/operators/box/example").json["shapes"] == []


def test_only_built_in_operators_have_one(client: FlaskClient) -> None:
    missing = client.get("/api/operators/nothing_like_it/example")
    assert (missing.status_code, missing.json["message"]) == (404, "There is no built-in operator 'nothing_like_it'.")


def test_the_graph_of_a_tutorial_is_read_like_a_demo_but_not_listed(client: FlaskClient) -> None:
    read = client.get("/api/demos/values_from_a_scan").json
    assert read["shapes"] == [{"name": "survey_scan", "file_name": "survey_scan.ply"}]
    assert "values_from_a_scan" not in {demo["name"] for demo in client.get("/api/demos").json["demos"]}
