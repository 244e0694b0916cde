"""A proof sheet as a file: taken along, brought elsewhere, and what is no such file."""

from __future__ import annotations

import io
import json
import zlib
from collections.abc import Callable
from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.many.digests import digest_of_bytes
from tests.helpers import rezipped
from tests.service.sheets.conftest import Make

Ended = Callable[[str], dict[str, Any]]
VARY = {"lift": "0.1, 0.2", "cells": "2, 3"}


@pytest.fixture
def taken(client: FlaskClient, make: Make, ended: Ended) -> tuple[dict[str, Any], bytes]:
    """A finished sheet of four variants, and its file."""
    made = ended(make(VARY, numbers={"area": "area"})["id"])
    answer = client.get(f"/api/sheets/{made['sheet']['id']}/file")
    assert (answer.status_code, answer.mimetype) == (200, "application/zip")
    return made, answer.data


def said(change: Callable[[dict[str, Any]], object]) -> Callable[[dict[str, bytes]], None]:
    """Change what the file says."""

    def apply(parts: dict[str, bytes]) -> None:
        about = json.loads(parts["sheet.json"])
        change(about)
        parts["sheet.json"] = json.dumps(about).encode()

    return apply


def bring(client: FlaskClient, graph: str, data: bytes) -> Any:
    return client.post(f"/api/graphs/{graph}/sheets/file", data={"file": (io.BytesIO(data), "sheet.zip")})


def elsewhere(client: FlaskClient, tile: str) -> str:
    """The same graph in another project."""
    project = client.post("/api/projects", json={"title": "Elsewhere"}).json["id"]
    body = {"title": "Tile", "document": client.get(f"/api/graphs/{tile}").json["document"]}
    return str(client.post(f"/api/projects/{project}/graphs", json=body).json["id"])


def test_a_sheet_is_brought_with_its_pictures_and_nothing_is_made_again(
    client: FlaskClient, tile: str, taken: tuple[dict[str, Any], bytes], ended: Ended
) -> None:
    made, data = taken
    graph = elsewhere(client, tile)
    answer = bring(client, graph, data)
    assert answer.status_code == 201, answer.json
    brought = client.get(f"/api/sheets/{answer.json['id']}/variants").json
    assert (brought["sheet"]["state"], brought["sheet"]["graph_id"]) == ("done", graph)
    assert brought["sheet"]["plan"] == made["sheet"]["plan"]
    assert brought["variants"] == made["variants"]
    for one in made["variants"]:
        paths = [f"/api/sheets/{sheet['id']}/variants/{one['number']}/drawn" for sheet in (made["sheet"], answer.json)]
        first, second = (client.get(path).data for path in paths)
        assert first == second != b""
    plan = {"vary": {**VARY, "lift": "0.1, 0.2, 0.3"}, "numbers": {"area": "area"}}
    extended = client.post(f"/api/sheets/{answer.json['id']}/extend", json=plan)
    assert extended.status_code == 200, extended.json
    whole = ended(answer.json["id"])
    assert len(whole["variants"]) == 6
    assert whole["variants"][:4] == made["variants"], "what was brought stays as it came"


def test_what_somebody_else_says_of_a_result_is_never_taken_for_ours(
    client: FlaskClient, tile: str, taken: tuple[dict[str, Any], bytes], ended: Ended
) -> None:
    def lie(about: dict[str, Any]) -> None:
        for one in about["variants"]:
            one["numbers"]["area"] = 1e6

    made, data = taken
    graph = elsewhere(client, tile)
    brought = bring(client, graph, rezipped(data, said(lie))).json["id"]
    assert client.get(f"/api/sheets/{brought}/variants").json["variants"][0]["numbers"] == {"area": 1e6}
    plan = {"vary": VARY, "numbers": {"area": "area"}}
    ours = ended(client.post(f"/api/graphs/{graph}/sheets", json={"plan": plan}).json["id"])
    assert [one["numbers"] for one in ours["variants"]] == [one["numbers"] for one in made["variants"]]


def test_what_was_still_to_be_made_waits(
    client: FlaskClient, tile: str, taken: tuple[dict[str, Any], bytes], ended: Ended
) -> None:
    def open_again(about: dict[str, Any]) -> None:
        about["variants"][2] = {"number": 3, "state": "open", "ended": 0, "values": about["variants"][2]["values"]}

    made, data = taken
    brought = bring(client, elsewhere(client, tile), rezipped(data, said(open_again))).json
    assert (brought["state"], brought["open"]) == ("stopped", 1)
    client.post(f"/api/sheets/{brought['id']}/run", json={})
    whole = ended(brought["id"])
    numbers = [[one["numbers"] for one in sheet["variants"]] for sheet in (whole, made)]
    assert numbers[0] == numbers[1]


def pictured(data: Callable[[bytes], bytes]) -> Callable[[dict[str, bytes]], None]:
    """Put another picture in, called as its content is."""

    def apply(parts: dict[str, bytes]) -> None:
        made = data(parts[min(parts)])
        parts[f"pictures/{digest_of_bytes(made)}.drawn"] = made

    return apply


def drawn(head: str, rest: bytes = b"") -> Callable[[dict[str, bytes]], None]:
    return pictured(lambda _: zlib.compress(head.encode() + b"\n" + rest))


def lifted(about: dict[str, Any], value: Any) -> None:
    for one in about["variants"]:
        one["values"]["lift"] = value


BAD: list[tuple[Callable[[dict[str, bytes]], None], str]] = [
    (lambda parts: parts.pop("sheet.json") and None, "there is no sheet.json"),
    (lambda parts: parts.update({"../up.drawn": b""}), "'../up.drawn' is in it"),
    (pictured(lambda _: b"much"), "not a whole proof sheet"),
    (pictured(lambda one: one + bytes(9)), "not one whole picture"),
    (pictured(lambda _: zlib.compress(bytes(17 * 1024**2))), "not one whole picture"),
    (drawn('{"look": {}, "arrays": [["a", 3]]}', b"12"), "no picture of a variant"),
    (drawn('{"look": {}, "arrays": [7]}'), "says nothing of its arrays"),
    (drawn('{"arrays": []}'), "no picture of a variant"),
    (lambda parts: parts.update({f"pictures/{'0' * 32}.drawn": parts[min(parts)]}), "was changed"),
    (lambda parts: parts.update({"sheet.json": b'{"format": NaN}'}), "not a whole proof sheet"),
    (lambda parts: parts.update({"sheet.json": b"[" * 5000}), "not a whole proof sheet"),
    (lambda parts: parts.update({"sheet.json": b'{"a":' * 90 + b"1" + b"}" * 90}), "more than 64 levels"),
    (said(lambda about: about.update(version=2)), "version"),
    (said(lambda about: about["document"].update(nodes=3)), "document is not valid"),
    (said(lambda about: about["plan"].update(node="gone")), "gone"),
    (said(lambda about: about["variants"][1].update(number=1)), "one number"),
    (said(lambda about: about["variants"][1].update(seconds="long")), "seconds"),
    (said(lambda about: about["plan"].update(seek={"aims": [{"formula": "weight"}]})), "aim 'weight'"),
    (said(lambda about: about["plan"]["numbers"].update(top="max(")), "number 'top'"),
    (
        said(lambda about: (about["plan"].update(seek={"aims": [{"formula": "lift"}]}), lifted(about, "much"))),
        "what it says of its variants",
    ),
]


@pytest.mark.parametrize(("change", "words"), BAD)
def test_what_is_no_sheet_is_refused_and_leaves_nothing(
    client: FlaskClient,
    tile: str,
    taken: tuple[dict[str, Any], bytes],
    change: Callable[[dict[str, bytes]], None],
    words: str,
) -> None:
    made, data = taken
    answer = bring(client, tile, rezipped(data, change))
    assert (answer.status_code, words in answer.json["message"]) == (422, True), answer.json
    project = made["sheet"]["project_id"]
    assert [one["id"] for one in client.get(f"/api/projects/{project}/sheets").json["sheets"]] == [made["sheet"]["id"]]
    assert not list(client.application.extensions["reticula"].drawn.folder.glob("coming-*"))


def test_no_file_and_no_graph_are_said(client: FlaskClient, tile: str) -> None:
    assert "no file" in client.post(f"/api/graphs/{tile}/sheets/file").json["message"]
    assert "whole proof sheet" in bring(client, tile, b"plain words").json["message"]
    assert bring(client, "nothing", b"").status_code == 404
