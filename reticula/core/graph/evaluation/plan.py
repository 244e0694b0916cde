"""Plans: all about a document that does not depend on values that change from run to run, worked out once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from difflib import get_close_matches
from functools import cached_property
from typing import Any

from reticula.core.context import Note
from reticula.core.errors import ParameterError
from reticula.core.graph.nesting.binding import is_bound, substitute_dials
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import Document, circle_of, feeds_of, order_of
from reticula.core.graph.validation import Problem, problems_of
from reticula.core.graph.values.nodes_to_formula import wires_to_formulas
from reticula.core.operators import Operator

__all__ = ["NodePlan", "Plan"]


MOST_ORDERS = 200
MISSPELT = 0.8
"""How alike two names are of which one is taken for the other misspelt."""


@dataclass(frozen=True)
class NodePlan:
    """One node: its operator, its parameters, and those among them that are bound to a dial, by parameter."""

    node: Mapping[str, Any]
    operator: Operator
    parameters: Mapping[str, Any]
    bound: Mapping[str, str]

    @cached_property
    def checked(self) -> dict[str, Any]:
        """The parameters in stored form, where no dial decides about them."""
        return self.operator.check(self.parameters)

    @cached_property
    def _read(self) -> tuple[frozenset[str], frozenset[tuple[str, str]]]:
        return _read(self.operator, self.checked)

    @property
    def wires(self) -> int:
        """How many geometries are wired to it."""
        return len(feeds_of(self.node))

    def values(self, dials: Mapping[str, Any]) -> dict[str, Any]:
        """Return all parameters in stored form; raise ParameterError for the first bad one."""
        self._refuse_misspelt()
        return self.operator.check(substitute_dials(self.parameters, dials)) if self.bound else self.checked

    def read(self, values: Mapping[str, Any]) -> tuple[frozenset[str], frozenset[tuple[str, str]]]:
        """Return the names, and the pairs ``a.b``, that the formulas among checked values read."""
        return _read(self.operator, values) if self.bound else self._read

    @cached_property
    def names_read(self) -> frozenset[str]:
        """The names that the formulas read that are set at this node, and not by a dial."""
        if not self.bound:
            return self._read[0]
        free = [parameter for parameter in self.operator.parameters if parameter.name not in self.bound]
        checked = [(one, one.check(self.parameters.get(one.name, one.default))) for one in free]
        return frozenset(name for parameter, value in checked for name in parameter.reads(value))

    def _refuse_misspelt(self) -> None:
        """Raise ParameterError for a value that was meant for a dial of nearly the same name, which has none."""
        names = [parameter.name for parameter in self.operator.parameters if parameter.name not in self.parameters]
        for name in self.put_by:
            near = get_close_matches(name, names, 2, MISSPELT)
            if near:
                raise ParameterError(name, f"there is no dial '{name}'; did you mean {' or '.join(near)}?")

    @cached_property
    def put_by(self) -> list[str]:
        """Values of dials that the graph of this node has no more."""
        if self.operator.graph is None:
            return []
        known = {parameter.name for parameter in self.operator.parameters}
        return [name for name in self.parameters if name not in known]

    @cached_property
    def told_of_dials(self) -> list[Note]:
        """What is said of them: that the value is put by."""
        gone = " or ".join(self.put_by)
        return [Note("note", f"There is no dial {gone} any more; the value is put by.")] if gone else []


def _read(operator: Operator, values: Mapping[str, Any]) -> tuple[frozenset[str], frozenset[tuple[str, str]]]:
    names = {name for parameter in operator.parameters for name in parameter.reads(values[parameter.name])}
    pairs = {pair for parameter in operator.parameters for pair in parameter.ties(values[parameter.name])}
    return frozenset(names), frozenset(pairs)


class Plan:
    """A document with its wires written out, its troubles found and its nodes prepared."""

    def __init__(self, document: Document) -> None:
        self.original = document
        self.document, troubles = wires_to_formulas(document)
        self.problems = {problem.node: problem for problem in reversed(problems_of(self.document))}
        self.problems |= {name: Problem(name, message, parameter) for name, (parameter, message) in troubles.items()}
        self._nodes: dict[str, NodePlan] = {}
        self._orders: dict[Any, list[str]] = {}
        self.timely: frozenset[str] | None = None
        """Which nodes hang on time, once that was worked out for a document in which nothing has keys."""

    def node(self, name: str) -> NodePlan:
        """Return a node's plan; raise GraphError if its operator does not exist."""
        if name not in self._nodes:
            node = self.document["nodes"][name]
            parameters = node.get("parameters", {})
            self._nodes[name] = NodePlan(node, operator_of(node), parameters, dict(_bound(parameters)))
        return self._nodes[name]

    @cached_property
    def told_of_tables(self) -> dict[str, list[str]]:
        """What there is to be said of the tables that dials follow, by dial."""
        return {name: dial["told"] for name, dial in self.document.get("dials", {}).items() if "told" in dial}

    @cached_property
    def names_read(self) -> frozenset[str]:
        """The names that formulas of nodes without trouble read, dials of this graph aside."""
        found: set[str] = set()
        for name in self.document["nodes"]:
            if name not in self.problems:
                found |= self.node(name).names_read
        return frozenset(found - set(self.document.get("dials", {})))

    @cached_property
    def choosing(self) -> list[str]:
        """The nodes that may need only one of what is wired to them."""
        return [name for name in self.document["nodes"] if name not in self.problems and self.node(name).operator.needs]

    def feeds(self, name: str, needed: Mapping[str, int]) -> list[str]:
        """Return the nodes whose results a node needs."""
        every = feeds_of(self.document["nodes"][name])
        return [every[needed[name]]] if name in needed else every

    def order(
        self, targets: list[str] | None, first: str | None = None, needed: Mapping[str, int] | None = None
    ) -> list[str]:
        """Return nodes in an order in which each comes after those that feed it; no targets mean all of which
        something is ``needed``, beginning with ``first``.
        """
        key = (None if targets is None else tuple(targets), first, tuple(sorted((needed or {}).items())))
        if key not in self._orders:
            if len(self._orders) > MOST_ORDERS:
                self._orders.clear()
            begin = [first] if first else []
            # What is idle is found from the ends alone; else nodes come as the document has them.
            wanted = targets if targets is not None else [*begin, *(self._ends if needed else self.document["nodes"])]
            feeds = (lambda name: self.feeds(name, needed)) if needed else None
            self._orders[key] = order_of(self.document, wanted, feeds)
        return self._orders[key]

    @cached_property
    def _ends(self) -> list[str]:
        """The nodes from which all others are reached: those that feed none, and circles."""
        fed = {feed for node in self.document["nodes"].values() for feed in feeds_of(node)}
        circle = set(circle_of(self.document))
        return [name for name in self.document["nodes"] if name not in fed or name in circle]

    def idle(self, order: list[str]) -> set[str]:
        """Return the nodes that could be evaluated and are not among ``order``: nothing of them is needed."""
        return set(self.order(None)) - set(order)


def _bound(parameters: Mapping[str, Any]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    for name, value in parameters.items():
        if is_bound(value):
            found.append((name, value["dial"]))
        elif isinstance(value, Mapping):
            found += [(name, one["dial"]) for one in value.values() if is_bound(one)]
    return found
