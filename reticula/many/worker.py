"""What runs in each worker of the cluster: it gets ready once, then does one piece of work after the other."""

from __future__ import annotations

import json
import os
import platform
import signal
import threading
import time
from collections.abc import Callable, Mapping
from contextlib import suppress
from functools import lru_cache
from pathlib import Path
from typing import Any
from uuid import uuid4

from distributed import Event
from distributed.diagnostics.plugin import WorkerPlugin

from reticula import __version__
from reticula.core.graph.editing.values import with_values
from reticula.core.graph.evaluation.array_files import ArrayFile, read_arrays
from reticula.core.graph.evaluation.bundles import Shared
from reticula.core.graph.evaluation.run_bundle import run_bundle
from reticula.core.memory import keep_freed_memory
from reticula.core.precompile import precompile
from reticula.many.contents import Contents
from reticula.many.loop_part import LoopPart
from reticula.many.page_job import NotedBuffers, PageJob, arrived
from reticula.many.part import Outcome, Part
from reticula.workers.evaluator_process import failure_of, limit_memory
from reticula.workers.tasks import Job, StoredShapes, Worker
from reticula.workers.tickets import Limits

__all__ = ["ENDED", "Ready", "Work", "do"]

Work = Part | LoopPart | PageJob
"""What a worker does: a part of what is made many times, parts of a loop, or a job of the page."""

GRACE = 10.0
"""Seconds after its limit at which a part that does not stop ends the process."""
ENDED = 75
"""What such a process ends with."""
KEPT_GRAPHS, KEPT_SHARED = 16, 4
LOOK_EVERY = 0.5
"""Seconds after which it is asked again whether a job of the page is still wanted."""
NICE = 10

_at: dict[str, Any] = {}
"""This process's worker and its contents, once it is ready."""


class Ready(WorkerPlugin):
    """Gets a worker ready: checks that it is of our release, sets its limits and loads its kernels.

    One that is ``ours`` leaves Ctrl-C to the program that started it, and goes ``aside`` for others if it is to.
    """

    name = "reticula"

    def __init__(self, store: str, limits: Limits, *, ours: bool = False, aside: bool = False) -> None:
        self.store, self.limits, self.ours, self.release = store, limits, ours, _release()
        self.aside = ours and aside

    def setup(self, worker: Any) -> None:
        """Called by Dask in every worker, those that come later too; refuses by an error in words."""
        if _release() != self.release:
            raise RuntimeError(
                f"this worker has {_release()}, and who asks has {self.release}; install one release everywhere"
            )
        if self.ours:
            signal.signal(signal.SIGINT, signal.SIG_IGN)
        if self.aside:
            os.nice(NICE)
        folder = Path(worker.local_directory) / "reticula"  # Dask deletes it when the worker ends
        limit_memory(self.limits.memory_bytes)
        keep_freed_memory()
        _at["contents"] = Contents(self.store, folder / "contents")
        _at["worker"] = Worker(NotedBuffers(folder / "buffers"), self.limits.cache_bytes)
        _at["limits"] = self.limits
        precompile()


def _release() -> str:
    return f"Reticula {__version__} on Python {'.'.join(platform.python_version_tuple()[:2])}"


def do(work: Work) -> Outcome:
    """Do some work; what goes wrong with it is its outcome."""
    limits: Limits = _at["limits"]
    began, end = time.monotonic(), time.monotonic() + limits.seconds
    guard = threading.Timer(limits.seconds + GRACE, os._exit, (ENDED,))
    guard.daemon = True
    guard.start()
    _forget_peak()
    try:
        told = {**_DO[type(work)](work, lambda: time.monotonic() > end), "state": "done"}
    except Exception as error:
        told = {"state": "failed", "error": _words(failure_of(error), limits)}
    finally:
        guard.cancel()
    return {**told, "took": time.monotonic() - began, "memory": _peak(), "worker": f"{platform.node()}:{os.getpid()}"}


def _make(part: Part, should_stop: Callable[[], bool]) -> Outcome:
    """Make a part of what is made many times."""
    contents: Contents = _at["contents"]
    graph = _graph(part.graph)
    document, dials = with_values(graph["document"], part.values)
    job = Job(
        "make",
        document,
        shapes=_fetched(part.shapes),
        node=part.node,
        targets=[part.node],
        file_name=part.file_name,
        frame=part.frame,
        library=graph["library"],
        about={"numbers": dict(part.numbers), "drawn": part.drawn},
        dials=dials,
        inputs=dict(part.inputs),
    )
    told = _at["worker"].do(job, lambda *_: None, should_stop)
    paths = told.pop("paths")
    told.update(_handed_over(paths.get("file"), contents))
    told["drawn"] = _handed_over(paths.get("drawn"), contents)
    return dict(told)


def _run_loop(part: LoopPart, should_stop: Callable[[], bool]) -> Outcome:
    """Run a bundle of parts of a loop."""
    contents: Contents = _at["contents"]
    worker: Worker = _at["worker"]
    shapes = StoredShapes(_fetched(part.shapes), worker.kept)
    bundle = contents.local(part.bundle)
    made = run_bundle(worker.evaluator.store, _shared(part.shared), read_arrays(bundle), shapes, should_stop)
    bundle.unlink(missing_ok=True)
    path = worker.buffers.folder / f"made-{uuid4().hex}"
    ArrayFile.of(made).write(path)
    return _handed_over(str(path), contents)


def _evaluate(page_job: PageJob, should_stop: Callable[[], bool]) -> Outcome:
    """Do a job of the page."""
    contents: Contents = _at["contents"]
    worker: Worker = _at["worker"]
    noted = worker.buffers
    assert isinstance(noted, NotedBuffers)
    noted.forget()  # what a job kept that failed
    stop = Event(page_job.name)
    looked = time.monotonic()

    def unwanted() -> bool:
        nonlocal looked
        if time.monotonic() - looked < LOOK_EVERY:
            return should_stop()
        looked = time.monotonic()
        return should_stop() or bool(stop.is_set())

    try:
        result = worker.do(arrived(page_job, contents), lambda *_: None, unwanted)
    finally:
        stop.clear()  # else the scheduler keeps it
    return {"result": result, "buffers": noted.hand_over(contents)}


_DO: dict[type, Callable[[Any, Callable[[], bool]], Outcome]] = {
    Part: _make,
    LoopPart: _run_loop,
    PageJob: _evaluate,
}


def _fetched(shapes: Mapping[str, str]) -> dict[str, tuple[str, str]]:
    """Return where the shapes that contents name are here, fetched if they were not."""
    contents: Contents = _at["contents"]
    return {name: (str(contents.local(content)), content) for name, content in shapes.items()}


@lru_cache(maxsize=KEPT_SHARED)
def _shared(content: str) -> Shared:
    found: Shared = read_arrays(_at["contents"].local(content))
    return found


@lru_cache(maxsize=KEPT_GRAPHS)
def _graph(content: str) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(_at["contents"].read(content))
    return found


def _handed_over(path: str | None, contents: Contents) -> dict[str, Any]:
    """Put the file that was written where who asked can fetch it."""
    if path is None:
        return {"content": None, "place": None, "size": 0}
    try:
        size = Path(path).stat().st_size
        content, place = contents.give(Path(path))
        return {"content": content, "place": place, "size": size}
    finally:
        Path(path).unlink(missing_ok=True)


def _words(error: dict[str, Any], limits: Limits) -> dict[str, Any]:
    if error.get("code") == "stopped":
        text = f"took longer than {limits.seconds:g} s and was stopped; make fewer elements, or give it more time"
        return {"code": "limit", "message": text}
    return error


def _forget_peak() -> None:
    """Have the system count this process's peak of memory anew (proc(5), /proc/pid/clear_refs)."""
    with suppress(OSError):
        Path("/proc/self/clear_refs").write_text("5")


def _peak() -> int:
    """Return the most memory in bytes that was held since; 0 where the system does not say."""
    with suppress(OSError, ValueError):
        for line in Path("/proc/self/status").read_text().splitlines():
            if line.startswith("VmHWM:"):
                return int(line.split()[1]) * 1024
    return 0
