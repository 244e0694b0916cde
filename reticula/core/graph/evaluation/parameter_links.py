"""Ties: a formula that names another node's parameter (``rings.count``) follows its value."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from reticula.core.errors import FormulaError, GraphError
from reticula.core.graph.nesting.binding import is_bound, substitute_dials
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import Document
from reticula.core.language import evaluate_once
from reticula.core.operators import Operator
from reticula.core.operators.declaration.parameters import is_wire

__all__ = ["ParameterLinks"]


class ParameterLinks:
    """The values of the parameters of a document's nodes, as other nodes' formulas read them."""

    def __init__(self, document: Document, dials: Mapping[str, Any]) -> None:
        self._nodes = document["nodes"]
        self._dials = dials
        self._known: dict[tuple[str, str], Any] = {}

    def read_by(self, node: str, chosen: Operator, values: Mapping[str, Any]) -> dict[str, dict[str, Any]]:
        """Return what a node's formulas read of other nodes: values by node and parameter.

        Raises GraphError if ties run in a circle, with its path.
        """
        pairs = {pair for parameter in chosen.parameters for pair in parameter.ties(values[parameter.name])}
        return self.resolve(frozenset(pairs), (node,), chosen)

    def resolve(
        self, pairs: frozenset[tuple[str, str]], path: tuple[str, ...], reader: Operator
    ) -> dict[str, dict[str, Any]]:
        """Return the values of ``pairs`` of node and parameter, as far as such nodes exist; ``path`` leads to the
        reader.
        """
        if not pairs:
            return {}
        inputs = {entry.name for entry in reader.inputs}
        found: dict[str, dict[str, Any]] = {}
        for node, parameter in sorted(pairs):
            if node not in self._nodes or node in inputs:
                continue
            known = found.setdefault(node, {})
            value = self._value(node, parameter, path)
            if value is not None:
                known[parameter] = value
            else:
                known |= self._plain(node)
        return found

    def _plain(self, node: str) -> dict[str, Any]:
        """The parameters of a node that have plain values, for a message that says what there is."""
        given = self._nodes[node].get("parameters", {})
        plain = {name: one for name, one in substitute_dials(given, self._dials).items() if not is_wire(one)}
        values = operator_of(self._nodes[node]).check(plain)
        return {name: value for name, value in values.items() if _is_plain(value)}

    def _value(self, node: str, parameter: str, path: tuple[str, ...]) -> Any:
        """The plain value of a parameter; None if there is no such parameter, or it varies over elements."""
        here = f"{node}.{parameter}"
        if here in path:
            raise GraphError(f"the ties run in a circle: {' → '.join((*path[path.index(here) :], here))}", node=node)
        key = (node, parameter)
        if key in self._known:
            return self._known[key]
        chosen = operator_of(self._nodes[node])
        declared = next((entry for entry in chosen.parameters if entry.name == parameter), None)
        if declared is None or is_wire(self._nodes[node].get("parameters", {}).get(parameter)):
            return None
        value = self._nodes[node].get("parameters", {}).get(parameter, declared.default)
        value = declared.check(self._dials.get(value["dial"]) if is_bound(value) else value)
        if isinstance(value, dict):
            ties = self.resolve(declared.ties(value), (*path, here), chosen)
            try:
                value = evaluate_once(value["formula"], declared.formula_type, self._dials, ties=ties)
            except FormulaError:
                return None
        if not _is_plain(value):
            return None
        self._known[key] = value
        return value


def _is_plain(value: Any) -> bool:
    if isinstance(value, list):
        return 2 <= len(value) <= 4 and all(isinstance(part, (int, float)) for part in value)
    return isinstance(value, (bool, int, float, str))
