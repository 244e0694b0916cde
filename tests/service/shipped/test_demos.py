"""Demos are offered with their pictures, and taken with the shapes that they need."""

from pathlib import Path

import pytest
from flask.testing import FlaskClient

from reticula.core import Geo
from reticula.core.formats import read_bytes
from reticula.core.graph.validation import problems_of


def test_every_demo_has_a_title_a_word_and_a_picture(client: FlaskClient) -> None:
    demos = client.get("/api/demos").json["demos"]
    assert len(demos) > 8
    for demo in demos:
        assert demo["title"]
        assert demo["about"].endswith(".")
        assert demo["picture"], demo["name"]
        got = client.get(f"/api/demos/{demo['name']}/picture")
        assert got.mimetype == "image/webp"
        assert got.data[8:12] == b"WEBP"


def test_a_demo_comes_with_its_graph_and_shapes(client: FlaskClient, tmp_path: Path) -> None:
    demo = client.get("/api/demos/settlement_tile").json
    assert demo["shapes"] == [{"name": "survey_scan", "file_name": "survey_scan.ply"}]
    assert problems_of(demo["document"]) == []
    shape = client.get("/api/demos/shapes/survey_scan")
    file = tmp_path / "scan.ply"
    file.write_bytes(shape.data)
    assert Geo.read(file).counts["faces"] > 1000


def test_a_demo_brings_the_table_that_its_dial_follows(client: FlaskClient) -> None:
    (shape,) = client.get("/api/demos/coral_growth").json["shapes"]
    assert shape == {"name": "tide_table", "file_name": "tide_table.csv"}
    table = read_bytes(shape["file_name"], client.get("/api/demos/shapes/tide_table").data)
    assert table.attributes["point"]["hours"].values[[0, -1]].tolist() == [0.0, 24.0]


@pytest.mark.parametrize("path", ["nothing", "nothing/picture", "shapes/nothing"])
def test_what_is_not_there_is_said(client: FlaskClient, path: str) -> None:
    assert client.get(f"/api/demos/{path}").status_code == 404


def test_names_stay_names(client: FlaskClient) -> None:
    assert client.get("/api/demos/..%2Fpackages").status_code in (404, 422)
    assert client.get("/api/demos/UPPER").status_code == 422
