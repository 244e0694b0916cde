"""One evaluator process, watched by a thread that hands it jobs, keeps its time and starts it again."""

from __future__ import annotations

import contextlib
import logging
import multiprocessing
import os
import resource
import threading
import time
from multiprocessing.connection import Connection
from multiprocessing.synchronize import Event
from pathlib import Path
from typing import Any

from reticula.workers.buffers import BufferFiles
from reticula.workers.evaluator_process import serve
from reticula.workers.figures import NODES, REPLACED, TOOK, WAITED
from reticula.workers.spreading import Away, Spreader
from reticula.workers.tickets import Limits, Ticket
from reticula.workers.waiting import Waiting

__all__ = ["Seat", "resident_bytes"]

log = logging.getLogger(__name__)
GRACE = 1.5
READY_SECONDS = 300.0
PAUSE = 1.0
ROOM = 1024**3
"""Bytes that an evaluator may hold besides its cache: programs, libraries, compiled code and what a job left."""


def resident_bytes(pid: int) -> int:
    """Return how much memory a process holds; 0 if that cannot be told."""
    try:
        pages = int(Path(f"/proc/{pid}/statm").read_text().split()[1])
    except (OSError, ValueError, IndexError):
        return 0
    return pages * resource.getpagesize()


def _end(process: Any, link: Connection) -> None:
    with contextlib.suppress(OSError, ValueError, AssertionError):
        process.kill()
        process.join(5)
    with contextlib.suppress(OSError):
        link.close()


class Seat:
    """Takes tickets from those that wait, for as long as it is not closed. Its thread survives every exception."""

    def __init__(
        self,
        number: int,
        waiting: Waiting,
        buffers: BufferFiles,
        limits: Limits,
        spreader: Spreader | None = None,
    ) -> None:
        self.number, self.waiting = number, waiting
        self.buffers, self.limits, self.spreader = buffers, limits, spreader
        self.current: Ticket | None = None
        self.ready = False
        self._closed = False
        self._heir: tuple[Any, Connection, Event] | None = None
        self._spawn()
        threading.Thread(target=self._watch, name=f"evaluator-watch-{number}", daemon=True).start()

    def close(self) -> None:
        self._closed = True
        self._kill()
        self._drop_heir()

    def yield_to(self, ticket: Ticket) -> None:
        """Have the job that is done put back if it is less urgent than a ticket that should be done here."""
        now = self.current
        if now is not None and now.priority > ticket.priority and self.waiting.home_of(ticket) == self.number:
            now.put_back = True

    def health(self) -> dict[str, Any]:
        """Say whether the process lives and is ready, and for how long it is at its job."""
        now = self.current
        busy = time.monotonic() - now.began if now is not None and now.began else 0.0
        alive = self.process.is_alive()
        size = resident_bytes(self.process.pid or 0)
        answers = alive and busy < self.limits.seconds + 2.0 * GRACE
        return {
            "pid": self.process.pid,
            "ready": self.ready,
            "answers": answers,
            "busy_seconds": round(busy, 3),
            "bytes": size,
        }

    def _spawn(self) -> None:
        self._drop_heir()
        self.process, self.link, self.stop_flag = self._started()
        self.ready = False

    def _started(self) -> tuple[Any, Connection, Event]:
        context = multiprocessing.get_context("spawn")
        link, theirs = context.Pipe()
        flag: Event = context.Event()
        process = context.Process(
            target=serve, args=(theirs, flag, str(self.buffers.folder), self.limits, os.getpid()), daemon=True
        )
        process.start()
        theirs.close()
        return process, link, flag

    def _hand_over(self) -> None:
        """Between jobs, have another process get ready if this one holds more memory than it may, and let it take over
        as soon as it is: nobody waits for it.
        """
        if self._heir is None:
            if self.ready and resident_bytes(self.process.pid or 0) > self.limits.cache_bytes + ROOM:
                log.warning("an evaluator holds more memory than it may; another one takes over")
                self._heir = self._started()
            return
        process, link, flag = self._heir
        try:
            if not link.poll(0) or link.recv()[0] != "ready":
                return
        except (EOFError, OSError):
            self._drop_heir()
            return
        self._heir = None
        self._kill()
        REPLACED.inc()
        self.process, self.link, self.stop_flag, self.ready = process, link, flag, True

    def _drop_heir(self) -> None:
        if self._heir is not None:
            _end(*self._heir[:2])
            self._heir = None

    def _kill(self) -> None:
        _end(self.process, self.link)

    def _watch(self) -> None:
        while not self._closed and not self.waiting.closed:
            try:
                self._turn()
            except Exception:
                log.exception("the watch over an evaluator goes on after an error")
                time.sleep(PAUSE)

    def _turn(self) -> None:
        """Do the next job, or see after the process while there is none."""
        if not self.process.is_alive() and not self._closed:
            log.warning("an idle evaluator ended; starting another one")
            self._kill()
            self._spawn()
        self._hand_over()
        ticket = self.waiting.take(self.number, 1.0)
        if ticket is None:
            return
        if ticket.stop_wanted:
            ticket.supersede()
            return
        self.current = ticket
        try:
            self._do(ticket)
        except Exception as error:
            log.exception("a job could not be done")
            text = f"the evaluator stopped unexpectedly ({type(error).__name__}); nothing that was saved is lost"
            self._replace(ticket, "failed", "crashed", text)
        finally:
            self.current = None
            if not ticket.finished.is_set() and ticket.state != "waiting":
                ticket.end("failed", error={"code": "crashed", "message": "the evaluator could not do this"})

    def _do(self, ticket: Ticket) -> None:
        if not self._wait_until_ready(ticket):
            return
        self.stop_flag.clear()
        ticket.state, ticket.began = "running", time.monotonic()
        WAITED.labels(str(ticket.priority)).observe(ticket.began - ticket.asked)
        stopping = 0.0
        errand = Away(ticket, self.link, self.spreader)
        try:
            self.link.send_bytes(ticket.data)
            while True:
                errand.pass_on()
                if self.link.poll(0.02):
                    kind, content = self._received()
                    if kind == "progress":
                        ticket.progress = content
                    if kind == "spread":
                        errand.asked(content)
                    if kind in ("progress", "log", "spread"):
                        continue
                    self._finish(ticket, kind, content)
                    return
                now = time.monotonic()
                if (ticket.stop_wanted or ticket.put_back) and not stopping:
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
            if not ticket.tried and not ticket.stop_wanted:
                self._try_again(ticket)
                return
            at = f" at '{ticket.progress[2]}'" if ticket.progress[2] else ""
            text = f"the evaluator stopped unexpectedly{at} and was started again; nothing that was saved is lost"
            self._replace(ticket, "failed", "crashed", text)
        finally:
            errand.end()

    def _received(self) -> tuple[str, Any]:
        """Take the next message of the process; what it logs goes into our log."""
        kind, content = self.link.recv()
        if kind == "log":
            record = logging.makeLogRecord({**content, "evaluator": self.number})
            logging.getLogger(record.name).handle(record)
        return kind, content

    def _finish(self, ticket: Ticket, kind: str, content: Any) -> None:
        if ticket.put_back and not ticket.stop_wanted:
            self._put_back(ticket)
            return
        TOOK.labels(ticket.job.what).observe(time.monotonic() - ticket.began)
        if kind == "done":
            ticket.end("done", result=content)
            for report in content["nodes"].values() if ticket.job.what == "evaluate" else ():
                NODES.labels("cache" if report.get("cached") else "computed").inc()
        else:
            ticket.end("stopped" if content.get("code") == "stopped" else "failed", error=content)

    def _wait_until_ready(self, ticket: Ticket) -> bool:
        """Wait for a new process to load its kernels; that is not the job's time. False if the job ended meanwhile."""
        limit = time.monotonic() + READY_SECONDS
        while not self.ready:
            if ticket.stop_wanted:
                ticket.supersede()
                return False
            try:
                if self.link.poll(0.02):
                    self.ready = self._received()[0] == "ready"
                elif not self.process.is_alive() or time.monotonic() > limit:
                    raise EOFError
            except (EOFError, OSError):
                if self._closed or time.monotonic() > limit:
                    text = "the evaluator could not be started; see the service's log"
                    self._replace(ticket, "failed", "crashed", text)
                    return False
                self._kill()
                self._spawn()
        return True

    def _try_again(self, ticket: Ticket) -> None:
        """Give a job whose process ended to the next free one, once: it may have been ended by something else."""
        log.warning("an evaluator ended at work; its job is done again")
        REPLACED.inc()
        self._kill()
        ticket.tried = True
        self._put_back(ticket)
        if not self._closed:
            self._spawn()

    def _put_back(self, ticket: Ticket) -> None:
        """Have a job wait again."""
        ticket.put_back, ticket.state, ticket.began = False, "waiting", 0.0
        self.waiting.put(ticket, again=True)

    def _replace(self, ticket: Ticket, state: str, code: str, message: str) -> None:
        """End a job whose process is of no use any more, and start another process."""
        log.warning("replacing an evaluator: %s", code)
        REPLACED.inc()
        node = ticket.progress[2] or None
        self._kill()
        if ticket.put_back and not ticket.stop_wanted:
            self._finish(ticket, "stopped", {})
        else:
            ticket.end(state, error={"code": code, "message": message, "node": node})
        if not self._closed:
            self._spawn()
