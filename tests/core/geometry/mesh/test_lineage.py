"""Names that are put off are those that are worked out at once, in any order, and hold on to nothing for long."""

from __future__ import annotations

import gc
import pickle
import weakref
from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.mesh import lineage
from reticula.core.geometry.mesh.identity import child_names, fresh_names
from reticula.core.geometry.mesh.lineage import DEEPEST, Lineage, names_of

INDEX = np.array([0, 0, 2, -1, 1], np.int32)


def test_names_put_off_are_the_same_names() -> None:
    parents = fresh_names(3, 5)
    first = Lineage(7, parents=Lineage(5, count=3), index=INDEX)
    assert np.array_equal(first.names, child_names(parents, INDEX, 7))
    assert first.names is names_of(first)
    assert names_of(parents) is parents


def test_only_a_few_steps_are_put_off() -> None:
    step = Lineage(1, count=4)
    same = np.arange(4, dtype=np.int32)
    for _ in range(3 * DEEPEST):
        step = Lineage(1, parents=step, index=same)
        assert step.depth <= DEEPEST
    assert np.array_equal(step.names, fresh_names(4, 1))


class _Watched(np.ndarray):
    """An array that can be watched."""


def test_what_names_come_from_is_let_go_once_they_are_known() -> None:
    index = INDEX.copy().view(_Watched)
    watched = weakref.ref(index)
    step = Lineage(7, parents=fresh_names(3, 5), index=index)
    del index
    gc.collect()
    assert watched() is not None
    assert step.names is not None
    gc.collect()
    assert watched() is None


def test_a_step_of_a_graph_works_no_names_out(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[int] = []
    original = lineage.child_names

    def counted(*given: Any) -> Any:
        asked.append(1)
        return original(*given)

    monkeypatch.setattr(lineage, "child_names", counted)
    cut = ops.triangulate(ops.extrude(ops.grid(cells=[4, 4]), distance=0.1, together=False))
    assert not asked
    names = cut.identity("face")
    assert asked
    assert len(np.unique(names)) == cut.topology.face_count


def test_a_copy_on_disk_knows_its_names() -> None:
    cut = ops.triangulate(ops.grid(cells=[3, 3]))
    again: Geo = pickle.loads(pickle.dumps(cut))
    assert np.array_equal(again.identity("face"), cut.identity("face"))
