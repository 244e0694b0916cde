"""A search beside published test functions, built as graphs: their known optima are reached.

Branin's and Rosenbrock's functions as in Surjanovic and Bingham, Virtual Library of Simulation Experiments: three
minima of 0.397887 of Branin's, 0 at (1, 1) of Rosenbrock's; Binh and Korn, MOBES (1997): two aims under two
conditions, whose best lie at x = y up to 3, then at y = 3. Cited from memory.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from reticula.core.graph.structure.document import empty_document
from reticula.many import Aim, run_seek
from reticula.many.cluster import Cluster

BRANIN = "(y - 5.1 / (4 * pi ** 2) * x ** 2 + 5 / pi * x - 6) ** 2 + 10 * (1 - 1 / (8 * pi)) * cos(x) + 10"
ROSENBROCK = "100 * (y - x ** 2) ** 2 + (1 - x) ** 2"


@pytest.fixture(scope="module")
def cluster() -> Iterator[Cluster]:
    with Cluster(workers=2) as made:
        yield made


def graph_of(**formulas: str) -> dict[str, Any]:
    """A graph with two dials that keeps formulas of them on the whole."""
    nodes: dict[str, Any] = {"box": {"operator": "box"}}
    for name, formula in formulas.items():
        parameters = {"name": name, "kind": "whole", "value": {"formula": formula}}
        nodes[name] = {"operator": "set_attribute", "inputs": {"geo": [list(nodes)[-1]]}, "parameters": parameters}
    dials = {name: {"type": "number", "value": 0.0} for name in "xy"}
    return {**empty_document(), "dials": dials, "nodes": nodes, "result": list(nodes)[-1]}


def test_the_lowest_place_of_branin(cluster: Cluster, tmp_path: Path) -> None:
    vary = {"x": "uniform(-5, 10)", "y": "uniform(0, 15)"}
    aims = [Aim("geo.low")]
    found = run_seek(
        graph_of(low=BRANIN), vary=vary, aims=aims, tries=200, cluster=cluster, manifest=tmp_path / "branin"
    )
    (best,) = found.best
    assert best["numbers"]["geo.low"] == pytest.approx(0.397887, abs=1e-3)
    at = np.array([best["values"]["x"], best["values"]["y"]])
    minima = np.array([(-np.pi, 12.275), (np.pi, 2.275), (9.42478, 2.475)])
    assert np.linalg.norm(minima - at, axis=1).min() < 0.1


def test_the_end_of_the_valley_of_rosenbrock(cluster: Cluster, tmp_path: Path) -> None:
    vary = {"x": "uniform(-2, 2)", "y": "uniform(-1, 3)"}
    found = run_seek(
        graph_of(low=ROSENBROCK),
        vary=vary,
        aims=[Aim("geo.low")],
        tries=400,
        cluster=cluster,
        manifest=tmp_path / "valley",
    )
    (best,) = found.best
    assert best["numbers"]["geo.low"] < 1e-3
    assert (best["values"]["x"], best["values"]["y"]) == (pytest.approx(1, abs=0.05), pytest.approx(1, abs=0.1))


def test_the_front_of_binh_and_korn(cluster: Cluster, tmp_path: Path) -> None:
    graph = graph_of(cost="4 * x ** 2 + 4 * y ** 2", miss="(x - 5) ** 2 + (y - 5) ** 2")
    conditions = ["(x - 5) ** 2 + y ** 2 <= 25", "(x - 8) ** 2 + (y + 3) ** 2 >= 7.7"]
    found = run_seek(
        graph,
        vary={"x": "uniform(0, 5)", "y": "uniform(0, 3)"},
        aims=[Aim("geo.cost"), Aim("geo.miss")],
        conditions=conditions,
        tries=200,
        cluster=cluster,
        manifest=tmp_path / "front",
    )
    first, then = np.linspace(0, 3, 400), np.linspace(3, 5, 200)
    known = np.concatenate([np.stack([first, first], 1), np.stack([then, np.full(200, 3.0)], 1)])
    size = np.array([136.0, 50.0])
    front = np.stack([4 * (known**2).sum(1), ((known - 5) ** 2).sum(1)], 1) / size
    mine = np.array([[one["numbers"]["geo.cost"], one["numbers"]["geo.miss"]] for one in found.best]) / size
    away = np.linalg.norm(front[:, None] - mine, axis=2)
    assert len(mine) > 40
    assert away.min(0).mean() < 0.01, "what is best lies on the front"
    assert away.min(1).mean() < 0.02, "and all of the front is covered"
    for one in found.best:
        x, y = one["values"]["x"], one["values"]["y"]
        assert (x - 5) ** 2 + y**2 <= 25
        assert (x - 8) ** 2 + (y + 3) ** 2 >= 7.7
