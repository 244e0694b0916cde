"""What a cluster does for the evaluators of a service: parts of their loops, and jobs when all of them are at work."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Mapping, Sequence
from pathlib import Path
from queue import Empty, SimpleQueue
from typing import Any

from reticula.core.errors import ReticulaError, Stopped, Unreachable
from reticula.many.loop_part import made_by
from reticula.many.page_job import done_by
from reticula.many.shared_cluster import SharedCluster
from reticula.workers.buffers import BufferFiles
from reticula.workers.figures import OVERFLOWED, TOOK, WAITED
from reticula.workers.tickets import Ticket
from reticula.workers.waiting import Waiting

__all__ = ["LoopErrand", "Overflow"]

log = logging.getLogger(__name__)
FULL_SECONDS = 1.0
"""How long a job waits for an evaluator before the cluster takes it."""
PAUSE = 30.0
"""Seconds for which a cluster that could not be reached is left alone."""


class LoopErrand:
    """Parts of a loop that an evaluator asked for. See :class:`reticula.workers.spreading.Errand`."""

    def __init__(
        self, cluster: SharedCluster, shared: Path, bundles: Sequence[Path], shapes: Mapping[str, tuple[str, str]]
    ) -> None:
        self._cluster = cluster
        self._came: SimpleQueue[tuple[int, dict[str, Any]]] = SimpleQueue()
        self._wanted = True
        given = (shared, bundles, {name: Path(path) for name, (path, _) in shapes.items()})
        threading.Thread(target=self._run, args=given, name="parts of a loop", daemon=True).start()

    def answers(self) -> list[tuple[int, dict[str, Any]]]:
        """Return what came since it was last asked."""
        found = []
        try:
            while True:
                found.append(self._came.get_nowait())
        except Empty:
            return found

    def stop(self) -> None:
        """Hand nothing more out."""
        self._wanted = False

    def _run(self, shared: Path, bundles: Sequence[Path], shapes: Mapping[str, Path]) -> None:
        try:
            with self._cluster.ready(hurry=True) as cluster:
                for answer in made_by(cluster, shared, bundles, shapes, lambda: not self._wanted):
                    self._came.put(answer)
        except ReticulaError as error:
            self._came.put((-1, {"gone": str(error)}))
        except Exception as error:
            if self._wanted:
                log.exception("parts of a loop could not be made")
            self._came.put((-1, {"gone": f"{type(error).__name__}: {error}"}))


class Overflow:
    """Takes jobs of the page that wait since all evaluators are at work, and has the cluster do them."""

    def __init__(self, cluster: SharedCluster, waiting: Waiting, buffers: BufferFiles) -> None:
        self.cluster, self.waiting, self.buffers = cluster, waiting, buffers
        self._at_work, self._size = 0, 1
        self._changed = threading.Condition()
        self._closed = threading.Event()
        self._not_before = 0.0
        threading.Thread(target=self._watch, name="overflow", daemon=True).start()

    def close(self) -> None:
        """Take nothing more."""
        self._closed.set()

    def _watch(self) -> None:
        """Take as many at a time as there are workers: what waits for them would be done sooner here."""
        while not self._closed.is_set() and not self.waiting.closed:
            if time.monotonic() < self._not_before:
                self._closed.wait(1.0)
                continue
            with self._changed:
                if not self._changed.wait_for(lambda: self._at_work < self._size, 1.0):
                    continue
            ticket = self.waiting.take_overflow(FULL_SECONDS, 1.0)
            if ticket is not None:
                with self._changed:
                    self._at_work += 1
                OVERFLOWED.inc()
                threading.Thread(target=self._do, args=(ticket,), name="a job on the cluster", daemon=True).start()

    def _do(self, ticket: Ticket) -> None:
        ticket.state, ticket.began = "running", time.monotonic()
        WAITED.labels(str(ticket.priority)).observe(ticket.began - ticket.asked)
        try:
            with self.cluster.ready() as cluster:
                self._size = cluster.size
                outcome = done_by(cluster, ticket.job, ticket.id, self.buffers, lambda: ticket.stop_wanted)
            if "result" in outcome:
                TOOK.labels(ticket.job.what).observe(time.monotonic() - ticket.began)
                ticket.end("done", result=outcome["result"])
            else:
                ticket.end("failed", error=outcome["error"])
        except Stopped:
            ticket.supersede()
        except Exception as error:
            if not isinstance(error, Unreachable):
                log.exception("a job could not be done on the cluster")
            log.warning("the cluster cannot help; evaluators do the rest")
            self._not_before = time.monotonic() + PAUSE
            ticket.state, ticket.began = "waiting", 0.0
            self.waiting.put(ticket, again=True)
        finally:
            with self._changed:
                self._at_work -= 1
                self._changed.notify_all()
