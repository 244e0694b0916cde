"""What work may ask of whoever runs it: one frozen context, handed down unseen to everything that runs inside it.

Operators are plain functions of geometries and values. What they need besides (stored shapes, published operators, the
graph that their node holds, whether they are still wanted, where to put remarks) they find in :func:`current`.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Generator, Iterable, Iterator, Mapping, Sequence
from contextvars import ContextVar
from dataclasses import dataclass, field, replace
from typing import Any, Protocol

from reticula.core.geometry.mesh.geo import Geo

__all__ = [
    "EvaluationContext",
    "KeyedGeo",
    "Library",
    "NestedGraph",
    "NodeCall",
    "Note",
    "Resources",
    "Spread",
    "current",
    "using",
]


@dataclass(frozen=True)
class Note:
    """One remark. ``level`` is ``"note"`` or ``"warning"``."""

    level: str
    text: str


@dataclass(frozen=True)
class KeyedGeo:
    """A geometry and what names its content: equal keys mean equal geometries."""

    geo: Geo
    key: str


class Resources(Protocol):
    """Stored shapes by name. ``key`` changes whenever what ``load`` returns does; ``error`` says how far lines may be
    from the bows of a drawing, in m, where 0 leaves that to its format.
    """

    def key(self, name: str) -> str: ...

    def load(self, name: str, *, error: float = 0.0) -> Geo: ...


class Library(Protocol):
    """Published operators by name and release. A definition never changes."""

    def definition(self, operator: str) -> Mapping[str, Any] | None: ...

    def releases(self, name: str) -> list[str]: ...


class NestedGraph(Protocol):
    """The graph that a node holds. ``given`` is what came in at the node, by input; ``outputs`` names what it makes;
    ``before`` is what it made one frame ago, for a node that remembers.
    """

    given: Mapping[str, KeyedGeo]
    outputs: tuple[str, ...]
    before: Mapping[str, KeyedGeo] | None

    def run(self, given: Mapping[str, KeyedGeo], names: Mapping[str, Any]) -> dict[str, KeyedGeo]:
        """Run the graph once on ``given``; its formulas may read ``names``. Returns a geometry per output."""
        ...

    def run_parts(
        self, first: str, parts: Iterable[tuple[KeyedGeo, Mapping[str, Any]]], count: int, *, spread: bool = False
    ) -> Iterator[dict[str, Geo]]:
        """Run the graph on each of ``count`` parts in place of what is given as ``first``, with the names of each.

        Yields a geometry per output, in the order of the parts. Parts do not hang on each other: with ``spread``, heavy
        ones are run by others if there are any, see :class:`Spread`.
        """
        ...


class Spread(Protocol):
    """Other processes that run parts of a loop."""

    def run(self, shared: Any, bundles: Sequence[Any]) -> Generator[tuple[int, Any], None, None]:
        """Yield the number of each bundle with what was made of it, in the order in which they end.

        ``shared`` is a :class:`~reticula.core.graph.evaluation.bundles.Shared`, ``bundles`` are
        :class:`~reticula.core.graph.evaluation.bundles.Bundle`, and what is made of one is a
        :class:`~reticula.core.graph.evaluation.bundles.Made`. Raises Unreachable if nobody is there (any more), and
        Stopped if the work is not wanted any more.
        """
        ...


@dataclass(frozen=True)
class NodeCall:
    """The node that is being run, what came in at it by input, and the evaluation and level that run it.

    ``frames`` has what comes in at other frames, by frame and input; ``before`` the node's own outputs one frame ago.
    """

    node: str
    given: Mapping[str, KeyedGeo | list[KeyedGeo] | None]
    run: Any
    level: Any = None
    frames: Mapping[float, Mapping[str, KeyedGeo | list[KeyedGeo] | None]] = field(default_factory=dict)
    before: Mapping[str, KeyedGeo] | None = None


@dataclass(frozen=True)
class EvaluationContext:
    """What is there to be asked; what nobody provides is None.

    ``notes`` gathers remarks, ``should_stop`` says when work is not wanted any more, ``resources`` and ``library`` give
    stored shapes and published operators, ``nested_graph`` is the graph that the running operator holds, ``call`` the
    node that is being run, ``moment`` what formulas read of time. ``on_read`` is told which share of a file is read.
    ``spread`` has others run heavy parts of loops.
    """

    notes: list[Note] | None = None
    should_stop: Callable[[], bool] | None = None
    resources: Resources | None = None
    library: Library | None = None
    nested_graph: NestedGraph | None = None
    call: NodeCall | None = None
    moment: Mapping[str, float] | None = None
    on_read: Callable[[float], None] | None = None
    spread: Spread | None = None


_current: ContextVar[EvaluationContext] = ContextVar("evaluation")


def current() -> EvaluationContext:
    """Return the context of the work that is going on; an empty one outside of any."""
    return _current.get(EMPTY)


EMPTY = EvaluationContext()


@contextlib.contextmanager
def using(**changes: Any) -> Iterator[EvaluationContext]:
    """Change parts of the context, by name, for what runs inside the block."""
    made = replace(current(), **changes)
    token = _current.set(made)
    try:
        yield made
    finally:
        _current.reset(token)
