"""A batch over HTTP: shapes of the project and rows of a table, with the results as files."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.core import ops
from reticula.core.formats import read_bytes, write_bytes
from reticula.core.graph.structure.document import empty_document
from tests.helpers import rezipped
from tests.service.sheets.test_sheet_files import bring, said

Ended = Callable[[str], dict[str, Any]]
CELLS = {"bay": 2, "west": 3}
TABLE = "name,lift,scan,season\nfirst,0.25,bay,spring\nsecond,0.5,west,\nthird,,bay,autumn\n"


@pytest.fixture
def raised(client: FlaskClient, project: str) -> str:
    """A graph with an input, and two shapes and a table in its project."""
    for name, cells in CELLS.items():
        upload(client, project, f"{name}.ply", write_bytes(ops.grid(cells=(cells, cells)), f"{name}.ply"))
    upload(client, project, "season.csv", TABLE.encode())
    document = {
        **empty_document("Raised"),
        "inputs": [{"name": "scan"}],
        "dials": {"lift": {"type": "number", "value": 0.1}},
        "nodes": {
            "in": {"operator": "input", "parameters": {"name": "scan"}},
            "up": {"operator": "extrude", "inputs": {"geo": ["in"]}, "parameters": {"distance": {"formula": "lift"}}},
        },
        "looking_at": "up",
    }
    made = client.post(f"/api/projects/{project}/graphs", json={"title": "Raised", "document": document})
    return str(made.json["id"])


def upload(client: FlaskClient, project: str, name: str, data: bytes) -> None:
    answer = client.post(f"/api/projects/{project}/assets", data={"file": (io.BytesIO(data), name)})
    assert answer.status_code == 201, answer.json


def checked(client: FlaskClient, graph: str, **plan: Any) -> dict[str, Any]:
    return dict(client.post(f"/api/graphs/{graph}/plans", json={"plan": plan}).json)


def test_rows_and_shapes_are_made_and_kept_as_files(client: FlaskClient, raised: str, ended: Ended) -> None:
    plan = {"table": "season", "ending": "ply", "numbers": {"faces": "faces", "top": "geo.high.y"}}
    assert checked(client, raised, **plan) == {
        "count": 3,
        "trouble": "",
        "sets": ["lift", "scan"],
        "kept": ["name", "season"],
    }
    sheet = client.post(f"/api/graphs/{raised}/sheets", json={"plan": plan}).json
    assert sheet["plan"]["columns"] == ["name", "lift", "scan", "season"]
    found = ended(sheet["id"])
    assert found["sheet"]["failed"] == 0, [one["error"] for one in found["variants"]]
    assert [one["values"] for one in found["variants"]] == [
        {"name": "first", "lift": 0.25, "scan": "bay", "season": "spring"},
        {"name": "second", "lift": 0.5, "scan": "west"},
        {"name": "third", "scan": "bay", "season": "autumn"},
    ]
    assert [one["numbers"]["top"] for one in found["variants"]] == pytest.approx([0.25, 0.5, 0.1])
    answer = client.get(f"/api/sheets/{sheet['id']}/results")
    with zipfile.ZipFile(io.BytesIO(answer.data)) as archive:
        assert archive.namelist() == ["0001-first.ply", "0002-second.ply", "0003-third.ply"]
        for one, name in zip(found["variants"], archive.namelist(), strict=True):
            result = read_bytes(name, archive.read(name))
            wanted = ops.extrude(
                ops.grid(cells=(CELLS[one["values"]["scan"]],) * 2), distance=one["values"].get("lift", 0.1)
            )
            assert result.counts == wanted.counts
    held = client.post(f"/api/sheets/{sheet['id']}/matches", json={"where": "top > 0.2"}).json
    assert held == {"numbers": [1, 2], "trouble": ""}


def test_shapes_are_chosen_and_rows_multiply_variants(client: FlaskClient, raised: str, ended: Ended) -> None:
    both = {"vary": {"scan": "bay, west", "lift": "0.1, 0.2"}, "numbers": {"faces": "faces"}}
    sheet = ended(client.post(f"/api/graphs/{raised}/sheets", json={"plan": both}).json["id"])
    faces = {one["values"]["scan"]: one["numbers"]["faces"] for one in sheet["variants"]}
    grids = {name: ops.extrude(ops.grid(cells=(cells, cells)), distance=0.1) for name, cells in CELLS.items()}
    assert (len(sheet["variants"]), faces) == (4, {name: geo.counts["faces"] for name, geo in grids.items()})
    assert client.get(f"/api/sheets/{sheet['sheet']['id']}/results").status_code == 404


@pytest.mark.parametrize(
    ("plan", "words"),
    [
        ({"table": "winter"}, "the project has no table 'winter'"),
        ({"table": "bay"}, "neither .csv nor .parquet"),
        ({"vary": {"scan": "bay, north"}}, "the project has no shape 'north'"),
        ({"table": "season", "vary": {"lift": "1"}}, "'lift' is varied, and a column of the table"),
        ({"vary": {"scan": "bay"}, "ending": "docx"}, "known format"),
        ({"vary": {"scan": "bay"}, "ending": "png"}, "only read"),
        ({}, "say what is turned, or give a table"),
        ({"table": "season", "seek": {"aims": [{"formula": "faces"}]}}, "no table"),
    ],
)
def test_what_cannot_be_made_is_said(client: FlaskClient, raised: str, plan: dict[str, Any], words: str) -> None:
    answer = client.post(f"/api/graphs/{raised}/sheets", json={"plan": plan})
    assert (answer.status_code, words in answer.json["message"]) == (422, True), answer.json
    answer = client.post(f"/api/graphs/{raised}/plans", json={"plan": plan})
    assert words in (answer.json.get("trouble") or answer.json.get("message")), answer.json


def test_a_shape_that_is_not_there_fails_its_variant_alone(client: FlaskClient, raised: str, ended: Ended) -> None:
    def strange(about: dict[str, Any]) -> None:
        opened = {"state": "open", "ended": 0}
        about["variants"] = [
            {"number": at, "values": {"scan": name}, **opened} for at, name in enumerate(("gone", "bay"), 1)
        ]

    made = ended(client.post(f"/api/graphs/{raised}/sheets", json={"plan": {"vary": {"scan": "west"}}}).json["id"])
    data = client.get(f"/api/sheets/{made['sheet']['id']}/file").data
    brought = bring(client, raised, rezipped(data, said(strange))).json["id"]
    client.post(f"/api/sheets/{brought}/run", json={})
    gone, bay = ended(brought)["variants"]
    assert (gone["state"], gone["error"]) == ("failed", "the project has no shape 'gone'")
    assert bay["state"] == "done"
