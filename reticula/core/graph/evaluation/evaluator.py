"""Evaluation: runs a graph's nodes in order, re-running only what changed since it was last seen."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any

import reticula.core.graph.evaluation.nested  # noqa: F401 - provides what runs graphs inside nodes
from reticula.core.context import KeyedGeo, Library, Resources, using
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.at_frame import LibraryAtFrame, document_at
from reticula.core.graph.evaluation.cache import Cache
from reticula.core.graph.evaluation.level import Level, Run
from reticula.core.graph.evaluation.level_inside import level_inside
from reticula.core.graph.evaluation.moments import DocumentMoments
from reticula.core.graph.evaluation.results import Evaluation, NodeResult
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.graph.nesting.dials import dial_values
from reticula.core.graph.structure.document import Document, check_structure, chosen_node
from reticula.core.graph.structure.library import library
from reticula.core.graph.structure.linked import resolved
from reticula.core.graph.time.timeline import checked_frame, timeline_of
from reticula.core.operators.shared.resources import resources

__all__ = ["Evaluation", "Evaluator", "NodeResult", "frames_of", "run_graph"]


class Evaluator:
    """Evaluates documents one after the other with a common cache. Not for use by two threads at once."""

    def __init__(self, cache: Cache | None = None) -> None:
        self.store = EvaluationStore(cache)

    @property
    def cache(self) -> Cache:
        """The results kept between evaluations."""
        return self.store.cache

    def evaluate(
        self,
        document: Document,
        *,
        dials: Mapping[str, Any] | None = None,
        frame: float | None = None,
        targets: list[str] | None = None,
        first: str | None = None,
        inputs: Mapping[str, Geo] | None = None,
        level: str = "",
        shapes: Resources | None = None,
        operators: Library | None = None,
        on_progress: Callable[[int, int, str], None] | None = None,
        should_stop: Callable[[], bool] | None = None,
    ) -> Evaluation:
        """Evaluate ``targets`` and what they need, or every node, ``first`` one and what it needs before all others.

        ``frame`` is the moment: the document's first frame if not given; frames between two whole ones exist.
        ``inputs`` is what comes in where the document has input nodes. ``level`` leads to the graph inside a node, as
        it is in the run of that node: ``tile/rings@3`` is the graph inside ``rings``, inside ``tile``, in the fourth
        round.

        What leads only to geometries that a switch does not choose is ``idle``, unless it is a target or ``first``.
        Broken nodes do not raise: they are marked failed and what hangs on them waits, the rest is evaluated. Raises
        GraphError if the document itself is broken, Stopped as soon as ``should_stop`` says so between two nodes.
        """
        document = resolved(check_structure(document))
        timeline = timeline_of(document)
        frame = checked_frame(timeline.first if frame is None else frame)
        moment = timeline.names(frame)
        published = LibraryAtFrame(operators or library(), moment)
        with using(resources=shapes or resources(), library=published, should_stop=should_stop):
            given = {name: KeyedGeo(geo, geo.digest) for name, geo in (inputs or {}).items()}
            aside = Run(self.store, on_progress, should_stop)
            moments = DocumentMoments(document, dials, given, timeline, operators or library(), aside)
            run = Run(self.store, on_progress, should_stop, moments=moments)
            now = document_at(document, moment)
            at = Level(run, self.store.plan(now), dial_values(now, dials), given, moment)
            for step in filter(None, level.split("/")):
                at = level_inside(at, step)
            try:
                return at.evaluate(targets, first)
            finally:
                self.store.cache.settle()


def run_graph(
    document: Document,
    *,
    node: str | None = None,
    dials: Mapping[str, Any] | None = None,
    frame: float | None = None,
    inputs: Mapping[str, Geo] | None = None,
    shapes: Resources | None = None,
    operators: Library | None = None,
) -> Geo:
    """Evaluate a document and return the geometry of one node: ``node``, else its result, else what it looks at.

    ``frame`` is the moment, the document's first frame if not given.
    """
    return next(frames_of(document, [frame], node=node, dials=dials, inputs=inputs, shapes=shapes, operators=operators))


def frames_of(
    document: Document,
    frames: Iterable[float | None],
    *,
    node: str | None = None,
    dials: Mapping[str, Any] | None = None,
    inputs: Mapping[str, Geo] | None = None,
    shapes: Resources | None = None,
    operators: Library | None = None,
) -> Iterator[Geo]:
    """Yield the geometry of one node at each of ``frames``, in their order; only what differs is evaluated again."""
    check_structure(document)
    chosen = chosen_node(document, node)
    evaluator = Evaluator()
    for frame in frames:
        done = evaluator.evaluate(
            document, dials=dials, frame=frame, targets=[chosen], inputs=inputs, shapes=shapes, operators=operators
        )
        yield done.geo(chosen)
