"""Workers that make parts: those of a cluster that runs already, or of this machine for as long as they are needed.

Dask distributed hands the parts out, tries those of a worker that died elsewhere, and says what a worker's death cost.
"""

from __future__ import annotations

import logging
import os
import tempfile
import threading
from collections.abc import Callable, Iterable, Iterator
from contextlib import ExitStack
from pathlib import Path
from types import TracebackType
from typing import Any, TypeVar

import dask
from distributed import CancelledError, Client, Event, LocalCluster, as_completed
from distributed.scheduler import KilledWorker
from distributed.security import Security

from reticula.core.errors import Stopped, Unreachable
from reticula.many.contents import Contents
from reticula.many.part import Outcome
from reticula.many.worker import Ready, Work, do
from reticula.workers.tickets import Limits

__all__ = ["Cluster", "ClusterError"]

PATIENCE = 20.0
"""Seconds for which a scheduler is waited for."""
AT_ONCE = 16
"""Parts per worker that are with the scheduler: enough for no worker to wait, few enough to stop soon."""
COMING_BACK = "1 day"
"""How long a worker whose process died may take to start again. After Dask's 15 s, too few on a busy machine, it
would be given up, and with the last one all parts would wait for ever.
"""
ASK_EVERY = 0.1
"""Seconds after which it is asked again whether work that is waited for is still wanted."""
TRIES = 2
"""How many workers a part may end before it is to blame itself."""
BLAMED: Outcome = {
    "state": "failed",
    "error": {
        "code": "crashed",
        "message": "it ended every worker that tried it; give it more memory",
    },
}
Given = TypeVar("Given", bound=Work)


class ClusterError(Unreachable):
    """The scheduler cannot be reached, its workers are of another release, or it went away."""


class Cluster:
    """Makes parts on a cluster; a context manager.

    Parameters
    ----------
    address : str
        Where a scheduler listens, ``tcp://…`` or ``tls://…``; empty: workers of this machine are started.
    workers : int, optional
        How many of this machine; one per core if not given.
    store : str
        Where contents travel, see :class:`reticula.many.contents.Contents`; of workers of this machine a folder that is
        gone afterwards, if not given.
    limits : Limits
        What one part may use.
    aside : bool
        Whether workers of this machine give way to all else that runs on it.
    threads : int, optional
        How many threads the kernels of each worker of this machine use; its share of the cores if not given.

    Raises ClusterError if the cluster cannot be reached or has another release, and if a ``store`` is missing.
    """

    def __init__(
        self,
        address: str = "",
        *,
        workers: int | None = None,
        store: str = "",
        limits: Limits | None = None,
        aside: bool = False,
        threads: int | None = None,
    ) -> None:
        if address and not store:
            raise ClusterError(
                "say where meshes travel to workers of other machines: --store, a folder that all of them see, or "
                "s3://bucket/folder"
            )
        self.limits = limits or Limits()
        with ExitStack() as held:
            folder = Path(held.enter_context(tempfile.TemporaryDirectory(prefix="reticula-many-")))
            self.store = store or folder.joinpath("contents").as_uri()
            self.contents = Contents(self.store, folder / "fetched")
            try:
                self.client: Any = held.enter_context(_client(address, workers, threads, folder, held))
                self.client.register_plugin(Ready(self.store, self.limits, ours=not address, aside=aside))
            except RuntimeError as error:
                raise ClusterError(str(error)) from None
            except (OSError, TimeoutError) as error:
                raise ClusterError(f"no scheduler answers at {address or 'this machine'}: {error}") from None
            self._held = held.pop_all()

    def __enter__(self) -> Cluster:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._held.close()

    @property
    def size(self) -> int:
        """How many parts are made at a time."""
        return max(sum(self.client.nthreads().values()), 1)

    def one(self, work: Work, should_stop: Callable[[], bool], *, stop: str) -> Outcome:
        """Have one piece of work done, which looks at the event ``stop`` to end early, and return its outcome.

        A worker that dies is tried again elsewhere. Raises Stopped if it is not wanted any more, ClusterError if the
        scheduler goes away.
        """
        future = self.client.submit(do, work, pure=False)
        ended = threading.Event()
        future.add_done_callback(lambda _: ended.set())
        try:
            while not ended.wait(ASK_EVERY):
                if should_stop():
                    Event(stop, client=self.client).set()
                    raise Stopped("stopped before it was finished")
            _, outcome = next(self._fetched([future]))
        except (CancelledError, OSError) as error:
            raise _gone(error) from None
        return dict(BLAMED) if outcome is None else outcome

    def outcomes(
        self, parts: Iterable[Given], should_stop: Callable[[], bool] = lambda: False
    ) -> Iterator[tuple[Given, Outcome]]:
        """Yield each part with what became of it, in the order in which they end.

        A part whose worker died is made elsewhere; one that ended several workers is made again by itself at the end,
        and has failed if that ends one more. Raises ClusterError if the scheduler goes away; what was yielded stays.
        """
        alone: list[Given] = []
        yield from self._each(iter(parts), AT_ONCE * self.size, alone, should_stop)
        blamed: list[Given] = []
        for part in alone:
            yield from self._each(iter([part]), 1, blamed, should_stop)
        for part in blamed:
            yield part, dict(BLAMED)

    def _each(
        self, parts: Iterator[Given], at_once: int, deadly: list[Given], should_stop: Callable[[], bool]
    ) -> Iterator[tuple[Given, Outcome]]:
        flying: dict[Any, Given] = {}
        ended = as_completed(loop=self.client.loop)

        def fill() -> None:
            while len(flying) < at_once and not should_stop():
                part = next(parts, None)
                if part is None:
                    return
                future = self.client.submit(do, part, pure=False)
                flying[future] = part
                ended.add(future)

        fill()
        while flying:
            for future, outcome in self._fetched(ended.next_batch()):
                part = flying.pop(future)
                future.release()
                if outcome is None:
                    deadly.append(part)
                else:
                    yield part, outcome
            if should_stop():
                self.client.cancel(list(flying))
                return
            fill()

    def _fetched(self, futures: list[Any]) -> Iterator[tuple[Any, Outcome | None]]:
        """Yield the futures with what became of their parts; those whose worker died with the result are awaited.

        A future's status tells nothing here: it changes while the result is made once more elsewhere.
        """
        try:
            results = self.client.gather(dict(enumerate(futures)), errors="skip")
        except (CancelledError, OSError) as error:
            raise _gone(error) from None
        for number, future in enumerate(futures):
            result = results.get(number)
            yield future, _failure(future) if result is None else dict(result)


def _failure(future: Any) -> Outcome | None:
    """Return how a part failed, None if it ended its workers; raise ClusterError if nobody knows any more."""
    if future.status != "error":
        raise _gone(future.status)
    raised = future.exception()
    if isinstance(raised, KilledWorker):
        return None
    return {"state": "failed", "error": {"code": "internal", "message": f"{type(raised).__name__}: {raised}"}}


def _gone(why: object) -> ClusterError:
    return ClusterError(f"the scheduler went away ({why}); start again, what is done is kept")


def _client(address: str, workers: int | None, threads: int | None, folder: Path, held: ExitStack) -> Any:
    if address:
        return Client(address, timeout=PATIENCE, set_as_default=False)
    count = workers or os.cpu_count() or 1
    each = str(threads or max((os.cpu_count() or 1) // count, 1))
    # Set for good: Dask reads it when a worker dies, in a thread of its own.
    dask.config.set({"distributed.scheduler.allowed-failures": TRIES - 1})
    dask.config.set({"distributed.deploy.lost-worker-timeout": COMING_BACK})
    cluster = held.enter_context(
        LocalCluster(
            n_workers=count,
            threads_per_worker=1,
            memory_limit=0,  # each worker sets its own, as evaluators do
            dashboard_address="127.0.0.1:0",
            scheduler_kwargs={"dashboard": False},
            host="127.0.0.1",
            protocol="tls://",
            security=Security.temporary(),  # nobody else on this machine can give it work
            local_directory=str(folder),
            silence_logs=logging.ERROR,
            env={"NUMBA_NUM_THREADS": each, "OMP_NUM_THREADS": each},
        )
    )
    return Client(cluster, set_as_default=False)
