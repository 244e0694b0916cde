"""What is kept from one evaluation to the next: results, and plans of documents."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass

from reticula.core.graph.evaluation.cache import Cache
from reticula.core.graph.evaluation.plan import Plan
from reticula.core.graph.nesting.graph_operator import content_of, digest_of
from reticula.core.graph.structure.document import Document
from reticula.core.graph.structure.library import library, references
from reticula.core.language.scope import TIMELINE
from reticula.core.operators import Operator

__all__ = ["EvaluationStore", "TimeInside"]

MOST_PLANS = 256


@dataclass(frozen=True)
class TimeInside:
    """How a graph hangs on time: what its formulas read of it, whether something in it looks at other frames, and
    whether states grow in it.
    """

    names: frozenset[str] = frozenset()
    looks: bool = False
    grows: bool = False

    @property
    def elsewhere(self) -> bool:
        """Whether what feeds it matters at other frames, too."""
        return self.looks or self.grows


TIMELESS = TimeInside()


class EvaluationStore:
    """Results by key, and plans by document. Not for use by two threads at once."""

    def __init__(self, cache: Cache | None = None) -> None:
        self.cache = Cache() if cache is None else cache
        self._plans: OrderedDict[str, Plan] = OrderedDict()
        self._time_inside: dict[str, TimeInside] = {}
        self._states: OrderedDict[str, dict[float, str]] = OrderedDict()

    def plan(self, document: Document) -> Plan:
        """Return the plan of a document in which nothing has keys, made once."""
        key = digest_of([document, {name: _content(name) for name in sorted(references(document))}])
        if key not in self._plans:
            self._plans[key] = Plan(document)
            while len(self._plans) > MOST_PLANS:
                self._plans.popitem(last=False)
        self._plans.move_to_end(key)
        return self._plans[key]

    def states(self, question: str) -> dict[float, str]:
        """Return the keys of the states of a node by frame, to be added to; ``question`` is all that they hang on."""
        found = self._states.setdefault(question, {})
        self._states.move_to_end(question)
        while len(self._states) > MOST_PLANS:
            self._states.popitem(last=False)
        return found

    def time_inside(self, holder: Operator) -> TimeInside:
        """Return how the graph of an operator hangs on time, at any depth; not at all if it holds none."""
        if holder.graph is None:
            return TIMELESS
        if holder.content not in self._time_inside:
            self._time_inside[holder.content] = self._work_out(self.plan(holder.graph))
            while len(self._time_inside) > MOST_PLANS:
                del self._time_inside[next(iter(self._time_inside))]
        return self._time_inside.get(holder.content, TIMELESS)

    def _work_out(self, plan: Plan) -> TimeInside:
        names, looks, grows = set(plan.names_read & TIMELINE.keys()), False, False
        for name in plan.document["nodes"]:
            if name in plan.problems:
                continue
            planned = plan.node(name)
            inner = self.time_inside(planned.operator)
            names |= inner.names
            looks |= inner.looks or planned.operator.looks_elsewhere(planned.parameters)
            grows |= inner.grows or planned.operator.remembers
        return TimeInside(frozenset(names), looks, grows)


def _content(operator: str) -> str:
    definition = library().definition(operator)
    return content_of(definition["graph"]) if definition else ""
