"""Workers for all who need them: begun once, kept while they are used, given up when they fail or rest."""

from __future__ import annotations

import sys
from typing import Any

import pytest

from reticula.core.errors import GeometryError, Unreachable
from reticula.many import shared_cluster as module
from reticula.many.shared_cluster import SharedCluster, begun
from tests.helpers import wait_until


class Made:
    """Stands in for a cluster."""

    begun: list[Made] = []
    fails = False

    def __init__(self) -> None:
        if self.fails:
            raise Unreachable(f"nobody answers, {len(self.begun)}")
        self.ended = False
        self.begun.append(self)

    def __exit__(self, *_: Any) -> None:
        self.ended = True


@pytest.fixture
def shared() -> Any:
    Made.begun.clear()
    return SharedCluster(Made)  # type: ignore[arg-type]  # stands in for one


def test_all_have_the_same_one_while_it_is_used(shared: SharedCluster, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "IDLE_SECONDS", 0.0)
    with shared.ready() as one, shared.ready() as other:
        assert one is other
    wait_until(lambda: Made.begun[0].ended)
    with shared.ready() as later:
        assert later is not one


def test_one_that_fails_is_given_up_and_an_error_of_the_work_is_none_of_its(shared: SharedCluster) -> None:
    with pytest.raises(GeometryError), shared.ready():
        raise GeometryError("a bad mesh")
    assert not Made.begun[0].ended
    with pytest.raises(Unreachable), shared.ready():
        raise Unreachable("it went away")
    assert Made.begun[0].ended
    with shared.ready():
        assert len(Made.begun) == 2
    shared.close()


def test_those_in_a_hurry_do_not_wait_for_it_again(shared: SharedCluster, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(Made, "fails", True)
    for hurry in (False, True):
        with pytest.raises(Unreachable, match="nobody answers, 0"), shared.ready(hurry=hurry):
            pass
    monkeypatch.setattr(Made, "fails", False)
    with pytest.raises(Unreachable), shared.ready(hurry=True):
        pass
    with shared.ready(), shared.ready(hurry=True):
        assert len(Made.begun) == 1
    shared.close()


def test_after_the_end_there_is_none(shared: SharedCluster) -> None:
    with shared.ready():
        shared.close()
    assert Made.begun[0].ended
    with pytest.raises(Unreachable, match="were ended"), shared.ready():
        pass


def test_the_environment_says_where_it_is_unless_somebody_does(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[tuple[Any, ...]] = []
    monkeypatch.setattr("reticula.many.cluster.Cluster", lambda address, **how: asked.append((address, how["store"])))
    begun()
    monkeypatch.setenv("RETICULA_CLUSTER", "tcp://10.0.0.1:8786")
    monkeypatch.setenv("RETICULA_STORE", "file:///shared")
    begun(workers=2)
    begun("tcp://10.0.0.2:8786", store="file:///other")
    assert asked == [("", ""), ("tcp://10.0.0.1:8786", "file:///shared"), ("tcp://10.0.0.2:8786", "file:///other")]


def test_without_dask_it_is_said_what_to_do(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(sys.modules, "reticula.many.cluster", None)
    with pytest.raises(Unreachable, match=r"pip install 'reticula\[many\]'"):
        begun()
