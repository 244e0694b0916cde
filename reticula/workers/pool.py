"""The pool: evaluator processes and what waits for them, with time and memory limits, stopping and replacement."""

from __future__ import annotations

import threading
import time
from pathlib import Path
from typing import Any

from reticula.workers.buffers import BufferFiles
from reticula.workers.ending import Ending
from reticula.workers.seat import READY_SECONDS, Seat
from reticula.workers.spreading import Spreader
from reticula.workers.tasks import Job
from reticula.workers.tickets import FIRST, SOON, Busy, JobError, Limits, Ticket, packed
from reticula.workers.waiting import Waiting

__all__ = ["MOST_WAITS", "Pool"]

KEEP_FINISHED = 120.0
MOST_WAITS = 40
"""How many may wait for answers at a time; the threads of the service are more, so that it answers others at once."""
MOST_TURNS = 10
"""For how many jobs at their limit one waits that asked for an answer."""


class Pool:
    """Runs jobs in ``count`` processes. Jobs with the same affinity meet the same process and its warm cache, unless
    that is at work for longer.

    A newer job on a channel supersedes older ones of that channel: they are stopped. A process that crashes, exceeds
    its time or does not stop when asked is killed and replaced; only the job it was at is lost. Background work gives
    way to what is looked at, and is done again later. ``spreader`` has others run parts of loops.
    """

    def __init__(
        self, folder: Path, count: int = 2, limits: Limits | None = None, *, spreader: Spreader | None = None
    ) -> None:
        self.limits = limits or Limits()
        self.buffers = BufferFiles(folder)
        self._tickets: dict[str, Ticket] = {}
        self._lock = threading.Lock()
        self._places = threading.BoundedSemaphore(MOST_WAITS)
        self.waiting = Waiting(count)
        self._seats = [Seat(number, self.waiting, self.buffers, self.limits, spreader) for number in range(count)]

    def submit(
        self, job: Job, *, affinity: str = "", channel: str = "", person: str = "", priority: int = FIRST
    ) -> Ticket:
        """Queue a job and return its ticket at once.

        Raises JobError if it cannot be passed to an evaluator, Busy if too many jobs wait.
        """
        ticket = Ticket(job, channel, affinity, person or channel or affinity, priority, packed(job))
        with self._lock:
            self._forget_old()
            if channel:
                for other in self._tickets.values():
                    if other.channel == channel and not other.finished.is_set():
                        self.stop(other)
            self.waiting.put(ticket)
            self._tickets[ticket.id] = ticket
        for seat in self._seats:
            seat.yield_to(ticket)
        return ticket

    def run(
        self, job: Job, *, affinity: str = "", channel: str = "", person: str = "", priority: int = SOON
    ) -> dict[str, Any]:
        """Do a job and wait for it; raise JobError if it fails, Busy if it cannot be waited for."""
        ticket = self.submit(job, affinity=affinity, channel=channel, person=person, priority=priority)
        self.wait(ticket, self.patience)
        return self.result_of(ticket)

    @property
    def patience(self) -> float:
        """Seconds for which one waits for a job that must give an answer."""
        return self.limits.seconds * MOST_TURNS + READY_SECONDS

    def result_of(self, ticket: Ticket) -> dict[str, Any]:
        """Return what a job gave that was waited for; raise JobError if it failed, Busy if it has not ended."""
        if not ticket.finished.is_set():
            self.stop(ticket)
            raise Busy("too many wait for the evaluators, or they are at work for too long; try again later", 10)
        if ticket.result is None:
            raise JobError(ticket.error or {"code": "error", "message": "the job failed"})
        return ticket.result

    def wait(self, ticket: Ending, seconds: float) -> bool:
        """Wait for a ticket, or something else that ends; False if it has not by then, or at once if too many wait."""
        if ticket.finished.is_set():
            return True
        if not self._places.acquire(blocking=False):
            return False
        try:
            return ticket.finished.wait(seconds)
        finally:
            self._places.release()

    def find(self, ticket_id: str) -> Ticket | None:
        """Return a ticket, for two minutes after it is finished."""
        return self._tickets.get(ticket_id)

    def stop(self, ticket: Ticket) -> None:
        """Ask a job to stop; it is killed if it does not listen."""
        ticket.stop_wanted = True
        if self.waiting.drop(ticket):
            ticket.supersede()

    def process_ids(self) -> list[int]:
        """Return the process ids of the evaluators."""
        return [seat.process.pid for seat in self._seats if seat.process.pid]

    def health(self) -> dict[str, Any]:
        """Return what each evaluator is at, and how many jobs wait."""
        return {"evaluators": [seat.health() for seat in self._seats], "waiting": len(self.waiting)}

    def close(self) -> None:
        """End all processes."""
        self.waiting.close()
        for seat in self._seats:
            seat.close()

    def _forget_old(self) -> None:
        limit = time.monotonic() - KEEP_FINISHED
        for key in [k for k, t in self._tickets.items() if t.finished.is_set() and t.finished_at < limit]:
            del self._tickets[key]
