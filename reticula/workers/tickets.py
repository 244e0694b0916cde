"""Jobs on their way: tickets, what a job may use, and the errors it may end with."""

from __future__ import annotations

import secrets
import time
from dataclasses import dataclass, field
from multiprocessing.reduction import ForkingPickler
from typing import Any

from reticula.core.errors import ReticulaError
from reticula.workers.ending import Ending
from reticula.workers.figures import JOBS
from reticula.workers.tasks import Job

__all__ = ["FIRST", "LAST", "SOON", "Busy", "JobError", "Limits", "Ticket", "packed"]

FIRST, SOON, LAST = 0, 1, 2
"""Priorities: what is dragged or looked at, what was asked for, what is done in the background."""


@dataclass(frozen=True)
class Limits:
    """What one job may use: seconds of time and bytes of memory; ``cache_bytes`` is kept between jobs."""

    seconds: float = 120.0
    memory_bytes: int = 8 * 1024**3
    cache_bytes: int = 2 * 1024**3


@dataclass(eq=False)
class Ticket(Ending):
    """A job on its way. ``state`` is waiting, running, done, failed or stopped.

    ``affinity`` names what its evaluator should know already, ``person`` whose turn it takes; ``data`` is the job as it
    is passed on. ``put_back`` asks for it to be done later, since something more urgent came; ``tried`` says
    that a process ended while it was at this.
    """

    job: Job
    channel: str = ""
    affinity: str = ""
    person: str = ""
    priority: int = FIRST
    data: bytes = b""
    id: str = field(default_factory=lambda: secrets.token_hex(8))
    state: str = "waiting"
    progress: tuple[int, int, str] = (0, 0, "")
    result: dict[str, Any] | None = None
    error: dict[str, Any] | None = None
    began: float = 0.0
    finished_at: float = 0.0
    stop_wanted: bool = False
    put_back: bool = False
    tried: bool = False
    asked: float = field(default_factory=time.monotonic)

    def __post_init__(self) -> None:
        super().__init__()

    def end(self, state: str, *, result: dict[str, Any] | None = None, error: dict[str, Any] | None = None) -> None:
        self.state, self.result, self.error = state, result, error
        self.finished_at = time.monotonic()
        self.data = b""
        JOBS.labels(self.job.what, state).inc()
        self.wake_all()

    def supersede(self) -> None:
        """End it before it began."""
        self.end("stopped", error={"code": "stopped", "message": "superseded by a newer edit"})


class JobError(ReticulaError):
    """A job failed in an evaluator process; carries the error's details."""

    def __init__(self, details: dict[str, Any]) -> None:
        super().__init__(details.get("message", "failed"))
        self.code = str(details.get("code", "error"))
        self._details = details

    def details(self) -> dict[str, Any]:
        return self._details


class Busy(JobError):
    """There is more to do than can be done; ``seconds`` says when to ask again."""

    def __init__(self, message: str, seconds: int) -> None:
        super().__init__({"code": "busy", "message": message})
        self.seconds = seconds


def packed(job: Job) -> bytes:
    """Return a job as it is passed to an evaluator; raise JobError if it cannot be passed."""
    try:
        return bytes(ForkingPickler.dumps(job))
    except RecursionError:
        raise JobError({"code": "limit", "message": "this is nested too deeply; make it flatter"}) from None
    except Exception as error:
        text = f"this cannot be passed to an evaluator: {type(error).__name__}"
        raise JobError({"code": "limit", "message": text}) from None
