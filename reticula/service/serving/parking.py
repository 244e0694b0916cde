"""Requests that wait for a job hold no thread: they are parked, and answered when the job has ended.

A handler returns :func:`answer_later`. Under :class:`reticula.service.serving.front.Front` the thread is free at once;
the front awaits the ticket and has the rest of the handler done. Under a server that knows nothing of this (a plain
WSGI one) the thread waits.
"""

from __future__ import annotations

import asyncio
import time
from collections.abc import Awaitable, Callable
from dataclasses import dataclass
from typing import Any

from flask import Flask, Response, request

from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.people.principal import asker
from reticula.workers.ending import Ending
from reticula.workers.tasks import Job
from reticula.workers.tickets import SOON, Ticket

__all__ = ["SLOT", "Parking", "Result", "answer_later", "install_parking", "result_later"]

SLOT = "reticula.parking"
"""Key of an ASGI scope under which a request may be parked."""
LOOK_EVERY = 0.15
Result = Callable[[], dict[str, Any]]


@dataclass
class Parking:
    """The place of one request: what it waits for, until when, and the rest of its handler."""

    ticket: Ending | None = None
    seconds: float = 0.0
    rest: Callable[[], Answer] | None = None
    resumed: bool = False

    async def wait(self, tell: Callable[[Ticket], Awaitable[None]] | None = None) -> None:
        """Wait for the ticket's end, or for as long as the request wanted to; tell its progress in between."""
        ticket, self.ticket = self.ticket, None
        assert ticket is not None
        loop, ended = asyncio.get_running_loop(), asyncio.Event()
        ticket.when_ended(lambda: _wake(loop, ended))
        limit = time.monotonic() + self.seconds
        seen: object = None
        while not ended.is_set() and (left := limit - time.monotonic()) > 0:
            try:
                await asyncio.wait_for(ended.wait(), min(left, LOOK_EVERY) if tell else left)
            except asyncio.CancelledError:
                ticket.given_up()
                raise
            except TimeoutError:
                if tell and isinstance(ticket, Ticket) and seen != (ticket.state, ticket.progress):
                    seen = ticket.state, ticket.progress
                    await tell(ticket)
        self.resumed = True


def _wake(loop: asyncio.AbstractEventLoop, ended: asyncio.Event) -> None:
    try:
        loop.call_soon_threadsafe(ended.set)
    except RuntimeError:
        return  # the server has ended


def answer_later(ticket: Ending, seconds: float, rest: Callable[[], Answer]) -> Answer:
    """Answer with ``rest()`` when what is waited for has come, or after some seconds."""
    parking = _parking()
    if parking is None or ticket.finished.is_set():
        context().pool.wait(ticket, seconds)
        return rest()
    parking.ticket, parking.seconds, parking.rest = ticket, seconds, rest
    return Response(status=202)


def result_later(job: Job, rest: Callable[[Result], Answer], *, affinity: str, person: str = "") -> Answer:
    """Have a job done, and answer with ``rest(result)``; ``result()`` returns what it gave, or raises its error."""
    pool = context().pool
    ticket = pool.submit(job, affinity=affinity, person=person or asker(), priority=SOON)
    return answer_later(ticket, pool.patience, lambda: rest(lambda: pool.result_of(ticket)))


def install_parking(app: Flask) -> None:
    """Go on with parked requests. To be installed after what decides whether a request is let in."""

    @app.before_request
    def go_on() -> Answer | None:
        parking = _parking()
        if parking is None or not parking.resumed or parking.rest is None:
            return None
        rest, parking.rest, parking.resumed = parking.rest, None, False
        return rest()


def _parking() -> Parking | None:
    found: Parking | None = request.environ.get("asgi.scope", {}).get(SLOT)
    return found
