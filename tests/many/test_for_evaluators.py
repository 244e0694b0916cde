"""What the cluster does for a service: jobs of the page when the evaluators are full, and never without need."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from reticula.core import ops
from reticula.core.graph.structure.document import empty_document
from reticula.many import for_evaluators
from reticula.many.cluster import Cluster
from reticula.many.for_evaluators import LoopErrand, Overflow
from reticula.many.shared_cluster import SharedCluster
from reticula.workers.buffers import BufferFiles
from reticula.workers.figures import FIGURES
from reticula.workers.tasks import Job, Worker
from reticula.workers.tickets import LAST, Ticket
from reticula.workers.waiting import Waiting
from tests.helpers import wait_until
from tests.many.test_cluster import slow_graph
from tests.many.test_loop_part import Kept, nobody
from tests.workers.asking import as_query


@pytest.fixture(autouse=True)
def impatient(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(for_evaluators, "FULL_SECONDS", 0.0)


@pytest.fixture
def job(tmp_path: Path) -> Job:
    """A look at a stored shape that is raised."""
    reef = tmp_path / "reef.ply"
    ops.grid(cells=(6, 5)).write(reef)
    document = {
        **empty_document(),
        "nodes": {
            "reef": {"operator": "project_shape", "parameters": {"shape": "reef.ply"}},
            "up": {"operator": "extrude", "inputs": {"geo": ["reef"]}},
        },
    }
    look = as_query({"what": "mesh"})
    return Job(
        "evaluate",
        document,
        shapes={"reef.ply": (str(reef), "abc"), "unused.ply": ("/is not there", "def")},
        node="up",
        queries=[look],
    )


def test_a_job_that_no_evaluator_takes_is_done_on_the_cluster(
    cluster: Cluster, job: Job, buffers: BufferFiles, overflow: Callable[..., Overflow]
) -> None:
    over = overflow(Kept(cluster))
    ticket = Ticket(job)
    over.waiting.put(ticket)
    wait_until(ticket.finished.is_set)
    assert ticket.state == "done", ticket.error
    here = Worker(BufferFiles(buffers.folder.with_name("here")), 10**8).do(job, lambda *_: None, lambda: False)
    assert ticket.result is not None
    assert ticket.result["looks"] == here["looks"]
    assert ticket.result["nodes"]["up"]["counts"] == here["nodes"]["up"]["counts"]
    for digest in _digests(here["looks"]):
        assert buffers.path(digest).read_bytes() == Path(buffers.folder.with_name("here"), digest).read_bytes()


def test_background_work_and_what_is_no_evaluation_wait_for_evaluators(
    cluster: Cluster, job: Job, overflow: Callable[..., Overflow]
) -> None:
    over, before = overflow(Kept(cluster)), overflowed()
    kept = [Ticket(job, priority=LAST), Ticket(Job("export"))]
    looked = Ticket(job)
    for one in (*kept, looked):
        over.waiting.put(one)
    wait_until(looked.finished.is_set)
    assert [one.state for one in kept] == ["waiting", "waiting"]
    assert overflowed() == before + 1


def test_what_is_not_wanted_any_more_is_stopped_there(cluster: Cluster, overflow: Callable[..., Overflow]) -> None:
    over = overflow(Kept(cluster))
    ticket = Ticket(Job("evaluate", slow_graph(10**12), node="slow"))
    over.waiting.put(ticket)
    wait_until(lambda: any(cluster.client.processing().values()))
    ticket.stop_wanted = True
    wait_until(ticket.finished.is_set)
    assert ticket.state == "stopped"
    wait_until(lambda: not any(cluster.client.processing().values()))


def test_a_node_that_fails_there_is_told_as_here(cluster: Cluster, job: Job, overflow: Callable[..., Overflow]) -> None:
    over = overflow(Kept(cluster))
    ticket = Ticket(Job("evaluate", job.document, node="up"))
    over.waiting.put(ticket)
    wait_until(ticket.finished.is_set)
    assert ticket.result is not None
    assert "the project has no shape 'reef.ply'" in ticket.result["nodes"]["reef"]["error"]["message"]


def test_a_cluster_that_is_away_leaves_jobs_to_evaluators(
    job: Job, overflow: Callable[..., Overflow], monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr("reticula.many.cluster.PATIENCE", 0.3)
    over = overflow(nobody(tmp_path))
    ticket = Ticket(job)
    over.waiting.put(ticket)
    wait_until(lambda: over._not_before > 0)
    wait_until(lambda: over.waiting.take(0, 0.0) is ticket)
    assert ticket.state == "waiting"


def test_an_errand_to_nobody_says_so(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("reticula.many.cluster.PATIENCE", 0.3)
    errand = LoopErrand(nobody(tmp_path), tmp_path, [], {})
    told: list[tuple[int, dict[str, Any]]] = []

    def came() -> bool:
        told.extend(errand.answers())
        return bool(told)

    wait_until(came)
    assert told[0][0] == -1
    assert "no scheduler answers" in told[0][1]["gone"]


@pytest.fixture
def buffers(tmp_path: Path) -> BufferFiles:
    return BufferFiles(tmp_path / "buffers")


@pytest.fixture
def overflow(buffers: BufferFiles) -> Any:
    made: list[Overflow] = []

    def make(cluster: SharedCluster) -> Overflow:
        made.append(Overflow(cluster, Waiting(1), buffers))
        return made[-1]

    yield make
    for one in made:
        one.waiting.close()
        one.close()


def overflowed() -> float:
    return FIGURES.get_sample_value("reticula_jobs_overflowed_total") or 0.0


def _digests(thing: Any) -> list[str]:
    """The digests of all arrays that an answer names."""
    if isinstance(thing, dict):
        own = [thing["digest"]] if {"digest", "dtype", "shape"} <= thing.keys() else []
        return own + [one for value in thing.values() for one in _digests(value)]
    return [one for value in thing for one in _digests(value)] if isinstance(thing, list) else []
