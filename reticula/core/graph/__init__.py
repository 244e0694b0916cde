"""Graphs: documents, validation and evaluation."""

from reticula.core.graph.evaluation.cache import Cache
from reticula.core.graph.evaluation.evaluator import Evaluation, Evaluator, NodeResult, frames_of, run_graph
from reticula.core.graph.nesting.dials import dial_values
from reticula.core.graph.structure.document import Document, check_structure, empty_document, schema, split_feed
from reticula.core.graph.validation import Problem, problems_of

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
    "frames_of",
    "problems_of",
    "run_graph",
    "schema",
    "split_feed",
]
