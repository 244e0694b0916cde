"""The body of an evaluator process: jobs come in over a pipe, progress and answers go out."""

from __future__ import annotations

import contextlib
import ctypes
import logging
import os
import resource
import signal
import traceback
from collections.abc import Callable
from multiprocessing.connection import Connection
from multiprocessing.synchronize import Event
from pathlib import Path
from typing import Any

from reticula.core.context import using
from reticula.core.errors import ReticulaError
from reticula.core.memory import freed_bytes, give_back, keep_freed_memory
from reticula.core.precompile import precompile
from reticula.workers.buffers import BufferFiles
from reticula.workers.spreading import SpreadOverLink
from reticula.workers.tasks import Job, Worker
from reticula.workers.tickets import Limits

__all__ = ["failure_of", "limit_memory", "serve"]

log = logging.getLogger(__name__)
QUIET = 3.0
"""Seconds without a job after which memory that is free goes back to the system."""
MOST_FREED = 512 * 1024**2
"""More free bytes than this go back at once."""


def serve(link: Connection, stop_flag: Event, folder: str, limits: Limits, parent: int) -> None:
    """Do jobs until the pipe ends; whatever goes wrong with one of them is its answer."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    _die_with_parent(parent)
    limit_memory(limits.memory_bytes)
    keep_freed_memory()
    _log_over(link)
    worker = Worker(BufferFiles(Path(folder)), limits.cache_bytes)
    precompile()
    link.send(("ready", None))
    while True:
        try:
            job: Job = link.recv()
        except (EOFError, OSError):
            return
        except Exception as error:
            _answer(link, ("failed", _unexpected(error)))
            continue
        _answer(link, _done(worker, job, link, stop_flag))
        del job
        if freed_bytes() > MOST_FREED or not link.poll(QUIET):
            give_back()


def _done(worker: Worker, job: Job, link: Connection, stop_flag: Event) -> tuple[str, Any]:
    try:
        with using(spread=SpreadOverLink(link, worker.buffers.folder, stop_flag.is_set, job.shapes)):
            return "done", worker.do(job, _progress(link), stop_flag.is_set)
    except Exception as error:
        return "failed", failure_of(error)


def failure_of(error: Exception) -> dict[str, Any]:
    """Return why a job failed, as plain data; to be called where the error is handled."""
    if isinstance(error, ReticulaError):
        return error.details()
    if isinstance(error, MemoryError):
        return {"code": "limit", "message": "there is not enough memory for this; make fewer elements"}
    if isinstance(error, RecursionError):
        return {"code": "limit", "message": "this is nested too deeply; make it flatter"}
    log.exception("a job failed")
    return _unexpected(error)


def _answer(link: Connection, answer: tuple[str, Any]) -> None:
    """Send an answer; one that cannot be sent is said instead."""
    try:
        link.send(answer)
    except OSError:
        return
    except Exception as error:
        log.exception("an answer could not be sent")
        with contextlib.suppress(OSError):
            link.send(("failed", _unexpected(error)))


class _OverLink(logging.Handler):
    """Sends what is logged to the service, without what exceptions say: that may quote a document."""

    def __init__(self, link: Connection) -> None:
        super().__init__()
        self._link = link

    def emit(self, record: logging.LogRecord) -> None:
        told = {"name": record.name, "levelno": record.levelno, "levelname": record.levelname}
        trace = record.exc_info[1].__traceback__ if record.exc_info and record.exc_info[1] else None
        places = [f"{Path(at.filename).name}:{at.lineno} {at.name}" for at in reversed(traceback.extract_tb(trace))]
        kind = record.exc_info[0].__name__ if record.exc_info and record.exc_info[0] else ""
        text = f"{kind} at {' < '.join(places)}" if kind else None
        with contextlib.suppress(OSError):
            self._link.send(("log", {**told, "msg": record.getMessage(), "created": record.created, "exc_text": text}))


def _log_over(link: Connection) -> None:
    root = logging.getLogger()
    root.handlers[:] = [_OverLink(link)]
    root.setLevel(logging.WARNING)


def _unexpected(error: Exception) -> dict[str, Any]:
    return {"code": "internal", "message": f"this should not happen: {type(error).__name__}: {str(error)[:500]}"}


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


def limit_memory(most: int) -> None:
    """Let this process have no more memory than ``most`` bytes of addresses."""
    _, hard = resource.getrlimit(resource.RLIMIT_AS)
    resource.setrlimit(resource.RLIMIT_AS, (most if hard < 0 else min(most, hard), hard))
