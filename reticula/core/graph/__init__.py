"""Graphs: documents, validation and evaluation."""

from reticula.core.graph.cache import Cache
from reticula.core.graph.dials import dial_values
from reticula.core.graph.document import (
    Document,
    Problem,
    check_structure,
    empty_document,
    problems_of,
    schema,
    split_feed,
)
from reticula.core.graph.evaluate import Evaluation, Evaluator, NodeResult, run_graph

__all__ = [
    "Cache",
    "Document",
    "Evaluation",
    "Evaluator",
    "NodeResult",
    "Problem",
    "check_structure",
    "dial_values",
    "empty_document",
    "problems_of",
    "run_graph",
    "schema",
    "split_feed",
]
