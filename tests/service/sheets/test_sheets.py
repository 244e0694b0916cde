"""Proof sheets over HTTP: planned, made, stopped, gone on with, extended, read."""

from __future__ import annotations

import json
import os
import signal
import zlib
from collections.abc import Callable
from typing import Any

import numpy as np
import pyarrow as pa
import pytest
from flask.testing import FlaskClient
from pyarrow import csv, parquet

from reticula.core import ops
from reticula.store.errors import NotFound
from tests.helpers import wait_until
from tests.service.sheets.conftest import Make

Ended = Callable[[str], dict[str, Any]]


def test_a_plan_says_how_many_variants_it_makes(client: FlaskClient, tile: str) -> None:
    plan = {"vary": {"lift": "0.1:0.5:3", "cells": "2,4"}}
    found = client.post(f"/api/graphs/{tile}/plans", json={"plan": plan}).json
    assert found == {"count": 6, "trouble": "", "sets": [], "kept": []}


@pytest.mark.parametrize(
    ("plan", "words"),
    [
        ({"vary": {"hight": "1,2"}}, "nothing is called 'hight'; dials are lift, cells, idle"),
        ({"vary": {"lift": "1:2:x"}}, "an even range is FROM:TO:HOW_MANY"),
        ({"vary": {"lift": "0:1:200", "cells": "1:200:200"}}, "these are 40,000 variants; make 1 to 10,000"),
        ({"vary": {"lift": "1"}, "numbers": {"top": "max(geo."}}, "number 'top': "),
    ],
)
def test_what_cannot_be_planned_is_said(client: FlaskClient, tile: str, plan: dict[str, Any], words: str) -> None:
    checked = client.post(f"/api/graphs/{tile}/plans", json={"plan": plan})
    assert (checked.status_code, checked.json["count"]) == (200, 0)
    answer = client.post(f"/api/graphs/{tile}/sheets", json={"plan": plan})
    assert (answer.status_code, answer.json["message"]) == (422, checked.json["trouble"])
    assert words in answer.json["message"]


def test_a_plan_that_turns_nothing_is_refused(client: FlaskClient, tile: str) -> None:
    answer = client.post(f"/api/graphs/{tile}/sheets", json={"plan": {"vary": {}}})
    assert (answer.status_code, "say what is turned" in answer.json["message"]) == (422, True)


def test_a_sheet_is_made_with_numbers_and_pictures(client: FlaskClient, project: str, make: Make, ended: Ended) -> None:
    sheet = make({"lift": "0.1,0.2", "cells": "2,3"}, numbers={"faces": "faces", "top": "max(geo.points.position.y)"})
    assert (sheet["state"], sheet["open"]) == ("running", 4)
    found = ended(sheet["id"])
    assert (found["sheet"]["state"], found["sheet"]["done"]) == ("done", 4)
    last = found["variants"][-1]
    assert last["values"] == {"lift": 0.2, "cells": 3}
    raised = ops.extrude(ops.grid(cells=(3, 3)), distance=0.2)
    assert last["numbers"] == {"faces": raised.topology.face_count, "top": 0.2}
    answer = client.get(f"/api/sheets/{sheet['id']}/variants/4/drawn")
    assert answer.headers["Content-Encoding"] == "deflate"
    head, _, arrays = zlib.decompress(answer.data).partition(b"\n")
    told = json.loads(head)
    assert told["look"]["bounds"][1][1] == 0.2
    assert len(arrays) == sum(size for _, size in told["arrays"])
    assert [one["id"] for one in client.get(f"/api/projects/{project}/sheets").json["sheets"]] == [sheet["id"]]


def test_variants_that_come_out_the_same_all_have_their_picture(client: FlaskClient, make: Make, ended: Ended) -> None:
    sheet = make({"cells": "2", "idle": "0:1:12"})
    found = ended(sheet["id"])
    assert (found["sheet"]["state"], found["sheet"]["done"]) == ("done", 12)
    assert len({one["picture"] for one in found["variants"]}) == 1
    assert client.get(f"/api/sheets/{sheet['id']}/variants/12/drawn").status_code == 200


def test_only_what_ended_since_is_told(client: FlaskClient, make: Make, ended: Ended) -> None:
    sheet = make({"lift": "0.1:0.4:4"})
    order = sorted(ended(sheet["id"])["variants"], key=lambda one: one["ended"])
    assert [one["ended"] for one in order] == [1, 2, 3, 4]
    since = client.get(f"/api/sheets/{sheet['id']}/variants?since=3").json["variants"]
    assert [one["number"] for one in since] == [order[-1]["number"]]


def test_a_variant_that_fails_says_why_and_stops_no_other(client: FlaskClient, make: Make, ended: Ended) -> None:
    sheet = make({"cells": "2,-1,3"})
    first, bad, last = ended(sheet["id"])["variants"]
    assert (first["state"], bad["state"], last["state"]) == ("done", "failed", "done")
    assert "cells" in bad["error"]
    client.post(f"/api/sheets/{sheet['id']}/run", json={"failed": True})
    again = ended(sheet["id"])["variants"][1]
    assert (again["state"], again["ended"]) == ("failed", 4)


def test_what_was_made_before_is_taken_over(client: FlaskClient, make: Make, ended: Ended) -> None:
    first = ended(make({"lift": "0.1,0.2"})["id"])["variants"]
    second = ended(make({"lift": "0.2,0.3"})["id"])["variants"]
    assert second[0]["picture"] == first[1]["picture"]
    assert second[0]["seconds"] == first[1]["seconds"], "not a second run that took as long by chance"


def test_a_sheet_is_extended_by_what_it_does_not_have(client: FlaskClient, make: Make, ended: Ended) -> None:
    sheet = make({"lift": "0.1,0.2"})["id"]
    before = ended(sheet)["variants"]
    answer = client.post(f"/api/sheets/{sheet}/extend", json={"vary": {"lift": "0.3,0.2"}})
    assert (answer.json["state"], answer.json["open"]) == ("running", 1)
    after = ended(sheet)["variants"]
    assert after[:2] == before
    assert after[2]["values"] == {"lift": 0.3}
    refused = client.post(f"/api/sheets/{sheet}/extend", json={"vary": {"lift": "1"}, "numbers": {"area": "area"}})
    assert (refused.status_code, "same numbers" in refused.json["message"]) == (422, True)


def test_stopped_it_keeps_what_is_done_and_goes_on_later(
    client: FlaskClient, make: Make, ended: Ended, app: Any
) -> None:
    sheet = make({"lift": "0.001:0.4:60"})["id"]
    path = f"/api/sheets/{sheet}"
    wait_until(lambda: client.get(path).json["done"] > 2)
    assert client.post(f"{path}/stop").json["state"] == "stopped"
    wait_until(lambda: not app.extensions["reticula"].sheets.is_making(sheet))
    rested = client.get(path).json
    assert (rested["state"], rested["open"] > 0, rested["done"] > 2) == ("stopped", True, True)
    kept = {one["number"]: one for one in client.get(f"{path}/variants").json["variants"] if one["state"] == "done"}
    client.post(f"{path}/run", json={})
    found = ended(sheet)
    assert (found["sheet"]["state"], found["sheet"]["done"]) == ("done", 60)
    assert [one for one in found["variants"] if one["number"] in kept] == list(kept.values())


def test_workers_that_are_killed_cost_a_sheet_only_time(
    client: FlaskClient, make: Make, ended: Ended, app: Any
) -> None:
    sheet = make({"lift": "0.002:0.39:50"})["id"]
    wait_until(lambda: client.get(f"/api/sheets/{sheet}").json["done"] > 2)
    with app.extensions["reticula"].cluster.ready() as cluster:
        workers = cluster.client.run(os.getpid)
    for worker in workers.values():
        os.kill(worker, signal.SIGKILL)
    found = ended(sheet)
    assert (found["sheet"]["done"], found["sheet"]["failed"]) == (50, 0)
    assert found["sheet"]["ended"] == 50, "none ended twice"


def test_a_service_that_starts_goes_on_with_what_another_was_making(
    client: FlaskClient, make: Make, ended: Ended, app: Any
) -> None:
    parts = app.extensions["reticula"]
    sheet = make({"lift": "0.1:0.4:40"})["id"]
    parts.sheets.stop(sheet)  # as if the service had ended: nobody said that the sheet is to stop
    wait_until(lambda: not parts.sheets.is_making(sheet))
    assert client.get(f"/api/sheets/{sheet}").json["open"] > 0
    parts.sheets.go_on()
    assert ended(sheet)["sheet"]["done"] == 40


def test_a_sheet_stays_what_it_was_when_the_graph_changes(
    client: FlaskClient, tile: str, make: Make, ended: Ended
) -> None:
    sheet = make({"lift": "0.1"}, numbers={"faces": "faces"})["id"]
    before = ended(sheet)["variants"][0]["numbers"]
    patch = [{"op": "replace", "path": "/dials/cells/value", "value": 9}]
    client.post(f"/api/graphs/{tile}/edits", json={"revision": 0, "patch": patch})
    client.post(f"/api/sheets/{sheet}/extend", json={"vary": {"lift": "0.2"}, "numbers": {"faces": "faces"}})
    assert ended(sheet)["variants"][1]["numbers"] == before
    client.delete(f"/api/graphs/{tile}")
    assert client.get(f"/api/sheets/{sheet}").json["graph_id"] is None


@pytest.mark.parametrize("ending", ["csv", "parquet"])
def test_variants_are_taken_along_as_a_table(client: FlaskClient, make: Make, ended: Ended, ending: str) -> None:
    sheet = make({"lift": "0.25,0.5"}, numbers={"area": "area"})["id"]
    areas = [one["numbers"]["area"] for one in ended(sheet)["variants"]]
    data = pa.BufferReader(client.get(f"/api/sheets/{sheet}/table?ending={ending}").data)
    table = (csv.read_csv if ending == "csv" else parquet.read_table)(data)
    client.put(f"/api/sheets/{sheet}", json={"title": "Höhe\n<1> / breit"})
    named = client.get(f"/api/sheets/{sheet}/table?ending={ending}").headers["Content-Disposition"]
    assert named.endswith(f"breit.{ending}")
    assert table["lift"].to_pylist() == [0.25, 0.5]
    np.testing.assert_allclose(table["area"].to_pylist(), areas)


def test_variants_are_found_by_a_formula(client: FlaskClient, make: Make, ended: Ended) -> None:
    sheet = make({"lift": "0.1,0.2,0.3"}, numbers={"top": "max(geo.points.position.y)"})["id"]
    ended(sheet)
    path = f"/api/sheets/{sheet}/matches"
    assert client.post(path, json={"where": "top > 0.15 and lift < 0.25"}).json == {"numbers": [2], "trouble": ""}
    refused = client.post(path, json={"where": "height > 1"}).json
    assert (refused["numbers"], "height" in refused["trouble"]) == ([], True)


def test_a_deleted_sheet_is_gone_and_its_pictures_are_swept(
    client: FlaskClient, make: Make, ended: Ended, app: Any
) -> None:
    parts = app.extensions["reticula"]
    sheet = make({"lift": "0.77"})["id"]
    picture = ended(sheet)["variants"][0]["picture"]
    with parts.database.session() as session:
        parts.drawn.sweep(session, 0.0)
    assert parts.drawn.path(picture).is_file()
    assert client.delete(f"/api/sheets/{sheet}").status_code == 204
    assert client.get(f"/api/sheets/{sheet}").status_code == 404
    with parts.database.session() as session:
        assert parts.drawn.sweep(session, 3600.0) == 0
        assert parts.drawn.sweep(session, 0.0) > 0
    assert not parts.drawn.path(picture).exists()
    with pytest.raises(NotFound):
        parts.drawn.path("../secret")


def test_a_new_title(client: FlaskClient, make: Make) -> None:
    sheet = make({"lift": "0.1"})
    assert sheet["title"] == "Tile: proof sheet 1"
    renamed = client.put(f"/api/sheets/{sheet['id']}", json={"title": "Which tile"})
    assert renamed.json["title"] == "Which tile"
    assert client.get("/api/sheets/none").status_code == 404


def test_what_was_on_its_way_is_swept(app: Any) -> None:
    parts = app.extensions["reticula"]
    coming = parts.drawn.coming()
    (coming / "half.zip").write_bytes(b"half")
    with parts.database.session() as session:
        parts.drawn.sweep(session, 3600.0)
        assert coming.is_dir()
        parts.drawn.sweep(session, 0.0)
    assert not coming.exists()
