"""Parts of a loop that others run: how they travel to the workers of a cluster, and back."""

from __future__ import annotations

from collections.abc import Callable, Generator, Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING, Any

from reticula.core.graph.evaluation.bundles import Bundle, Made, Shared
from reticula.core.graph.nesting.stored_shapes import named_in
from reticula.many.shared_cluster import SharedCluster
from reticula.workers.spreading import made_of, written

if TYPE_CHECKING:
    from reticula.many.cluster import Cluster

__all__ = ["File", "LoopPart", "SpreadOverCluster", "made_by"]

File = Path | tuple[str, bytes]
"""A mesh file, or its name and bytes."""


@dataclass(frozen=True)
class LoopPart:
    """Travels to a worker: the contents that hold the :class:`~reticula.core.graph.evaluation.bundles.Shared` and the
    :class:`~reticula.core.graph.evaluation.bundles.Bundle`, and those of mesh files by the shape's name.
    """

    shared: str
    bundle: str
    shapes: Mapping[str, str]


def made_by(
    cluster: Cluster, shared: Path, bundles: Sequence[Path], shapes: Mapping[str, File], should_stop: Callable[[], bool]
) -> Iterator[tuple[int, dict[str, Any]]]:
    """Yield the number of each bundle with its outcome, as they end: the ``path`` of what was made, or the ``error``.

    ``shared`` and ``bundles`` are files; what is made is written beside them. Raises Unreachable as the cluster does.
    """
    contents = cluster.contents
    sent = {
        name: contents.put_file(file) if isinstance(file, Path) else contents.put(file[1], Path(file[0]).suffix)
        for name, file in shapes.items()
    }
    common = contents.put_file(shared)
    numbers: dict[int, int] = {}

    def parts() -> Iterator[LoopPart]:
        for number, path in enumerate(bundles):
            part = LoopPart(common, contents.put_file(path), sent)
            numbers[id(part)] = number
            yield part

    for part, outcome in cluster.outcomes(parts(), should_stop):
        number = numbers[id(part)]
        contents.remove(part.bundle)
        if outcome["state"] != "done":
            yield number, {"error": outcome["error"]}
            continue
        path = bundles[number].with_name(f"{bundles[number].name}.made")
        contents.take(outcome["place"], path)
        yield number, {"path": str(path)}


class SpreadOverCluster:
    """Has a cluster run the parts of loops of this process. See :class:`reticula.core.context.Spread`."""

    def __init__(self, cluster: SharedCluster, shapes: Mapping[str, File]) -> None:
        self.cluster, self.shapes = cluster, shapes

    def run(self, shared: Shared, bundles: Sequence[Bundle]) -> Generator[tuple[int, Made], None, None]:
        """Yield what was made of each bundle, by its number."""
        with self.cluster.ready(hurry=True) as cluster, TemporaryDirectory(prefix="reticula-parts-") as folder:
            common, paths = written(Path(folder, "parts"), shared, bundles)
            shapes = named_in(self.shapes, shared.graph, shared.library, shared.dials)
            for number, outcome in made_by(cluster, common, paths, shapes, lambda: False):
                yield number, made_of(outcome)
