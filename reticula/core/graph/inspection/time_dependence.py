"""Which nodes of a graph depend on time, and what its values that vary are at the moment that was evaluated."""

from __future__ import annotations

from typing import Any

from reticula.core.context import Library, using
from reticula.core.errors import ReticulaError
from reticula.core.graph.editing.levels import steps_of
from reticula.core.graph.evaluation.at_frame import LibraryAtFrame, dial_varies, document_at, node_varies, varies
from reticula.core.graph.evaluation.plan import NodePlan, Plan
from reticula.core.graph.evaluation.results import Evaluation
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.graph.nesting.graph_operator import HOLDERS, STARTING
from reticula.core.graph.structure.document import Document, feeds_of, split_feed
from reticula.core.graph.structure.library import library
from reticula.core.graph.time.keys import has_keyed
from reticula.core.graph.time.timeline import Timeline
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula
from reticula.core.language.parse import names_read
from reticula.core.language.scope import TIMELINE

__all__ = ["keyed_values", "timely_nodes"]

BEGINNING = Timeline().names(0.0)


def keyed_values(
    level: Document, done: Evaluation, *, inside: bool = False
) -> tuple[dict[str, dict[str, Any]], dict[str, Any]]:
    """Return what values that vary are at the moment of an evaluation: by node and parameter, and by dial.

    ``level`` is the graph that was evaluated, as it is stored. The dials of a graph ``inside`` of a node may get keys
    from there, so all of them are told.
    """
    nodes = {
        name: {
            parameter: done.document["nodes"][name]["parameters"][parameter]
            for parameter, value in node.get("parameters", {}).items()
            if has_keyed(value)
        }
        for name, node in level["nodes"].items()
        if name in done.document["nodes"] and any(map(has_keyed, node.get("parameters", {}).values()))
    }
    keyed = [name for name, dial in level.get("dials", {}).items() if inside or dial_varies(dial)]
    return nodes, {name: done.dials[name] for name in keyed if name in done.dials}


def timely_nodes(document: Document, path: str, store: EvaluationStore, plan: Plan | None = None) -> frozenset[str]:
    """Return the nodes of the graph at the end of ``path`` whose results may differ from frame to frame.

    A node may if values of it have keys or read time, if a state grows in it, or if anything that feeds it may.
    ``plan`` is that of the document, if it is there: where nothing varies it is worked out once for all frames.
    """
    if plan is None or path or varies(document):
        return _timely_nodes(document, path, store)
    if plan.timely is None:
        plan.timely = _timely_nodes(document, path, store)
    return plan.timely


def _timely_nodes(document: Document, path: str, store: EvaluationStore) -> frozenset[str]:
    dials = frozenset(name for name, dial in document.get("dials", {}).items() if dial_varies(dial))
    inputs: frozenset[str] = frozenset()
    published = library()
    with using(library=LibraryAtFrame(published, BEGINNING)):
        for step in steps_of(path):
            found = _Level(document, dials, inputs, store, published)
            node = document["nodes"][step]
            dials, inputs = found.inside(step)
            held = node.get("graph") or (published.definition(node["operator"]) or {}).get("graph")
            document = held or (STARTING if node["operator"] in HOLDERS else {"nodes": {}})
        return frozenset(_Level(document, dials, inputs, store, published).timely)


class _Level:
    """One graph, with the dials and inputs of it that depend on time."""

    def __init__(
        self,
        document: Document,
        dials: frozenset[str],
        inputs: frozenset[str],
        store: EvaluationStore,
        published: Library,
    ) -> None:
        self.document, self.dials, self.inputs, self.store, self.published = document, dials, inputs, store, published
        self.plan: Plan = store.plan(document_at(document, BEGINNING))
        self.read = frozenset(TIMELINE) | dials
        self.timely: set[str] = set()
        for name in self.plan.order(None):
            if self._is_timely(name):
                self.timely.add(name)

    def inside(self, name: str) -> tuple[frozenset[str], frozenset[str]]:
        """Return the dials and inputs, of the graph in a node, that depend on time."""
        node = self.document["nodes"][name]
        planned = self.plan.node(name)
        dials = {key for key, value in node.get("parameters", {}).items() if has_keyed(value)}
        dials |= {key for key, dial in planned.bound.items() if dial in self.dials}
        dials |= {
            parameter.name
            for parameter in planned.operator.parameters
            if parameter.name in planned.parameters and parameter.name not in planned.bound
            if parameter.reads(parameter.check(planned.parameters[parameter.name])) & self.read
        }
        entries = {
            entry
            for entry, feeds in node.get("inputs", {}).items()
            if any(split_feed(feed)[0] in self.timely for feed in feeds)
        }
        return frozenset(dials), frozenset(entries)

    def _is_timely(self, name: str) -> bool:
        node = self.document["nodes"][name]
        if node_varies(node) or any(split_feed(feed)[0] in self.timely for feed in feeds_of(node)):
            return True
        if name in self.plan.problems:
            return False
        planned = self.plan.node(name)
        if planned.operator.name == "input":
            return planned.checked["name"] in self.inputs
        return self._reads_time(name, planned)

    def _reads_time(self, name: str, planned: NodePlan) -> bool:
        chosen = planned.operator
        if chosen.remembers:
            return True
        if chosen.writes is not None:
            try:
                return bool(names_read(nodes_to_formula(self.plan.original, name)) & self.read)
            except ReticulaError:
                return False
        own = frozenset(self.document.get("dials", {})) - self.dials
        if (planned.names_read - own) & self.read or any(dial in self.dials for dial in planned.bound.values()):
            return True
        definition = self.published.definition(chosen.name) if "@" in chosen.name else None
        if definition is not None and varies(definition["graph"]):
            return True
        inside = self.store.time_inside(chosen)
        return bool(inside.names) or inside.grows or self._follows(planned)

    def _follows(self, planned: NodePlan) -> bool:
        """Whether formulas of a node read a parameter of another node that has keys or reads time."""
        if planned.bound:
            return False
        _, pairs = planned.read(planned.checked)
        nodes = self.document["nodes"]
        return any(node_varies(nodes[node]) for node, _ in pairs if node in nodes)
