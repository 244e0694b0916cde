"""The pool: evaluator processes, one queue each, with time and memory limits, stopping and replacement."""

from __future__ import annotations

import contextlib
import ctypes
import logging
import multiprocessing
import os
import resource
import secrets
import signal
import threading
import time
import zlib
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from multiprocessing.synchronize import Event
from pathlib import Path
from typing import Any

from reticula.core.errors import ReticulaError
from reticula.core.precompile import precompile
from reticula.workers.buffers import BufferFiles
from reticula.workers.tasks import Job, Worker

__all__ = ["Limits", "Pool", "Ticket"]

log = logging.getLogger(__name__)
GRACE = 1.5
READY_SECONDS = 300.0
KEEP_FINISHED = 120.0


@dataclass(frozen=True)
class Limits:
    """What one job may use: seconds of time and bytes of memory; ``cache_bytes`` is kept between jobs."""

    seconds: float = 120.0
    memory_bytes: int = 8 * 1024**3
    cache_bytes: int = 2 * 1024**3


@dataclass
class Ticket:
    """A job on its way. ``state`` is waiting, running, done, failed or stopped."""

    job: Job
    channel: str = ""
    id: str = field(default_factory=lambda: secrets.token_hex(8))
    state: str = "waiting"
    progress: tuple[int, int, str] = (0, 0, "")
    result: dict[str, Any] | None = None
    error: dict[str, Any] | None = None
    began: float = 0.0
    finished_at: float = 0.0
    stop_wanted: bool = False
    finished: threading.Event = field(default_factory=threading.Event)

    def end(self, state: str, *, result: dict[str, Any] | None = None, error: dict[str, Any] | None = None) -> None:
        self.state, self.result, self.error = state, result, error
        self.finished_at = time.monotonic()
        self.finished.set()


class Pool:
    """Runs jobs in ``count`` processes. Jobs with the same affinity meet the same process and its warm cache.

    A newer job on a channel supersedes older ones of that channel: they are stopped. A process that crashes, exceeds
    its time or does not stop when asked is killed and replaced; only the job it was at is lost.
    """

    def __init__(self, folder: Path, count: int = 2, limits: Limits | None = None) -> None:
        self.limits = limits or Limits()
        self.buffers = BufferFiles(folder)
        self._tickets: dict[str, Ticket] = {}
        self._lock = threading.Lock()
        self._seats = [_Seat(self.buffers, self.limits) for _ in range(count)]

    def submit(self, job: Job, *, affinity: str = "", channel: str = "") -> Ticket:
        """Queue a job and return its ticket at once."""
        ticket = Ticket(job, channel)
        seat = self._seats[zlib.crc32(affinity.encode()) % len(self._seats)]
        with self._lock:
            self._forget_old()
            if channel:
                for other in self._tickets.values():
                    if other.channel == channel and not other.finished.is_set():
                        other.stop_wanted = True
            self._tickets[ticket.id] = ticket
        seat.put(ticket)
        return ticket

    def run(self, job: Job, *, affinity: str = "", channel: str = "") -> dict[str, Any]:
        """Do a job and wait for it; raise ReticulaError with its error if it fails."""
        ticket = self.submit(job, affinity=affinity, channel=channel)
        ticket.finished.wait()
        if ticket.result is None:
            raise JobError(ticket.error or {"code": "error", "message": "the job failed"})
        return ticket.result

    def find(self, ticket_id: str) -> Ticket | None:
        """Return a ticket, for two minutes after it is finished."""
        return self._tickets.get(ticket_id)

    def stop(self, ticket: Ticket) -> None:
        """Ask a job to stop; it is killed if it does not listen."""
        ticket.stop_wanted = True

    def process_ids(self) -> list[int]:
        """Return the process ids of the evaluators."""
        return [seat.process.pid for seat in self._seats if seat.process.pid]

    def close(self) -> None:
        """End all processes."""
        for seat in self._seats:
            seat.close()

    def _forget_old(self) -> None:
        limit = time.monotonic() - KEEP_FINISHED
        for key in [k for k, t in self._tickets.items() if t.finished.is_set() and t.finished_at < limit]:
            del self._tickets[key]


class JobError(ReticulaError):
    """A job failed in an evaluator process; carries the error's details."""

    def __init__(self, details: dict[str, Any]) -> None:
        super().__init__(details.get("message", "failed"))
        self.code = str(details.get("code", "error"))
        self._details = details

    def details(self) -> dict[str, Any]:
        return self._details


class _Seat:
    """One evaluator process with its queue, watched by a thread."""

    def __init__(self, buffers: BufferFiles, limits: Limits) -> None:
        self.buffers = buffers
        self.limits = limits
        self._queue: deque[Ticket] = deque()
        self._more = threading.Condition()
        self._closed = False
        self._spawn()
        threading.Thread(target=self._watch, name="evaluator-watch", daemon=True).start()

    def put(self, ticket: Ticket) -> None:
        with self._more:
            self._queue.append(ticket)
            self._more.notify()

    def close(self) -> None:
        with self._more:
            self._closed = True
            self._more.notify()
        self._kill()

    def _spawn(self) -> None:
        context = multiprocessing.get_context("spawn")
        self.link, theirs = context.Pipe()
        self.stop_flag: Event = context.Event()
        self.process = context.Process(
            target=_serve,
            args=(theirs, self.stop_flag, str(self.buffers.folder), self.limits, os.getpid()),
            daemon=True,
        )
        self.process.start()
        self.ready = False
        theirs.close()

    def _kill(self) -> None:
        self.process.kill()
        self.process.join(5)
        self.link.close()

    def _watch(self) -> None:
        while True:
            with self._more:
                while not self._queue and not self._closed:
                    self._more.wait(1.0)
                    if not self._queue and not self._closed and not self.process.is_alive():
                        log.warning("an idle evaluator ended; starting another one")
                        self._spawn()
                if self._closed:
                    return
                ticket = self._queue.popleft()
            if ticket.stop_wanted:
                ticket.end("stopped", error={"code": "stopped", "message": "superseded by a newer edit"})
                continue
            self._do(ticket)

    def _do(self, ticket: Ticket) -> None:
        if not self.process.is_alive():
            self._spawn()
        if not self._wait_until_ready(ticket):
            return
        self.stop_flag.clear()
        ticket.state, ticket.began = "running", time.monotonic()
        stopping = 0.0
        try:
            self.link.send(ticket.job)
            while True:
                if self.link.poll(0.02):
                    kind, content = self.link.recv()
                    if kind == "progress":
                        ticket.progress = content
                        continue
                    if kind == "done":
                        ticket.end("done", result=content)
                    else:
                        ticket.end("stopped" if content.get("code") == "stopped" else "failed", error=content)
                    return
                now = time.monotonic()
                if ticket.stop_wanted and not stopping:
                    self.stop_flag.set()
                    stopping = now
                if stopping and now - stopping > GRACE:
                    self._replace(ticket, "stopped", "stopped", "stopped")
                    return
                if now - ticket.began > self.limits.seconds:
                    text = (
                        f"took longer than {self.limits.seconds:g} s at '{ticket.progress[2]}' and was stopped; "
                        "make fewer elements, or give it more time in the settings of the service"
                    )
                    self._replace(ticket, "failed", "limit", text)
                    return
                if not self.process.is_alive() and not self.link.poll(0):
                    raise EOFError
        except (EOFError, OSError):
            at = f" at '{ticket.progress[2]}'" if ticket.progress[2] else ""
            text = f"the evaluator stopped unexpectedly{at} and was started again; nothing that was saved is lost"
            self._replace(ticket, "failed", "crashed", text)

    def _wait_until_ready(self, ticket: Ticket) -> bool:
        """Wait for a new process to load its kernels; that is not the job's time. False if the job ended meanwhile."""
        limit = time.monotonic() + READY_SECONDS
        while not self.ready:
            if ticket.stop_wanted:
                ticket.end("stopped", error={"code": "stopped", "message": "superseded by a newer edit"})
                return False
            try:
                if self.link.poll(0.02):
                    self.ready = self.link.recv()[0] == "ready"
                elif not self.process.is_alive() or time.monotonic() > limit:
                    raise EOFError
            except (EOFError, OSError):
                if self._closed or time.monotonic() > limit:
                    self._replace(
                        ticket, "failed", "crashed", "the evaluator could not be started; see the service's log"
                    )
                    return False
                self._kill()
                self._spawn()
        return True

    def _replace(self, ticket: Ticket, state: str, code: str, message: str) -> None:
        log.warning("replacing an evaluator: %s", message)
        node = ticket.progress[2] or None
        self._kill()
        if not self._closed:
            self._spawn()
        ticket.end(state, error={"code": code, "message": message, "node": node})


def _serve(link: Connection, stop_flag: Event, folder: str, limits: Limits, parent: int) -> None:
    """Body of an evaluator process."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    _die_with_parent(parent)
    _limit_memory(limits.memory_bytes)
    worker = Worker(BufferFiles(Path(folder)), limits.cache_bytes)
    precompile()
    link.send(("ready", None))
    while True:
        try:
            job: Job = link.recv()
        except (EOFError, OSError):
            return
        try:
            answer: tuple[str, Any] = ("done", worker.do(job, _progress(link), stop_flag.is_set))
        except ReticulaError as error:
            answer = ("failed", error.details())
        except MemoryError:
            answer = (
                "failed",
                {"code": "limit", "message": "there is not enough memory for this; make fewer elements"},
            )
        except Exception as error:
            log.exception("a job failed")
            answer = (
                "failed",
                {"code": "internal", "message": f"this should not happen: {type(error).__name__}: {error}"},
            )
        with contextlib.suppress(OSError):
            link.send(answer)


def _progress(link: Connection) -> Callable[[int, int, str], None]:
    def tell(done: int, total: int, node: str) -> None:
        link.send(("progress", (done, total, node)))

    return tell


def _die_with_parent(parent: int) -> None:
    pr_set_pdeathsig = 1
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(pr_set_pdeathsig, signal.SIGKILL)
    if os.getppid() != parent:
        os._exit(0)


def _limit_memory(most: int) -> None:
    _, hard = resource.getrlimit(resource.RLIMIT_AS)
    resource.setrlimit(resource.RLIMIT_AS, (most if hard < 0 else min(most, hard), hard))
