"""Frames: evaluations, looks and exports at a frame, channels sampled, frames as they are typed."""

from __future__ import annotations

import io
import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient

from reticula.cli import main
from reticula.core.formats import read_bytes, write_bytes
from reticula.core.graph import run_graph
from tests.service.test_evaluations import evaluate

RISING = {"keys": [{"frame": 0, "value": 0.0, "way": "straight"}, {"frame": 10, "value": 1.0}]}


@pytest.fixture
def moving(client: FlaskClient, project: str) -> Any:
    nodes = {
        "sheet": {"operator": "grid", "parameters": {"cells": [2, 2]}},
        "up": {"operator": "extrude", "inputs": {"geo": ["sheet"]}, "parameters": {"distance": RISING}},
    }
    document = {
        "format": "reticula graph",
        "version": 1,
        "nodes": nodes,
        "looking_at": "up",
        "time": {"first": 0, "last": 10, "rate": 12},
        "dials": {"reach": {"type": "number", "value": RISING, "unit": "m"}},
    }
    return client.post(f"/api/projects/{project}/graphs", json={"title": "moving", "document": document}).json


def height(look: dict[str, Any]) -> float:
    return float(look["bounds"][1][1])


def test_an_evaluation_is_at_a_frame_and_says_what_depends_on_it(client: FlaskClient, moving: Any) -> None:
    queries = [{"what": "mesh"}]
    first = evaluate(client, moving, queries=queries)
    later = evaluate(client, moving, queries=queries, frame=5)
    assert [height(made["looks"][0]) for made in (first, later)] == pytest.approx([0.0, 0.5])
    assert later["timely"] == ["up"]
    assert later["keyed"] == {"nodes": {"up": {"distance": pytest.approx(0.5)}}, "dials": {"reach": pytest.approx(0.5)}}
    assert later["nodes"]["sheet"]["key"] == first["nodes"]["sheet"]["key"]
    assert later["nodes"]["up"]["key"] != first["nodes"]["up"]["key"]


def test_looks_and_exports_are_at_a_frame(client: FlaskClient, moving: Any) -> None:
    body = {"node": "up", "queries": [{"what": "mesh"}], "frame": 10}
    looked = client.post(f"/api/graphs/{moving['id']}/looks", json=body).json
    assert height(looked["looks"][0]) == pytest.approx(1.0)
    file = client.get(f"/api/graphs/{moving['id']}/export?node=up&format=obj&frame=2.5")
    assert read_bytes("a.obj", file.data).positions[:, 1].max() == pytest.approx(0.25)


def test_what_may_be_wanted_later_is_done_when_nothing_else_is(client: FlaskClient, moving: Any) -> None:
    made = evaluate(client, moving, queries=[{"what": "mesh"}], frame=3, ahead=True, only_node=True, node="up")
    assert height(made["looks"][0]) == pytest.approx(0.3)


def test_values_with_keys_are_sampled_with_edits_that_are_not_saved(client: FlaskClient, moving: Any) -> None:
    draft = [{"op": "replace", "path": "/nodes/up/parameters/distance/keys/1/value", "value": 3.0}]
    body = {"first": 0, "last": 10, "count": 11, "draft": draft}
    made = client.post(f"/api/graphs/{moving['id']}/channels", json=body).json
    assert made["frames"] == list(range(11))
    reach, distance = made["channels"]
    assert (reach["node"], reach["parameter"], reach["unit"]) == ("", "reach", "m")
    np.testing.assert_allclose(np.ravel(reach["samples"]), np.arange(11) / 10)
    np.testing.assert_allclose(np.ravel(distance["samples"]), 3 * np.arange(11) / 10)
    draft[0]["path"], draft[0]["value"] = "/nodes/up/parameters/distance/keys/1/frame", 0
    wrong = client.post(f"/api/graphs/{moving['id']}/channels", json=body).json["channels"][1]
    assert wrong["samples"] is None
    assert "does not come after" in wrong["trouble"]


TIDE = b"hours,level [cm]\n0,100\n1,\n2,300\n"


def test_a_dial_follows_a_table_of_the_project(client: FlaskClient, moving: Any) -> None:
    upload = {"file": (io.BytesIO(TIDE), "tide.csv")}
    made = client.post(f"/api/projects/{moving['project_id']}/assets", data=upload).json
    assert [one["name"] for one in made["summary"]["attributes"]["point"]] == ["position", "hours", "level"]
    assert made["summary"]["attributes"]["point"][2]["high"] == [300.0]
    assert any("no value in 'level [cm]': row 2" in note for note in made["summary"]["notes"])
    follows = {"table": "tide", "time": "hours", "value": "level", "unit": "h", "factor": 0.01, "otherwise": 0.5}
    dial = {**moving["document"]["dials"]["reach"], "value": {**follows, "speed": 3600.0 * 12}}
    body = {"first": 0, "last": 2, "count": 3, "name": "reach", "dial": dial}
    told = client.post(f"/api/graphs/{moving['id']}/followed", json=body).json
    assert (told["rows"], told["first"], told["last"]) == (3, 0.0, 2.0)
    rate = moving["document"].get("time", {}).get("rate", 24)
    assert told["samples"] == [[pytest.approx(1.0 + frame * 12 / rate)] for frame in range(3)]
    assert told["said"] == ["without a value, taken from the rows around: row 2"]
    draft = [{"op": "replace", "path": "/dials/reach/value", "value": dial["value"]}]
    found = evaluate(client, moving, draft=draft, frame=2)
    assert found["keyed"]["dials"] == {"reach": pytest.approx(1.0 + 24 / rate)}
    dial["value"]["table"] = "gone"
    answer = client.post(f"/api/graphs/{moving['id']}/followed", json=body)
    assert answer.status_code == 422
    assert "the table 'gone': the project has no shape 'gone'; it has tide" in answer.json["message"]


@pytest.mark.parametrize(("text", "frame"), [("12+5", 17.0), ("last - 10", 38.0), ("frame * 2", 14.0), ("3.5", 3.5)])
def test_a_frame_may_be_typed_as_a_formula(client: FlaskClient, text: str, frame: float) -> None:
    names = {"frame": 7, "first": 0, "last": 48}
    assert client.post("/api/frame", json={"text": text, "names": names}).json == {"frame": frame}


@pytest.mark.parametrize("text", ["12+", "no_such", "1/0", "1e9", "position", "'a'"])
def test_what_is_no_frame_is_refused_in_words(client: FlaskClient, text: str) -> None:
    answer = client.post("/api/frame", json={"text": text, "names": {}})
    assert answer.status_code == 422
    assert answer.json["message"]


@pytest.mark.parametrize("frame", [1e9, "a", [1]])
def test_a_frame_too_far_away_is_refused(client: FlaskClient, moving: Any, frame: Any) -> None:
    answer = client.post(f"/api/graphs/{moving['id']}/evaluations", json={"frame": frame})
    assert answer.status_code == 422


def test_the_service_python_and_the_command_line_give_the_same_bytes(
    client: FlaskClient, moving: Any, tmp_path: Path
) -> None:
    for frame in (7, 2, 9):
        served = client.get(f"/api/graphs/{moving['id']}/export?node=up&format=ply&frame={frame}").data
        here = write_bytes(run_graph(moving["document"], node="up", frame=frame), "a.ply")
        document, out = tmp_path / "graph.json", tmp_path / "out.ply"
        document.write_text(json.dumps(moving["document"]))
        assert main(["run", str(document), "--node", "up", "--frame", str(frame), "--out", str(out)]) == 0
        assert served == here == out.read_bytes()
