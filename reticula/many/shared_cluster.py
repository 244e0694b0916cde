"""One cluster for all who need workers: started when it is first needed, and kept for a while."""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING, Any

from reticula.core.errors import ReticulaError, Unreachable

if TYPE_CHECKING:
    from reticula.many.cluster import Cluster

__all__ = ["SharedCluster", "begun"]

IDLE_SECONDS = 120.0
"""How long workers that have nothing to do are kept."""
PAUSE = 30.0
"""Seconds for which those in a hurry do without a cluster that could not be had."""


def begun(address: str = "", *, store: str = "", **how: Any) -> Cluster:
    """Begin a :class:`~reticula.many.cluster.Cluster`; ``RETICULA_CLUSTER`` and ``RETICULA_STORE`` in the environment
    stand for address and store if they are not given.

    Raises Unreachable if it cannot be had: Dask is not installed, no scheduler answers, or its workers have another
    release.
    """
    try:
        from reticula.many.cluster import Cluster as Made  # takes a second to load
    except ImportError as error:
        text = f"this needs Dask ({error.name}): pip install 'reticula[many]', and start again"
        raise Unreachable(text) from None
    address = address or os.environ.get("RETICULA_CLUSTER", "")
    return Made(address, store=store or os.environ.get("RETICULA_STORE", ""), **how)


class SharedCluster:
    """Workers that several use: begun by ``begin`` when they are first needed."""

    def __init__(self, begin: Callable[[], Cluster]) -> None:
        self._begin = begin
        self._cluster: Cluster | None = None
        self._lock = threading.Lock()
        self._users = 0
        self._idle: threading.Timer | None = None
        self._closed = False
        self._trouble, self._since = "", 0.0

    @contextmanager
    def ready(self, *, hurry: bool = False) -> Iterator[Cluster]:
        """Give the workers, started if they are not there; in a ``hurry`` not if that went wrong a moment ago.

        Raises Unreachable if they cannot be had.
        """
        with self._lock:
            if self._idle:
                self._idle.cancel()
            if self._cluster is None:
                if hurry and self._trouble and time.monotonic() - self._since < PAUSE:
                    raise Unreachable(self._trouble)
                self._cluster = self._started()
            self._users += 1
            cluster = self._cluster
        try:
            yield cluster
        except Exception as error:
            if not isinstance(error, ReticulaError) or isinstance(error, Unreachable):
                with self._lock:
                    self._drop(cluster)  # the next one who needs workers gets new ones
            raise
        finally:
            with self._lock:
                self._users -= 1
                if not self._users and not self._closed:
                    self._idle = threading.Timer(IDLE_SECONDS, self._rest)
                    self._idle.daemon = True
                    self._idle.start()

    def close(self) -> None:
        """End the workers, whoever uses them."""
        with self._lock:
            self._closed = True
            if self._idle:
                self._idle.cancel()
            self._drop(self._cluster)

    def _started(self) -> Cluster:
        if self._closed:
            raise Unreachable("the workers were ended")
        self._trouble = ""
        try:
            return self._begin()
        except Unreachable as error:
            self._trouble, self._since = str(error), time.monotonic()
            raise

    def _rest(self) -> None:
        with self._lock:
            if not self._users:
                self._drop(self._cluster)

    def _drop(self, cluster: Cluster | None) -> None:
        if cluster is not None and cluster is self._cluster:
            self._cluster = None
            cluster.__exit__(None, None, None)
