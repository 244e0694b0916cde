"""Poison: requests that could not be worked on are refused before anything is done with them, and all goes on."""

import json
from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.service.request_limits import depth_of, trouble_in


def deep(levels: int) -> bytes:
    return b"[" * levels + b"1" + b"]" * levels


def test_depth_is_told_without_reading() -> None:
    assert depth_of(b'{"a": [1, {"b": "[[[[\\"[["}]}') == 3
    assert depth_of(deep(100_000)) == 100_000
    assert depth_of(b"") == depth_of(b'"[[[') == 0


@pytest.mark.parametrize(
    ("body", "message"),
    [
        (deep(500), "nested in more than"),
        (b'{"a": NaN}', "JSON has no number NaN"),
        (b'{"a": [1, -Infinity]}', "JSON has no number -Infinity"),
        (b'{"a": "\\ud800"}', "half of a letter"),
        (b"\xff\xfe", "no UTF-8"),
        (b'{"a": ' + b"9" * 400 + b"}", "hundreds of digits"),
    ],
)
def test_what_is_wrong_is_said(body: bytes, message: str) -> None:
    assert message in trouble_in(body)


@pytest.mark.parametrize("body", [b'{"a": "NaN"}', b'{"a": "\\ud83d\\udc1f"}', '{"a": "🐟"}'.encode()])
def test_what_is_right_passes(body: bytes) -> None:
    assert trouble_in(body) == ""


@pytest.mark.parametrize("levels", [80, 500, 50_000])
@pytest.mark.parametrize("place", ["queries", "draft", "parameter"])
def test_nested_brackets_are_refused_and_the_evaluator_goes_on(
    client: FlaskClient, graph: dict[str, Any], place: str, levels: int
) -> None:
    hole = '"hole"'
    bodies = {
        "queries": {"node": "tall", "queries": [{"what": "rows", "kind": "face", "where": "hole"}]},
        "draft": {"node": "tall", "draft": [{"op": "add", "path": "/notes", "value": "hole"}]},
        "parameter": {
            "draft": [{"op": "add", "path": "/nodes/tall/parameters/distance", "value": {"formula": "hole"}}]
        },
    }
    data = json.dumps(bodies[place]).replace(hole, deep(levels).decode())
    for url in ("looks", "evaluations"):
        made = client.post(f"/api/graphs/{graph['id']}/{url}", data=data, content_type="application/json")
        assert made.status_code == 422
        assert "flatter" in made.json["message"]
    fine = client.post(f"/api/graphs/{graph['id']}/evaluations", json={"wait": 20}).json
    assert fine["state"] == "done"


def test_a_patch_cannot_dig_deeper_and_deeper(client: FlaskClient, graph: dict[str, Any]) -> None:
    revision, path = 0, "/notes"
    for _ in range(4):
        value: Any = 1
        for _ in range(30):
            value = [value]
        body = {"revision": revision, "patch": [{"op": "add", "path": path, "value": value}]}
        made = client.post(f"/api/graphs/{graph['id']}/edits", json=body)
        if made.status_code == 422:
            return
        revision, path = made.json["revision"], path + "/0" * 29
    raise AssertionError("the document grew deeper than it may be")


def test_poison_everywhere_is_no_fault_of_the_service(client: FlaskClient, project: str) -> None:
    for body in (deep(5000), b'{"title": "\\udfff"}', b'{"title": NaN}', b"[]", b"3", b'"a"', b"null", b"{", b"\x00"):
        for url in ("/api/projects", f"/api/projects/{project}/graphs", "/api/settings"):
            for method in ("POST", "PUT"):
                made = client.open(url, method=method, data=body, content_type="application/json")
                assert made.status_code < 500, (url, body[:20], made.json)
