"""Which findings of checks are to be expected at a node: by what came in, and by what its operator does."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.geometry.validation.checks import Finding
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.operators import Operator

__all__ = ["brought_by", "unexpected"]

ORDINARY = frozenset({"bent faces"})
"""What any surface may have that is no plane: a fault only for who needs flat faces."""
MAKER_BRINGS = frozenset({"open borders"})
"""What a shape made from nothing may have."""


def unexpected(findings: Sequence[Finding], geo: Geo, given: Mapping[Geo, Sequence[Finding]], node: Any) -> set[str]:
    """Return the names of the ``findings`` at ``geo`` that neither what was ``given`` to its ``node`` explains nor what
    the operator says that it brings.

    What was given explains as many elements as it had itself, or as large a share of them; where something is open,
    any number of borders.
    """
    operator = operator_of(node)
    ordinary = ORDINARY | brought_by(operator, node.get("parameters", {}))
    if not any(source.topology.face_count for source in given):
        ordinary |= MAKER_BRINGS
    return {
        one.name for one in findings if one.name not in ordinary and len(one.elements) > _explained(one, geo, given)
    }


def brought_by(operator: Operator, values: Mapping[str, Any]) -> frozenset[str]:
    """Return the findings that an operator with these parameter values may bring: its own, or those of all operators
    of the graph that it runs.
    """
    if operator.graph is None:
        own = operator.expects(values)
        return frozenset(own if operator.inputs else own | MAKER_BRINGS)
    nodes = operator.graph["nodes"].values()
    return frozenset().union(*(brought_by(operator_of(node), node.get("parameters", {})) for node in nodes))


def _explained(one: Finding, geo: Geo, given: Mapping[Geo, Sequence[Finding]]) -> float:
    came = sum(len(found.elements) for findings in given.values() for found in findings if found.name == one.name)
    before = sum(source.topology.count(one.kind) for source in given)
    if came and one.name in MAKER_BRINGS:
        return float("inf")
    growth = geo.topology.count(one.kind) / before if before else 1.0
    return float(np.ceil(came * max(growth, 1.0)))
