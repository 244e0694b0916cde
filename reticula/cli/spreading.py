"""Heavy parts of loops on other processes, for commands that evaluate one graph."""

from __future__ import annotations

from collections.abc import Generator, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from reticula.many.shared_cluster import SharedCluster

__all__ = ["Helpers"]

A_DAY = 86_400.0


@dataclass
class Helpers:
    """The workers that a command may have, started when they are first needed. See
    :class:`reticula.core.context.Spread`.

    ``cluster`` is the address of a scheduler, ``store`` where meshes travel; without one, ``workers`` processes of this
    machine.
    """

    cluster: str = ""
    store: str = ""
    workers: int | None = None
    shapes: Mapping[str, Path | tuple[str, bytes]] | None = None
    _made: SharedCluster | None = None

    def run(self, shared: Any, bundles: Sequence[Any]) -> Generator[tuple[int, Any], None, None]:
        """Yield what was made of each bundle, by its number."""
        from reticula.many.loop_part import SpreadOverCluster  # takes a while to load, and most graphs never ask
        from reticula.many.shared_cluster import SharedCluster, begun
        from reticula.workers.tickets import Limits

        if self._made is None:
            limits = Limits(seconds=A_DAY)
            begin = partial(begun, self.cluster, store=self.store, workers=self.workers, limits=limits)
            self._made = SharedCluster(begin)
        yield from SpreadOverCluster(self._made, self.shapes or {}).run(shared, bundles)

    def close(self) -> None:
        """End them."""
        if self._made is not None:
            self._made.close()
            self._made = None
