"""Unfold: a card that holds a graph gives way to the cards in it, and nothing of the result changes."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.formula_texts import free_name, map_feeds, members_of, names_of, replace_in
from reticula.core.graph.nesting.binding import is_bound
from reticula.core.graph.nesting.dial_types import usual_value
from reticula.core.graph.nesting.graph_operator import HOLDERS, operator_of
from reticula.core.graph.structure.document import split_feed
from reticula.core.graph.time.tables import is_following, is_timed
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula
from reticula.core.language.in_one_line import in_one_line
from reticula.core.operators.declaration.parameters import is_wire
from reticula.core.operators.shared.nested_graph import LOOP_NAMES

__all__ = ["unfold"]

Graph = dict[str, Any]


def unfold(level: Graph, name: str) -> tuple[Graph, list[str]]:
    """Return the graph with a folded (or published) node replaced by the nodes in it, and their names.

    Raises GraphError for a loop, a skipped node, or a dial whose value cannot be written into the formulas that read
    it.
    """
    node = level["nodes"].get(name)
    if node is None:
        raise GraphError(f"there is no node '{name}'")
    chosen = operator_of(node)
    if chosen.graph is None:
        raise GraphError(f"'{node.get('title') or name}' holds no graph to unfold", node=name)
    if node["operator"] in HOLDERS and node["operator"] != "folded":
        raise GraphError("a loop cannot be unfolded: its graph runs more than once", node=name)
    if node.get("skip"):
        raise GraphError("this card is skipped; run it again before it is unfolded", node=name)
    made = deepcopy(level)
    return made, _Unfolding(made, name, deepcopy(dict(chosen.graph))).go()


class _Unfolding:
    def __init__(self, outer: Graph, name: str, graph: Graph) -> None:
        self.outer, self.name, self.graph = outer, name, graph
        self.node = outer["nodes"][name]
        self.values = {
            dial: self.node.get("parameters", {}).get(dial, usual_value(entry))
            for dial, entry in graph.get("dials", {}).items()
        }
        self.moved: dict[str, str] = {}
        taken = set(outer["nodes"]) - {name}
        self.names: dict[str, str] = {}
        for inner in graph["nodes"]:
            self.names[inner] = free_name(inner, taken)
            taken.add(self.names[inner])

    def go(self) -> list[str]:
        inner, outer = self.graph["nodes"], self.outer
        bound = self._bound()
        self._replace_followers(bound)
        entries = {key: node for key, node in inner.items() if node["operator"] == "input"}
        for node in inner.values():
            ties = {pair for pair in members_of(node) if pair[0] in inner and pair[0] not in node.get("inputs", {})}
            replace_in(node, {}, {pair: f"{self.names[pair[0]]}.{pair[1]}" for pair in ties})
            for value in node.get("parameters", {}).values():
                if is_wire(value):
                    value["wire"] = self.names.get(value["wire"], value["wire"])
            self._put_values_in(node)
        map_feeds(self.graph, lambda feed: self._inner_feed(feed, entries))
        outputs = {entry["name"]: entry["feed"] for entry in self.graph.get("outputs", [])}
        first = next(iter(outputs.values()), "")
        map_feeds(
            outer,
            lambda feed: feed if split_feed(feed)[0] != self.name else outputs.get(split_feed(feed)[1], first) or None,
        )
        made = {self.names[key]: node for key, node in inner.items() if key not in entries}
        order = list(outer["nodes"])
        at = order.index(self.name)
        outer["nodes"] = (
            {key: outer["nodes"][key] for key in order[:at]}
            | made
            | {key: outer["nodes"][key] for key in order[at + 1 :]}
        )
        self._take_frames(made)
        return list(made)

    def _inner_feed(self, feed: str, entries: dict[str, Any]) -> str | None:
        source, output = split_feed(feed)
        if source in entries:
            port = entries[source].get("parameters", {}).get("name", "geo")
            fed = self.node.get("inputs", {}).get(port, [])
            return fed[0] if fed else None
        renamed = self.names.get(source, source)
        return f"{renamed}:{output}" if output else renamed

    def _put_values_in(self, node: dict[str, Any]) -> None:
        parameters = node.get("parameters", {})
        reads = {dial: self._written(dial) for dial in sorted(names_of(node) & set(self.values))}
        replace_in(node, reads, {})
        for key, value in list(parameters.items()):
            if is_bound(value):
                parameters[key] = self._put_in(value["dial"])
            elif isinstance(value, dict) and not is_wire(value):
                parameters[key] = {
                    one: self._put_in(held["dial"]) if is_bound(held) else held for one, held in value.items()
                }

    def _put_in(self, dial: str) -> Any:
        """Return what a parameter gets that was bound to a dial; only dials follow tables."""
        value = self.values[dial]
        return {"dial": self._as_outer_dial(dial, value)} if is_following(value) else deepcopy(value)

    def _written(self, dial: str) -> str:
        """Return a dial's value as a formula reads it."""
        value = self.values[dial]
        if is_bound(value):
            return str(value["dial"])
        if is_timed(value):
            return self._as_outer_dial(dial, value)
        text = (
            nodes_to_formula(self.outer, value["wire"])
            if is_wire(value)
            else value.get("formula", "")
            if isinstance(value, dict)
            else ""
        )
        line = in_one_line(text.strip()) if text and "\n" in text.strip() else text.strip()
        if line:
            return f"({line})"
        if isinstance(value, (bool, int, float, str)):
            return f"({value!r})" if isinstance(value, (int, float)) and value < 0 else repr(value)
        if isinstance(value, list) and all(isinstance(part, (int, float)) for part in value):
            return f"vec{len(value)}({', '.join(map(repr, value))})"
        raise GraphError(
            f"the value of the dial '{dial}' cannot be written into the formulas that read it",
            node=self.name,
            parameter=dial,
        )

    def _as_outer_dial(self, dial: str, value: Any) -> str:
        """Return the dial of the outer graph that has a value with keys or of a table, which no formula can hold."""
        if dial not in self.moved:
            dials = self.outer.setdefault("dials", {})
            self.moved[dial] = free_name(dial, {*dials, *LOOP_NAMES})
            dials[self.moved[dial]] = {**deepcopy(self.graph["dials"][dial]), "value": deepcopy(value)}
        return self.moved[dial]

    def _bound(self) -> dict[str, tuple[str, str]]:
        """Return a parameter that is bound to each dial."""
        found: dict[str, tuple[str, str]] = {}
        for key, node in self.graph["nodes"].items():
            for parameter, value in node.get("parameters", {}).items():
                if is_bound(value):
                    found.setdefault(value["dial"], (key, parameter))
        return found

    def _replace_followers(self, bound: dict[str, tuple[str, str]]) -> None:
        for key, node in self.outer["nodes"].items():
            renamed: dict[tuple[str, str], str] = {}
            for other, dial in members_of(node):
                if (
                    key != self.name
                    and other == self.name
                    and dial in self.values
                    and other not in node.get("inputs", {})
                ):
                    inner = bound.get(dial)
                    plain = not isinstance(self.values[dial], dict)
                    renamed[other, dial] = (
                        f"{self.names[inner[0]]}.{inner[1]}" if inner and plain else self._written(dial)
                    )
            replace_in(node, {}, renamed)

    def _take_frames(self, made: dict[str, Any]) -> None:
        frames = self.outer.get("frames", {})
        for frame in frames.values():
            if self.name in frame["nodes"]:
                frame["nodes"] = [name for name in frame["nodes"] if name != self.name] + list(made)
        for key, frame in self.graph.get("frames", {}).items():
            held = [self.names[name] for name in frame["nodes"] if name in self.names and self.names[name] in made]
            frames[free_name(key, frames)] = {**frame, "nodes": held}
            self.outer["frames"] = frames
        for jump, target in list(self.outer.get("jumps", {}).items()):
            if target == self.name:
                self.outer["jumps"][jump] = next(iter(made), target)
