"""The pool beside stand-ins for its processes: tickets, warm caches, newer jobs before older ones, errors."""

from pathlib import Path

import pytest

from reticula.core.errors import ReticulaError
from reticula.workers import pool as pools
from reticula.workers.pool import JobError, Limits, Pool, Ticket
from reticula.workers.tasks import Job


class Seat:
    """Takes tickets and leaves them waiting."""

    def __init__(self, *_: object) -> None:
        self.tickets: list[Ticket] = []
        self.closed = False

    def put(self, ticket: Ticket) -> None:
        self.tickets.append(ticket)

    def close(self) -> None:
        self.closed = True


@pytest.fixture
def pool(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Pool:
    monkeypatch.setattr(pools, "_Seat", Seat)
    return Pool(tmp_path, 3, Limits(seconds=1))


def seats(pool: Pool) -> list[Seat]:
    return pool._seats  # type: ignore[return-value]


def test_the_same_graph_meets_the_same_process(pool: Pool) -> None:
    for _ in range(5):
        pool.submit(Job("evaluate"), affinity="a graph")
    assert sorted(len(seat.tickets) for seat in seats(pool)) == [0, 0, 5]
    for number in range(40):
        pool.submit(Job("evaluate"), affinity=f"graph {number}")
    assert all(len(seat.tickets) > 5 for seat in seats(pool))


def test_a_newer_job_supersedes_older_ones_of_its_channel_only(pool: Pool) -> None:
    first, other, second = (pool.submit(Job("evaluate"), channel=channel) for channel in ("view", "ledger", "view"))
    assert (first.stop_wanted, other.stop_wanted, second.stop_wanted) == (True, False, False)


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
    monkeypatch.setattr(Seat, "put", lambda self, ticket: ticket.end("failed", error=told))
    with pytest.raises(JobError, match="too long") as caught:
        pool.run(Job("evaluate"))
    assert isinstance(caught.value, ReticulaError)
    assert caught.value.details() == told
    monkeypatch.setattr(Seat, "put", lambda self, ticket: ticket.end("done", result={"fine": 1}))
    assert pool.run(Job("evaluate")) == {"fine": 1}


def test_closing_ends_all_processes(pool: Pool) -> None:
    pool.close()
    assert all(seat.closed for seat in seats(pool))
