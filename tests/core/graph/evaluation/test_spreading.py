"""Parts that others run: the same geometry, warnings and errors as if they were run here, and nobody need be there."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from pathlib import Path
from typing import Any

import pytest

from reticula.core.context import using
from reticula.core.errors import Unreachable
from reticula.core.graph import Evaluator
from reticula.core.graph.evaluation import held_graph
from reticula.core.graph.evaluation.array_files import ArrayFile, read_arrays
from reticula.core.graph.evaluation.bundles import Bundle, Made, Shared
from reticula.core.graph.evaluation.run_bundle import run_bundle
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.operators.shared.resources import resources
from tests.core.graph.building import graph, node

INNER = graph(
    {
        "up": node("extrude", "geo", distance={"formula": "0.1 + part / parts * rise"}),
        "mark": node("set_attribute", "up", kind="face", name="mine", value={"formula": "part_value"}),
        "beside": node("join", inputs={"geometries": ["mark", "more"]}),
    },
    inputs=("geo", "more"),
    outputs={"geo": "beside"},
    dials={"rise": {"type": "number", "value": 0.5}},
)


class OnFiles:
    """Stands in for a cluster: what travels goes through files, the last bundle ends first, and it may go away."""

    def __init__(self, folder: Path, until: int = 10**9) -> None:
        self.folder, self.until = folder, until
        self.bundles = 0

    def run(self, shared: Shared, bundles: Sequence[Bundle]) -> Generator[tuple[int, Made], None, None]:
        store = EvaluationStore()
        shared = self._travelled(shared)
        for number in reversed(range(len(bundles))):
            if self.bundles >= self.until:
                raise Unreachable("it went away")
            self.bundles += 1
            yield number, self._travelled(run_bundle(store, shared, self._travelled(bundles[number]), resources()))

    def _travelled(self, thing: Any) -> Any:
        path = self.folder / "thing"
        path.unlink(missing_ok=True)
        file = ArrayFile.of(thing)
        file.write(path)
        assert path.stat().st_size == file.size
        return read_arrays(path)


@pytest.fixture(autouse=True)
def all_is_heavy(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(held_graph, "LOOK", 0.0)
    monkeypatch.setattr(held_graph, "HEAVY", 0.0)
    monkeypatch.setattr(held_graph, "BUNDLE", 1e-9)


def evaluated(inner: dict[str, Any], others: OnFiles | None, **parameters: Any) -> Any:
    inputs = {"geo": ["tiles"], "more": ["one"]} if len(inner["inputs"]) == 2 else {"geo": ["tiles"]}
    each = {"operator": "for_each", "inputs": inputs, "graph": inner, "parameters": {"over": "element", **parameters}}
    document = graph({"tiles": node("grid", cells=[4, 3]), "one": node("box"), "each": each})
    with using(spread=others):
        return Evaluator().evaluate(document).nodes["each"]


def test_the_result_is_the_same(tmp_path: Path) -> None:
    others = OnFiles(tmp_path)
    here, there = evaluated(INNER, None), evaluated(INNER, others, spread=True)
    assert others.bundles == 11, "the first part is run here, to see what it takes"
    assert there.geo.digest == here.geo.digest
    assert there.geo.attribute("face", "mine").max() == 11
    for kind in ("point", "face"):
        assert there.geo.identity(kind).tolist() == here.geo.identity(kind).tolist()


def test_nobody_is_asked_unless_it_is_wanted_and_worth_it(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    others = OnFiles(tmp_path)
    evaluated(INNER, others)
    monkeypatch.setattr(held_graph, "HEAVY", 1000.0)
    evaluated(INNER, others, spread=True)
    assert others.bundles == 0


def test_who_goes_away_is_said_and_the_rest_is_made_here(tmp_path: Path) -> None:
    here, there = evaluated(INNER, None), evaluated(INNER, OnFiles(tmp_path, until=4), spread=True)
    assert there.geo.digest == here.geo.digest
    told = "The cluster cannot help (it went away); the rest was made here."
    assert [note.text for note in there.notes if note not in here.notes] == [told, "The cluster made 4 of 12 parts."]


def test_warnings_inside_are_passed_on_once(tmp_path: Path) -> None:
    warning = graph(
        {"g": node("group", "geo", name="none", where="index < 0"), "up": node("extrude", "g", where="none")},
        inputs=("geo",),
        outputs={"geo": "up"},
    )
    here, there = evaluated(warning, None), evaluated(warning, OnFiles(tmp_path), spread=True)
    told = [note.text for note in here.notes if note.level == "warning"]
    assert told
    assert [note.text for note in there.notes if note.level == "warning"] == told


def test_the_first_part_that_fails_is_said_as_here(tmp_path: Path) -> None:
    failing = graph(
        {
            "bad": node("grid", size=[1, 1], cells={"formula": "vec2(1, 1 - step(4.5, part))"}),
            "up": node("join", inputs={"geometries": ["geo", "bad"]}),
        },
        inputs=("geo",),
        outputs={"geo": "up"},
    )
    here, there = evaluated(failing, None), evaluated(failing, OnFiles(tmp_path), spread=True)
    assert here.error["cause"] == "bad"
    assert there.error == here.error


def test_loops_elsewhere_count(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(held_graph, "MOST_RUNS", 5)
    found = evaluated(INNER, OnFiles(tmp_path), spread=True)
    assert found.error["message"].startswith("the loops ran 5 times")
