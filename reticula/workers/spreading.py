"""Parts of loops that an evaluator has others run: it asks over its pipe, and files are what is made of them."""

from __future__ import annotations

import time
from collections.abc import Callable, Generator, Iterator, Mapping, Sequence
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, Protocol
from uuid import uuid4

from reticula.core.errors import LimitError, Stopped, Unreachable
from reticula.core.graph.evaluation.array_files import ArrayFile, read_arrays
from reticula.core.graph.evaluation.bundles import Bundle, Made, Shared
from reticula.core.graph.nesting.stored_shapes import named_in
from reticula.workers.tickets import Ticket

__all__ = ["Away", "Errand", "SpreadOverLink", "Spreader", "made_of", "written"]


class Errand(Protocol):
    """What others do for an evaluator."""

    def answers(self) -> list[tuple[int, dict[str, Any]]]:
        """Return what came since it was last asked: by number, the ``path`` of what was made, the ``error``, or, once,
        why nothing more will come (``gone``).
        """
        ...

    def stop(self) -> None:
        """Have nothing more of it done."""
        ...


Spreader = Callable[[Path, Sequence[Path], Mapping[str, tuple[str, str]]], Errand]
"""Begins an errand: a file of what bundles share, their files, and the shapes they name (path, digest)."""


class Away:
    """What others do for the job of an evaluator, as the one sees it that watches over it.

    The time of the job stands still while it waits for them.
    """

    def __init__(self, ticket: Ticket, link: Connection, spreader: Spreader | None) -> None:
        self.ticket, self.link, self.spreader = ticket, link, spreader
        self._errand: Errand | None = None
        self._since = 0.0

    def asked(self, content: tuple[str, list[str], dict[str, tuple[str, str]]] | None) -> None:
        """Begin an errand, or end the one that is not wanted any more, which is answered by None."""
        self.end()
        if content is None:
            self.link.send(None)
        elif self.spreader is None:
            self.link.send((-1, {"gone": "there is none here"}))
        else:
            shared, bundles, shapes = content
            self._errand = self.spreader(Path(shared), [Path(one) for one in bundles], shapes)
            self._since = time.monotonic()

    def pass_on(self) -> None:
        """Tell the evaluator what came."""
        if self._errand is None:
            return
        now = time.monotonic()
        self.ticket.began, self._since = self.ticket.began + now - self._since, now
        for answer in self._errand.answers():
            self.link.send(answer)

    def end(self) -> None:
        """Have nothing more done."""
        if self._errand is not None:
            self._errand.stop()
            self._errand = None


class SpreadOverLink:
    """Asks the service to have parts run. See :class:`reticula.core.context.Spread`."""

    def __init__(
        self,
        link: Connection,
        folder: Path,
        should_stop: Callable[[], bool],
        shapes: Mapping[str, tuple[str, str]] | None = None,
    ) -> None:
        self.link, self.folder, self.should_stop, self.shapes = link, folder, should_stop, shapes or {}

    def run(self, shared: Shared, bundles: Sequence[Bundle]) -> Generator[tuple[int, Made], None, None]:
        """Yield what was made of each bundle, by its number."""
        name = f"parts-{uuid4().hex}"
        try:
            common, paths = written(self.folder / name, shared, bundles)
            shapes = named_in(self.shapes, shared.graph, shared.library, shared.dials)
            self.link.send(("spread", (str(common), [str(path) for path in paths], shapes)))
            try:
                yield from self._answers(len(bundles))
            finally:
                self.link.send(("spread", None))
                while self.link.recv() is not None:
                    pass  # what still came is not wanted
        finally:
            for file in self.folder.glob(f"{name}*"):
                file.unlink(missing_ok=True)

    def _answers(self, wanted: int) -> Iterator[tuple[int, Made]]:
        while wanted:
            if self.should_stop():
                raise Stopped("stopped before it was finished")
            if not self.link.poll(0.05):
                continue
            number, told = self.link.recv()
            if "gone" in told:
                raise Unreachable(str(told["gone"]))
            wanted -= 1
            yield number, made_of(told)


def made_of(told: Mapping[str, Any]) -> Made:
    """Return what was made, read from its file, or the error in its place."""
    if "path" not in told:
        text = f"a part could not be made: {told['error']['message']}"
        return Made((), error={"code": LimitError.code, "message": text})
    path = Path(told["path"])
    made: Made = read_arrays(path)
    path.unlink(missing_ok=True)  # what is mapped stays readable
    return made


def written(path: Path, shared: Shared, bundles: Sequence[Bundle]) -> tuple[Path, list[Path]]:
    """Write what bundles share to a file, and each of them to one beside it; return the files."""
    paths = [path.with_name(f"{path.name}-{number}") for number in range(len(bundles))]
    ArrayFile.of(shared).write(path)
    for place, bundle in zip(paths, bundles, strict=True):
        ArrayFile.of(bundle).write(place)
    return path, paths
