"""Jobs of the page that the workers of a cluster do when evaluators are full: how they travel, and what comes back."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from reticula.core.graph.nesting.stored_shapes import named_in
from reticula.workers.buffers import BufferFiles
from reticula.workers.tasks import Job

if TYPE_CHECKING:
    from reticula.many.cluster import Cluster
    from reticula.many.contents import Contents

__all__ = ["PageJob", "arrived", "done_by", "sent"]

Shapes = Mapping[str, tuple[str, str]]


@dataclass(frozen=True)
class PageJob:
    """Travels to a worker: a job whose shapes are named by contents in place of paths. ``name`` is its own, by which it
    is stopped.
    """

    job: Job
    name: str


def _with_shapes(job: Job, place: Callable[[str], str]) -> Job:
    """Return a job, and the earlier moments in it, with other places of the shapes that it names."""
    named = named_in(job.shapes, job.document, job.library, job.dials)
    shapes = {name: (place(path), digest) for name, (path, digest) in named.items()}
    moments = {revision: _with_shapes(one, place) for revision, one in job.moments.items()}
    return replace(job, shapes=shapes, moments=moments)


def sent(job: Job, name: str, contents: Contents) -> PageJob:
    """Put the shapes of a job where workers find them."""
    return PageJob(_with_shapes(job, contents.put_file), name)


def arrived(page_job: PageJob, contents: Contents) -> Job:
    """Return the job as it is done here, its shapes fetched."""
    return _with_shapes(page_job.job, lambda content: str(contents.local(content)))


def done_by(
    cluster: Cluster, job: Job, name: str, buffers: BufferFiles, should_stop: Callable[[], bool]
) -> dict[str, Any]:
    """Have a worker do a job and return its outcome: ``result``, or the ``error``.

    Arrays for the page are fetched into ``buffers``. Raises Unreachable as the cluster does.
    """
    outcome = cluster.one(sent(job, name, cluster.contents), should_stop, stop=name)
    if outcome["state"] != "done":
        return {"error": outcome["error"]}
    for digest, place in outcome["buffers"].items():
        if buffers.path(digest).exists():
            cluster.contents.remove(place)
        else:
            cluster.contents.take(place, buffers.path(digest))
    return {"result": outcome["result"]}


class NotedBuffers(BufferFiles):
    """Arrays for the page that one job keeps, to be sent after it."""

    def __init__(self, folder: Path) -> None:
        super().__init__(folder)
        self._noted: set[str] = set()

    def keep(self, array: Any) -> Any:
        """Keep an array and return how to fetch it."""
        made = super().keep(array)
        self._noted.add(made["digest"])
        return made

    def hand_over(self, contents: Contents) -> dict[str, str]:
        """Put what was noted where who asked can take it: places by digest."""
        places = {}
        for digest in self._noted:
            with suppress(FileNotFoundError):
                places[digest] = contents.give(self.path(digest))[1]
        self.forget()
        return places

    def forget(self) -> None:
        """Note anew."""
        self._noted.clear()
