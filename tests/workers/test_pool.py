"""The pool beside stand-ins for its processes: tickets, newer jobs before older ones, errors."""

from pathlib import Path
from typing import Any

import pytest

from reticula.core.errors import ReticulaError
from reticula.workers import pool as pools
from reticula.workers.pool import Pool
from reticula.workers.tasks import Job
from reticula.workers.tickets import LAST, Busy, JobError, Limits, Ticket
from reticula.workers.waiting import MOST_OF_ONE


class Seat:
    """Leaves all tickets waiting."""

    def __init__(self, number: int, *_: Any) -> None:
        self.number = number
        self.closed = False
        self.urgent: list[Ticket] = []

    def yield_to(self, ticket: Ticket) -> None:
        self.urgent.append(ticket)

    def health(self) -> dict[str, Any]:
        return {"pid": self.number}

    def close(self) -> None:
        self.closed = True


@pytest.fixture
def pool(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Pool:
    monkeypatch.setattr(pools, "Seat", Seat)
    return Pool(tmp_path, 3, Limits(seconds=1))


def test_a_newer_job_supersedes_older_ones_of_its_channel_only(pool: Pool) -> None:
    first, other, second = (pool.submit(Job("evaluate"), channel=channel) for channel in ("view", "ledger", "view"))
    assert (first.stop_wanted, other.stop_wanted, second.stop_wanted) == (True, False, False)
    assert first.state == "stopped"
    assert pool.health()["waiting"] == 2


def test_what_is_finished_is_not_stopped(pool: Pool) -> None:
    first = pool.submit(Job("evaluate"), channel="view")
    first.end("done", result={})
    pool.submit(Job("evaluate"), channel="view")
    assert not first.stop_wanted


def test_tickets_are_found_until_they_are_old(pool: Pool, monkeypatch: pytest.MonkeyPatch) -> None:
    ticket = pool.submit(Job("evaluate"))
    assert pool.find(ticket.id) is ticket
    ticket.end("done", result={"nodes": {}})
    monkeypatch.setattr(pools, "KEEP_FINISHED", -1.0)
    pool.submit(Job("evaluate"))
    assert pool.find(ticket.id) is None
    assert pool.find("nobody") is None


def test_a_failed_job_is_an_error_with_its_details(pool: Pool, monkeypatch: pytest.MonkeyPatch) -> None:
    told = {"code": "limit", "message": "too long", "node": "a"}
    monkeypatch.setattr(Seat, "yield_to", lambda self, ticket: ticket.end("failed", error=told))
    with pytest.raises(JobError, match="too long") as caught:
        pool.run(Job("evaluate"))
    assert isinstance(caught.value, ReticulaError)
    assert caught.value.details() == told
    monkeypatch.setattr(Seat, "yield_to", lambda self, ticket: ticket.end("done", result={"fine": 1}))
    assert pool.run(Job("evaluate")) == {"fine": 1}


def test_nobody_waits_for_ever(pool: Pool, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(pools, "MOST_TURNS", 0)
    monkeypatch.setattr(pools, "READY_SECONDS", 0.0)
    with pytest.raises(JobError, match="at work for too long"):
        pool.run(Job("evaluate"))


def test_what_cannot_be_passed_on_is_refused_at_once(pool: Pool) -> None:
    deep: list[Any] = []
    for _ in range(5000):
        deep = [deep]
    for broken in (deep, [lambda: 0]):
        with pytest.raises(JobError) as caught:
            pool.submit(Job("evaluate", queries=[{"what": broken}]))
        assert caught.value.code == "limit"
    assert pool.health()["waiting"] == 0


def test_too_much_of_one_person_is_refused(pool: Pool) -> None:
    for _ in range(MOST_OF_ONE):
        pool.submit(Job("evaluate"), person="one")
    with pytest.raises(Busy, match="try again in a few seconds") as caught:
        pool.submit(Job("evaluate"), person="one")
    assert caught.value.seconds == 5
    assert pool.submit(Job("check"), person="two", priority=LAST).state == "waiting"


def test_closing_ends_all_processes(pool: Pool) -> None:
    pool.close()
    assert all(seat.closed for seat in pool._seats)  # type: ignore[attr-defined]
