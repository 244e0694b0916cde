"""Parts of a loop on two workers: the same geometry, meshes of the project there, workers that die, a cluster that is
away.
"""

from __future__ import annotations

import os
import signal
from collections.abc import Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path
from typing import Any

import pytest

from reticula.core import Geo, ops
from reticula.core.context import using
from reticula.core.graph import Evaluator
from reticula.core.graph.evaluation import held_graph
from reticula.core.operators.shared.resources import DiskResources
from reticula.many.cluster import Cluster
from reticula.many.loop_part import SpreadOverCluster
from reticula.many.shared_cluster import SharedCluster, begun
from tests.core.graph.building import graph, node
from tests.many.test_cluster import worker_ids

INNER = graph(
    {
        "fine": node("split_faces", "geo", levels=2),
        "reef": node("project_shape", shape="reef.ply"),
        "near": node("transfer_attribute", inputs={"geo": ["fine"], "source": ["reef"]}, attributes="cover"),
        "up": node("extrude", "near", distance={"formula": "mean(here.points.cover) * (part + 1)"}),
    },
    inputs=("geo",),
    outputs={"geo": "up"},
)
EACH = graph({"tiles": node("grid", cells=[5, 4]), "each": node("for_each", "tiles", graph=INNER, over="element")})


class Kept(SharedCluster):
    """Gives the cluster that is there already."""

    def __init__(self, cluster: Cluster) -> None:
        super().__init__(lambda: cluster)
        self.cluster = cluster

    @contextmanager
    def ready(self, *, hurry: bool = False) -> Iterator[Cluster]:
        yield self.cluster


def nobody(folder: Path) -> SharedCluster:
    """A cluster whose scheduler does not answer."""
    return SharedCluster(partial(begun, "tcp://127.0.0.1:1", store=folder.as_uri()))


@pytest.fixture(autouse=True)
def all_is_heavy(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(held_graph, "LOOK", 0.0)
    monkeypatch.setattr(held_graph, "HEAVY", 0.0)
    monkeypatch.setattr(held_graph, "BUNDLE", 1e-9)


@pytest.fixture
def reef(tmp_path: Path) -> Path:
    path = tmp_path / "reef.ply"
    ops.set_attribute(ops.grid(cells=(3, 3)), kind="point", name="cover", value="0.1 + abs(position.x)").write(path)
    return path


def evaluated(reef: Path, others: Any) -> Geo:
    document = {**EACH, "nodes": {**EACH["nodes"], "each": {**EACH["nodes"]["each"]}}}
    document["nodes"]["each"]["parameters"] = {"over": "element", "spread": others is not None}
    with using(spread=others, resources=DiskResources({"reef.ply": str(reef)}, reef.parent)):
        return Evaluator().evaluate(document, targets=["each"]).geo("each")


def test_two_workers_make_the_same(cluster: Cluster, reef: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    by: list[str] = []
    outcomes = cluster.outcomes

    def noted(*given: Any) -> Any:
        for part, outcome in outcomes(*given):
            by.append(outcome["worker"])
            yield part, outcome

    monkeypatch.setattr(cluster, "outcomes", noted)
    made = evaluated(reef, SpreadOverCluster(Kept(cluster), {"reef.ply": reef}))
    assert made.digest == evaluated(reef, None).digest
    assert len(by) == 19
    assert len(set(by)) == 2, "both were at it"


def test_a_worker_that_dies_costs_nothing(cluster: Cluster, reef: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    outcomes = cluster.outcomes
    killed: list[int] = []

    def deadly(*given: Any) -> Any:
        for part, outcome in outcomes(*given):
            if not killed:
                killed.extend(worker_ids(cluster)[:1])
                os.kill(killed[0], signal.SIGKILL)
            yield part, outcome

    monkeypatch.setattr(cluster, "outcomes", deadly)
    made = evaluated(reef, SpreadOverCluster(Kept(cluster), {"reef.ply": reef}))
    assert killed
    assert made.digest == evaluated(reef, None).digest


def test_a_scheduler_that_does_not_answer_is_done_without(reef: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("reticula.many.cluster.PATIENCE", 0.3)
    assert (
        evaluated(reef, SpreadOverCluster(nobody(reef.parent), {"reef.ply": reef})).digest
        == evaluated(reef, None).digest
    )
