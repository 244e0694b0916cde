"""What is kept from one evaluation to the next: results, and plans of documents."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from typing import Any, TypeVar

from reticula.core.graph.evaluation.cache import Cache
from reticula.core.graph.evaluation.plan import Plan
from reticula.core.graph.nesting.graph_operator import content_of, digest_of
from reticula.core.graph.structure.document import Document
from reticula.core.graph.structure.library import library, references
from reticula.core.language.scope import TIMELINE
from reticula.core.operators import Operator

__all__ = ["EvaluationStore"]

T = TypeVar("T")
MOST_PLANS = 256


class EvaluationStore:
    """Results by key, and plans by document. Not for use by two threads at once."""

    def __init__(self, cache: Cache | None = None) -> None:
        self.cache = Cache() if cache is None else cache
        self._plans: OrderedDict[str, Plan] = OrderedDict()
        self._time_names: dict[str, frozenset[str]] = {}
        self._states: OrderedDict[str, Any] = OrderedDict()

    def plan(self, document: Document) -> Plan:
        """Return the plan of a document in which nothing has keys, made once."""
        key = digest_of([document, {name: _content(name) for name in sorted(references(document))}])
        if key not in self._plans:
            self._plans[key] = Plan(document)
            while len(self._plans) > MOST_PLANS:
                self._plans.popitem(last=False)
        self._plans.move_to_end(key)
        return self._plans[key]

    def states(self, question: str, make: Callable[[], T]) -> T:
        """Return what is kept of the states of a node, from one evaluation to the next."""
        found: T = self._states.setdefault(question, make())
        self._states.move_to_end(question)
        while len(self._states) > MOST_PLANS:
            self._states.popitem(last=False)
        return found

    def time_names(self, holder: Operator) -> frozenset[str]:
        """Return what formulas inside of an operator's graph, at any depth, read of time."""
        if holder.graph is None:
            return frozenset()
        if holder.content not in self._time_names:
            plan = self.plan(holder.graph)
            inner = (plan.node(name).operator for name in plan.document["nodes"] if name not in plan.problems)
            found = plan.names_read & TIMELINE.keys()
            self._time_names[holder.content] = found.union(*map(self.time_names, inner))
            while len(self._time_names) > MOST_PLANS:
                del self._time_names[next(iter(self._time_names))]
        return self._time_names.get(holder.content, frozenset())


def _content(operator: str) -> str:
    definition = library().definition(operator)
    return content_of(definition["graph"]) if definition else ""
