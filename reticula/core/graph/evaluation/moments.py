"""The graph of an evaluation at its other frames: for operators that look back or ahead, and for states that grow."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator, Mapping
from contextlib import contextmanager, suppress
from dataclasses import replace
from functools import cached_property
from typing import Any

from reticula.core.context import KeyedGeo, Library, using
from reticula.core.errors import GeometryError, GraphError, LimitError, ReticulaError
from reticula.core.graph.evaluation.at_frame import LibraryAtFrame, document_at
from reticula.core.graph.evaluation.level import Level, Part, Run, parts_of
from reticula.core.graph.evaluation.level_inside import level_inside
from reticula.core.graph.evaluation.results import NodeResult
from reticula.core.graph.nesting.dials import dial_values
from reticula.core.graph.nesting.graph_operator import content_of, digest_of
from reticula.core.graph.nesting.stored_shapes import stored_shapes
from reticula.core.graph.structure.document import Document, feeds_of
from reticula.core.graph.time.timeline import MOST_FRAMES, Timeline, checked_frame
from reticula.core.operators.shared.resources import resources

__all__ = ["DocumentMoments"]

MOST_LEVELS = 128
"""Levels at other frames that are held at once, with what was evaluated there."""
DEEPEST = 24
"""Looks at other frames that lead to each other."""


class DocumentMoments:
    """A document with its dials and inputs, at any frame. ``aside`` is the run whose results are kept and whose wish to
    stop counts.
    """

    def __init__(
        self,
        document: Document,
        dials: Mapping[str, Any] | None,
        given: Mapping[str, KeyedGeo],
        timeline: Timeline,
        published: Library,
        aside: Run,
    ) -> None:
        self._document, self._dials, self._given = document, dials, given
        self._timeline, self._published, self._run = timeline, published, aside
        self._levels: OrderedDict[tuple[tuple[str, ...], float], Level] = OrderedDict()
        self._looks: list[tuple[tuple[str, ...], str, float]] = []

    @cached_property
    def question(self) -> str:
        """A hash of all that results hang on, the frame aside: document, dials, what comes in, stored shapes."""
        given_names = {value for value in (self._dials or {}).values() if isinstance(value, str)}
        shapes = {}
        for name in sorted(stored_shapes(self._document) | given_names):
            with suppress(ReticulaError, OSError):
                shapes[name] = resources().key(name)
        given = {name: part.key for name, part in self._given.items()}
        with using(library=self._published):
            return digest_of([content_of(self._document), self._dials or {}, given, shapes])

    def parts(self, level: Level, node: str, frame: float) -> dict[str, Part]:
        """Return what is connected to the inputs of a node of ``level``, at another frame.

        Raises GeometryError, with the frame, if there is no result; GraphError for a frame too far away.
        """
        checked_frame(frame)
        with self._at(level.path, node, frame):
            there = self._level(level.path, frame)
            planned = there.plan.node(node)
            done = there.evaluate(feeds_of(planned.node))
            try:
                return parts_of(planned.operator, planned.node, done)
            except (GraphError, GeometryError) as error:
                raise GeometryError(f"at frame {frame:g}: {error}") from None

    def result(self, level: Level, node: str, frame: float) -> NodeResult:
        """Return what becomes of a node of ``level`` at another frame."""
        with self._at(level.path, node, frame):
            return self._level(level.path, frame).evaluate([node]).nodes[node]

    def before(self, level: Level, node: str, reset: float) -> dict[str, KeyedGeo] | None:
        """Return the outputs of a node one frame ago; None at the frame ``reset`` and before it.

        States are made one after the other from the last one that is known: a change of the graph makes only those
        anew whose own inputs differ. Raises GeometryError, with the frame, if one cannot be made.
        """
        steps = round(level.moment["frame"] - reset)
        if steps <= 0:
            return None
        if steps > MOST_FRAMES:
            raise LimitError(f"the state would have to grow for {steps:,} frames, {MOST_FRAMES:,} is the most")
        known = self._run.store.states(digest_of([self.question, level.path, node]))
        held = next((n for n in range(steps - 1, -1, -1) if known.get(reset + n, "") in self._run.store.cache), -1)
        if held == steps - 1:
            return self._from_cache(level, node, known[reset + held])
        made: NodeResult | None = None
        for step in range(held + 1, steps):
            self._run.check()
            if self._run.on_progress and level.run.depth == 0:
                self._run.on_progress(step, steps, node)
            frame = reset + step
            made = self.result(level, node, frame)
            if made.state != "done":
                raise GeometryError(f"at frame {frame:g}: {(made.error or {}).get('message', 'failed')}")
            known[frame] = made.key
        assert made is not None
        return _outputs(made)

    def _from_cache(self, level: Level, node: str, key: str) -> dict[str, KeyedGeo]:
        entry = self._run.store.cache.get(key)
        assert entry is not None
        names = [output.name for output in level.plan.node(node).operator.outputs]
        return _outputs(NodeResult(node, "done", key, dict(zip(names, entry.outputs, strict=True))))

    def _level(self, path: tuple[str, ...], frame: float) -> Level:
        """Return a level at a frame; it keeps what is evaluated there."""
        if (path, frame) not in self._levels:
            run = Run(self._run.store, None, self._run.should_stop, moments=self)
            if path:
                made = level_inside(replace(self._level(path[:-1], frame), run=run), path[-1], first=True)
                if made.path != path:
                    raise GeometryError(f"at frame {frame:g} there is no {_round_of(path[-1])}")
            else:
                moment = self._timeline.names(frame)
                now = document_at(self._document, moment)
                made = Level(run, run.store.plan(now), dial_values(now, self._dials), self._given, moment)
            self._levels[path, frame] = replace(made, keep=True, known={})
            while len(self._levels) > MOST_LEVELS:
                self._levels.popitem(last=False)
        self._levels.move_to_end((path, frame))
        return self._levels[path, frame]

    @contextmanager
    def _at(self, path: tuple[str, ...], node: str, frame: float) -> Iterator[None]:
        """Be at another frame for a node; raise GeometryError for what leads back to itself, LimitError for too many
        looks.
        """
        look = (path, node, frame)
        if look in self._looks:
            raise GeometryError(f"what is at frame {frame:g} hangs on itself; look only at frames before")
        if len(self._looks) >= DEEPEST:
            raise LimitError(
                f"more than {DEEPEST} looks at other frames lead to each other; take fewer of them in a row"
            )
        self._looks.append(look)
        try:
            with using(
                library=LibraryAtFrame(self._published, self._timeline.names(frame)), call=None, nested_graph=None
            ):
                yield
        finally:
            self._looks.pop()


def _round_of(step: str) -> str:
    name, _, number = step.partition("@")
    return f"round or part {number} of '{name}'"


def _outputs(result: NodeResult) -> dict[str, KeyedGeo]:
    """Return the outputs of a node with what names their content."""
    first = next(iter(result.outputs), "")
    return {
        name: KeyedGeo(geo, result.key if name == first else f"{result.key}:{name}")
        for name, geo in result.outputs.items()
    }
