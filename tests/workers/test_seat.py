"""A seat with a real evaluator: poison, kills, urgency and memory; the watch goes on after all of them."""

import os
import signal
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from reticula.workers import seat as module
from reticula.workers.buffers import BufferFiles
from reticula.workers.seat import Seat, resident_bytes
from reticula.workers.tasks import Job
from reticula.workers.tickets import FIRST, LAST, Limits, Ticket, packed
from reticula.workers.waiting import Waiting
from tests.core.graph.building import graph, node
from tests.helpers import wait_until

SLOW = graph({"slow": node("script", "sheet", source="n = 0\nwhile True:\n    n = n + 1"), "sheet": node("grid")})
QUICK = graph({"sheet": node("grid")})


@pytest.fixture(scope="module")
def seat(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Seat]:
    waiting = Waiting(1)
    made = Seat(0, waiting, BufferFiles(tmp_path_factory.mktemp("buffers")), Limits(seconds=30.0))
    yield made
    waiting.close()
    made.close()


def ask(seat: Seat, job: Job, priority: int = FIRST) -> Ticket:
    ticket = Ticket(job, priority=priority, data=packed(job))
    seat.waiting.put(ticket)
    seat.yield_to(ticket)
    return ticket


def done(ticket: Ticket) -> dict[str, Any]:
    assert ticket.finished.wait(120)
    return ticket.error or ticket.result or {}


def test_poison_is_an_answer_and_the_next_job_is_done(seat: Seat) -> None:
    broken = Ticket(Job("evaluate"), data=b"this is no job")
    seat.waiting.put(broken)
    assert done(broken)["code"] == "internal"
    assert done(ask(seat, Job("evaluate", None)))["code"] in ("internal", "graph")  # type: ignore[arg-type]
    assert done(ask(seat, Job("evaluate", QUICK)))["nodes"]["sheet"]["state"] == "done"


def test_background_work_gives_way_and_is_done_later(seat: Seat) -> None:
    background = ask(seat, Job("check", SLOW), LAST)
    wait_until(lambda: seat.current is background and background.state == "running")
    looked_at = ask(seat, Job("evaluate", QUICK))
    assert done(looked_at)["nodes"]["sheet"]["state"] == "done"
    assert not background.finished.is_set()
    background.stop_wanted = True
    assert background.finished.wait(30)


def test_a_killed_evaluator_is_replaced(seat: Seat) -> None:
    before = seat.process.pid
    assert before is not None
    os.kill(before, signal.SIGKILL)
    wait_until(lambda: seat.process.pid != before)
    assert done(ask(seat, Job("evaluate", QUICK)))["nodes"]["sheet"]["state"] == "done"
    assert seat.health()["answers"]


def test_a_job_whose_evaluator_is_killed_is_done_again_once(seat: Seat) -> None:
    for kills, state in ((1, "stopped"), (2, "failed")):
        job = ask(seat, Job("check", SLOW), LAST)
        for _ in range(kills):
            wait_until(lambda job=job: seat.current is job and job.state == "running")
            victim = seat.process.pid
            os.kill(victim or 0, signal.SIGKILL)
            wait_until(lambda victim=victim: seat.process.pid != victim)
        if kills == 1:
            wait_until(lambda job=job: seat.current is job and job.state == "running")
            job.stop_wanted = True
        assert job.finished.wait(30)
        assert job.state == state
    assert (job.error or {})["code"] == "crashed"
    assert done(ask(seat, Job("evaluate", QUICK)))["nodes"]["sheet"]["state"] == "done"


def test_one_that_holds_too_much_is_replaced_while_it_has_nothing_to_do(
    seat: Seat, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = seat.process.pid
    assert resident_bytes(before or 0) > 10 * 1024**2
    assert resident_bytes(-1) == 0
    monkeypatch.setattr(module, "ROOM", -seat.limits.cache_bytes)
    wait_until(lambda: seat.process.pid != before)
    monkeypatch.undo()
    assert done(ask(seat, Job("evaluate", QUICK)))["nodes"]["sheet"]["state"] == "done"


def test_another_one_takes_over_between_jobs_and_nobody_waits_for_it(
    seat: Seat, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = seat.process.pid
    monkeypatch.setattr(module, "ROOM", -seat.limits.cache_bytes)
    while seat.process.pid == before:
        assert seat.ready, "the old one works until the new one is ready"
        assert done(ask(seat, Job("evaluate", QUICK)))["nodes"]["sheet"]["state"] == "done"
    monkeypatch.undo()
    assert seat.ready
    assert done(ask(seat, Job("evaluate", QUICK)))["nodes"]["sheet"]["state"] == "done"


def test_the_watch_survives_everything(seat: Seat, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setattr(module, "PAUSE", 0.0)
    left = [RuntimeError("no memory for a thread"), OSError("no processes")]

    def take(taker: int, seconds: float) -> Ticket | None:
        if left:
            raise left.pop()
        return Waiting.take(seat.waiting, taker, seconds)

    monkeypatch.setattr(seat.waiting, "take", take)
    wait_until(lambda: not left)
    assert done(ask(seat, Job("evaluate", QUICK)))["nodes"]["sheet"]["state"] == "done"
