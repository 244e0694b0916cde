"""What waits for an evaluator: in turns of the people who ask, what is looked at first."""

from __future__ import annotations

import threading
import time
import zlib
from collections import Counter

from reticula.workers.tickets import LAST, Busy, Ticket

__all__ = ["Waiting"]

MOST_WAITING = 400
MOST_OF_ONE = 100
PATIENCE = 0.7
"""Seconds that a ticket waits for the evaluator that knows its project before any other one takes it."""


class Waiting:
    """Tickets in the order in which they are to be done, for several takers.

    A taker gets a ticket whose home it is, or one whose home is at work for longer than it has patience. The best
    priority comes first, then the person whose jobs were taken least often, then the oldest. Background work is done
    at home alone, so that somebody is there for what is looked at.
    """

    def __init__(self, takers: int) -> None:
        self._tickets: list[Ticket] = []
        self._more = threading.Condition()
        self._taken: Counter[str] = Counter()
        self._takers = takers
        self.closed = False

    def __len__(self) -> int:
        return len(self._tickets)

    def put(self, ticket: Ticket, *, again: bool = False) -> None:
        """Add a ticket; raise Busy if too many wait already, unless it was there before."""
        with self._more:
            own = sum(other.person == ticket.person for other in self._tickets)
            if not again and (len(self._tickets) >= MOST_WAITING or own >= MOST_OF_ONE):
                raise Busy(f"{len(self._tickets):,} jobs wait for an evaluator already; try again in a few seconds", 5)
            self._tickets.append(ticket)
            self._more.notify_all()

    def take(self, taker: int, seconds: float) -> Ticket | None:
        """Wait for a ticket for up to some seconds; None if there is none for this taker."""
        limit = time.monotonic() + seconds
        with self._more:
            while not self.closed:
                found = self._choice(taker)
                left = limit - time.monotonic()
                if found is not None:
                    self._tickets.remove(found)
                    self._count(found.person)
                    return found
                if left <= 0:
                    return None
                self._more.wait(min(left, 0.1) if self._tickets else left)
        return None

    def take_overflow(self, since: float, seconds: float) -> Ticket | None:
        """Wait for an evaluation that has waited for ``since`` seconds and is no background work; None if there is none
        after some ``seconds``. For a taker that helps when all others are at work.
        """
        limit = time.monotonic() + seconds
        with self._more:
            while not self.closed:
                now = time.monotonic()
                late = [one for one in self._tickets if one.job.what == "evaluate" and one.priority != LAST]
                late = [one for one in late if now - one.asked > since]
                if late:
                    found = min(late, key=self._turn)
                    self._tickets.remove(found)
                    self._count(found.person)
                    return found
                if now >= limit:
                    return None
                self._more.wait(min(limit - now, 0.1) if self._tickets else limit - now)
        return None

    def drop(self, ticket: Ticket) -> bool:
        """Take a ticket out; False if it does not wait any more."""
        with self._more:
            if ticket not in self._tickets:
                return False
            self._tickets.remove(ticket)
            return True

    def close(self) -> None:
        """Wake all takers up for the end."""
        with self._more:
            self.closed = True
            self._more.notify_all()

    def home_of(self, ticket: Ticket) -> int:
        """Return the taker that knows most of what is worked on."""
        return zlib.crc32(ticket.affinity.encode()) % self._takers

    def _count(self, person: str) -> None:
        """Remember whose turn it was, for as long as somebody waits."""
        if self._tickets:
            self._taken[person] += 1
        else:
            self._taken.clear()

    def _choice(self, taker: int) -> Ticket | None:
        now = time.monotonic()
        mine = [
            ticket
            for ticket in self._tickets
            if self.home_of(ticket) == taker or (ticket.priority != LAST and now - ticket.asked > PATIENCE)
        ]
        return min(mine, key=self._turn, default=None)

    def _turn(self, ticket: Ticket) -> tuple[int, int, float]:
        return ticket.priority, self._taken[ticket.person], ticket.asked
