"""Proof sheets that seek, over HTTP: tries that get better, stopped, gone on with, extended."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pyarrow as pa
import pytest
from flask.testing import FlaskClient
from pyarrow import csv

from tests.helpers import wait_until
from tests.service.sheets.conftest import Make

Ended = Callable[[str], dict[str, Any]]
VARY = {"lift": "uniform(0, 1)", "cells": "uniform(1, 6)"}
SEEK = {
    "aims": [{"formula": "area"}, {"formula": "faces * 2", "goal": "largest"}],
    "conditions": ["lift >= 0.5", "geo.high.y < 0.9"],
}


def test_a_plan_that_seeks_says_how_many_tries_and_what_is_wrong(client: FlaskClient, tile: str) -> None:
    def checked(**seek: Any) -> dict[str, Any]:
        plan = {"vary": VARY, "count": 40, "seek": {**SEEK, **seek}}
        return dict(client.post(f"/api/graphs/{tile}/plans", json={"plan": plan}).json)

    assert checked() == {"count": 40, "trouble": "", "sets": [], "kept": []}
    assert "aim 'weight'" in checked(aims=[{"formula": "weight"}])["trouble"]
    assert "condition 'depth < 1'" in checked(conditions=["depth < 1"])["trouble"]


@pytest.mark.parametrize(
    ("plan", "status", "words"),
    [
        ({"vary": {"lift": "normal(0, 1)"}, "seek": SEEK}, 422, "'lift': seeking needs ends"),
        ({"vary": VARY, "count": 3000, "seek": SEEK}, 422, "these are 3,000 tries; make 1 to 2,000"),
        ({"vary": VARY, "seek": {"aims": []}}, 422, "plan.seek.aims"),
        ({"vary": VARY, "seek": {"aims": [{"formula": "lift", "goal": "highest"}]}}, 422, "plan.seek.aims"),
    ],
)
def test_what_cannot_be_sought_is_said(
    client: FlaskClient, tile: str, plan: dict[str, Any], status: int, words: str
) -> None:
    answer = client.post(f"/api/graphs/{tile}/sheets", json={"plan": plan})
    assert (answer.status_code, words in answer.json["message"]) == (status, True), answer.json


def test_tries_get_better_and_the_best_are_named(client: FlaskClient, make: Make, ended: Ended) -> None:
    sheet = make(VARY, count=40, seek=SEEK)
    assert (sheet["state"], sheet["best"]) == ("running", [])

    def asked() -> bool:
        """Whether tries are there; those that are open have no numbers yet."""
        answer = client.get(f"/api/sheets/{sheet['id']}/variants")
        assert answer.status_code == 200, answer.json
        held = client.post(f"/api/sheets/{sheet['id']}/matches", json={"where": "area < 0"}).json
        assert held == {"numbers": [], "trouble": ""}
        return bool(answer.json["variants"])

    wait_until(asked)
    assert sheet["noted"] == {"faces": "faces", "area": "area", "geo.high.y": "geo.high.y"}
    found = ended(sheet["id"])
    assert (found["sheet"]["state"], found["sheet"]["trouble"]) == ("done", "")
    variants = {one["number"]: one for one in found["variants"]}
    assert len(variants) == 40
    best = [variants[number] for number in found["sheet"]["best"]]
    assert best
    for one in best:
        assert one["meets"]
        assert 0.5 <= one["values"]["lift"] < 0.9
        assert one["aims"] == {"area": one["numbers"]["area"], "faces * 2": 2 * one["numbers"]["faces"]}
    most = max(one["aims"]["faces * 2"] for one in variants.values() if one["meets"])
    assert any(one["aims"]["faces * 2"] == most for one in best), "no aim is forgotten"
    assert not all(one["meets"] for one in variants.values())
    table = csv.read_csv(pa.py_buffer(client.get(f"/api/sheets/{sheet['id']}/table").data)).to_pydict()
    assert table["aims.faces * 2"] == [one["aims"]["faces * 2"] for one in found["variants"]]
    held = client.post(f"/api/sheets/{sheet['id']}/matches", json={"where": "area < 1.8"}).json
    assert held["numbers"] == [number for number, one in variants.items() if one["numbers"]["area"] < 1.8]


def test_a_search_is_stopped_gone_on_with_and_extended(client: FlaskClient, make: Make, ended: Ended) -> None:
    aim = {"aims": [{"formula": "area", "goal": "at", "value": 2.3}]}
    whole = make({"lift": "uniform(0, 1)"}, count=64, seek=aim)
    sheet = make({"lift": "uniform(0, 1)", "idle": "0,1,2,3,4,5,6"}, count=200, seek=aim)["id"]
    wait_until(lambda: client.get(f"/api/sheets/{sheet}").json["done"] >= 10)
    client.post(f"/api/sheets/{sheet}/stop")
    wait_until(lambda: not client.application.extensions["reticula"].sheets.is_making(sheet))
    stopped = client.get(f"/api/sheets/{sheet}/variants").json
    assert stopped["sheet"]["state"] == "stopped"
    assert 10 <= stopped["sheet"]["done"] < 200
    assert len(stopped["sheet"]["best"]) == 1, "what is best by then is kept"
    plan = {name: stopped["sheet"]["plan"][name] for name in ("vary", "spread", "seed", "numbers", "seek")}
    answer = client.post(f"/api/sheets/{sheet}/extend", json={**plan, "count": 40})
    assert answer.status_code == 200, answer.json
    found = ended(sheet)
    assert (found["sheet"]["state"], found["sheet"]["done"]) == ("done", max(40, stopped["sheet"]["done"]))
    before = {one["number"]: one for one in stopped["variants"] if one["state"] == "done"}
    assert before == {one["number"]: one for one in found["variants"] if one["number"] in before}, (
        "nothing is made twice"
    )
    other = client.post(f"/api/sheets/{sheet}/extend", json={**plan, "seek": {"aims": [{"formula": "volume"}]}})
    assert (other.status_code, "What a sheet seeks stays" in other.json["message"]) == (422, True)
    best = ended(whole["id"])
    (number,) = best["sheet"]["best"]
    (at,) = (one["numbers"]["area"] for one in best["variants"] if one["number"] == number)
    assert at == pytest.approx(2.3, abs=0.02)
