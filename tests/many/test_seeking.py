"""A search by workers: the same with any number of them, stopped and gone on with, its best written."""

from __future__ import annotations

import json
import os
import signal
from pathlib import Path
from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.volume import volume
from reticula.core.graph.structure.document import empty_document
from reticula.many import Aim, run_seek
from reticula.many.cluster import Cluster


@pytest.fixture
def crate() -> dict[str, Any]:
    """A box with two dials."""
    return {
        **empty_document("Crate"),
        "dials": {name: {"type": "number", "value": 1.0} for name in ("wide", "high")},
        "nodes": {"box": {"operator": "box", "parameters": {"size": {"formula": "(wide, high, wide)"}}}},
        "result": "box",
    }


VARY = {"wide": "uniform(0.5, 2)", "high": "uniform(0.5, 2)"}
SOUGHT: dict[str, Any] = {"aims": [Aim("area")], "conditions": ["volume >= 1"], "vary": VARY}


def test_the_box_of_least_area_for_its_volume_is_a_cube(cluster: Cluster, crate: Any, tmp_path: Path) -> None:
    found = run_seek(
        crate, **SOUGHT, tries=160, cluster=cluster, manifest=tmp_path / "list", out=str(tmp_path / "best.ply")
    )
    (best,) = found.best
    assert best["numbers"]["area"] == pytest.approx(6, rel=0.02)
    assert best["numbers"]["volume"] >= 1
    assert volume(Geo.read(tmp_path / "best.ply")) == pytest.approx(best["numbers"]["volume"], rel=1e-4)
    assert [one["row"] for one in found.entries] == list(range(1, len(found.entries) + 1))
    assert not found.failed


def test_the_same_is_found_by_one_worker_and_by_two(cluster: Cluster, limits: Any, crate: Any, tmp_path: Path) -> None:
    tries = {**SOUGHT, "tries": 40}
    two = run_seek(crate, **tries, cluster=cluster, manifest=tmp_path / "two")
    with Cluster(workers=1, limits=limits) as alone:
        one = run_seek(crate, **tries, cluster=alone, manifest=tmp_path / "one")
    assert sorted(json.dumps(entry["values"]) for entry in one.entries) == sorted(
        json.dumps(entry["values"]) for entry in two.entries
    )
    assert [entry["values"] for entry in one.best] == [entry["values"] for entry in two.best]


def test_a_stopped_search_keeps_its_best_and_goes_on(cluster: Cluster, crate: Any, tmp_path: Path) -> None:
    made = 0

    def count(entry: Any, done: int, total: int) -> None:
        nonlocal made
        made += 1

    tries = {**SOUGHT, "tries": 48, "cluster": cluster, "on_entry": count}
    first = run_seek(crate, **tries, manifest=tmp_path / "list", should_stop=lambda: made >= 19)
    assert 19 <= len(first.entries) < 48
    assert len(first.best) == 1
    stopped_at = made
    then = run_seek(crate, **tries, manifest=tmp_path / "list")
    assert (len(then.entries), then.again, made) == (48, stopped_at, 48), "none is made twice"
    whole = run_seek(crate, **tries, manifest=tmp_path / "other")
    assert [one["values"] for one in then.best] == [one["values"] for one in whole.best]


def test_a_worker_that_is_killed_costs_a_search_no_try(cluster: Cluster, crate: Any, tmp_path: Path) -> None:
    killed: list[int] = []

    def kill_one(entry: Any, done: int, total: int) -> None:
        if done == 11:
            killed.append(int(entry["worker"].rpartition(":")[2]))
            os.kill(killed[-1], signal.SIGKILL)

    tries = {**SOUGHT, "tries": 32, "cluster": cluster}
    hurt = run_seek(crate, **tries, manifest=tmp_path / "hurt", on_entry=kill_one)
    whole = run_seek(crate, **tries, manifest=tmp_path / "whole")
    assert len(killed) == 1
    assert [one["row"] for one in hurt.entries] == list(range(1, 33)), "none is lost, none is there twice"
    assert len((tmp_path / "hurt.jsonl").read_text().splitlines()) == 32
    assert [one["values"] for one in hurt.best] == [one["values"] for one in whole.best]


def test_what_cannot_be_begun_is_said_before_workers_start(crate: Any, tmp_path: Path) -> None:
    with pytest.raises(GraphError, match="nothing is called 'deep'; dials are wide, high"):
        run_seek(crate, vary={"deep": "1,2"}, aims=[Aim("area")], manifest=tmp_path / "list")
    with pytest.raises(GraphError, match="aim 'weight'"):
        run_seek(crate, vary=VARY, aims=[Aim("weight")], manifest=tmp_path / "list")
