"""Fold: some cards become one that holds them, and nothing of the result changes."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from copy import deepcopy
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.dials import add_dial
from reticula.core.graph.editing.formula_texts import (
    feeds_in,
    free_name,
    map_feeds,
    members_of,
    names_of,
    replace_in,
    slug,
)
from reticula.core.graph.nesting.binding import is_bound
from reticula.core.graph.nesting.dials import bound_dial
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import empty_document, split_feed
from reticula.core.graph.values.nodes_to_formula import value_feeds
from reticula.core.operators.declaration.parameters import is_wire
from reticula.core.operators.shared.nested_graph import names_given

__all__ = ["fold"]

Graph = dict[str, Any]
NUMBERS = ("part_value", "age", "seconds_per_step")
"""Values of loops and states that are no whole numbers."""


def fold(level: Graph, names: Collection[str], title: str = "", *, holder: str = "") -> tuple[Graph, str]:
    """Return the graph with the nodes ``names`` folded into one, and that node's name.

    ``holder`` is the operator around the graph, if it is inside of a node: its formulas read what that gives.

    Wires that are cut become inputs and outputs; dials, ties and values of a loop that the nodes read become dials of
    the new one, set to follow what they followed. Raises GraphError if a wire leads out of the nodes and back in.
    """
    made = deepcopy(level)
    folding = _Folding(made, [name for name in made["nodes"] if name in set(names)], names_given(holder))
    if len(folding.inside) < len(set(names)):
        missing = sorted(set(names) - set(made["nodes"]))
        raise GraphError(f"there is no node {', '.join(missing)}")
    if not folding.inside:
        raise GraphError("choose the cards to fold first")
    return made, folding.go(title)


class _Folding:
    def __init__(self, outer: Graph, inside: list[str], given: Mapping[str, str]) -> None:
        self.outer, self.inside, self.given = outer, inside, given
        self.graph: Graph = {**empty_document(""), "inputs": [], "outputs": []}
        del self.graph["looking_at"]
        self.node: dict[str, Any] = {"operator": "folded", "parameters": {}, "inputs": {}}

    def go(self, title: str) -> str:
        self._refuse_detours()
        self._copy_values()
        outer, nodes = self.outer, self.graph["nodes"]
        self.name = free_name(slug(title, "folded") if title else "folded", set(outer["nodes"]) - set(self.moved))
        self._expose_what_is_read()
        for name in self.inside:
            nodes[name] = deepcopy(outer["nodes"][name])
        self._cut_inputs()
        self._cut_values()
        self._take_dials()
        self._take_ties()
        self._cut_outputs()
        self._move_frames()
        order = list(outer["nodes"])
        at = max(order.index(name) for name in self.moved)
        rest = {name: outer["nodes"][name] for name in order[: at + 1] if name not in self.moved}
        rest[self.name] = self.node | ({"title": title} if title else {}) | {"graph": self.graph} | self._place()
        outer["nodes"] = rest | {name: outer["nodes"][name] for name in order[at + 1 :]}
        return self.name

    # ---- wires

    def _refuse_detours(self) -> None:
        """Refuse if a wire leads from the nodes to others and back: then they cannot be one."""
        nodes, within = self.outer["nodes"], set(self.inside)
        after: set[str] = set()
        grew = True
        while grew:
            grew = False
            for name, node in nodes.items():
                if name in within or name in after:
                    continue
                if any(feed in within or feed in after for feed in _all_feeds(node)):
                    after.add(name)
                    grew = True
        for name in self.inside:
            for feed in _all_feeds(nodes[name]):
                if feed in after:
                    title = nodes[feed].get("title") or feed
                    raise GraphError(
                        f"a wire leads from these cards to '{title}' and back; fold that one too", node=feed
                    )

    def _copy_values(self) -> None:
        """Value nodes that others read too stay outside as well."""
        nodes, within = self.outer["nodes"], set(self.inside)
        stay = {
            feed
            for name, node in nodes.items()
            if name not in within
            for feed in value_feeds(node).values()
            if feed in within
        }
        open_ = list(stay)
        while open_:
            for feed in value_feeds(nodes[open_.pop()]).values():
                if feed in within and feed not in stay:
                    stay.add(feed)
                    open_.append(feed)
        self.moved = [name for name in self.inside if name not in stay] or self.inside

    def _cut_inputs(self) -> None:
        nodes, within = self.graph["nodes"], set(self.inside)
        known: dict[str, str] = {}
        for name in self.inside:
            for entry, number, feed in list(feeds_in(nodes[name])):
                source = split_feed(feed)[0]
                if source in within:
                    continue
                if feed not in known:
                    known[feed] = self._add_input(feed, entry, nodes[name])
                nodes[name]["inputs"][entry][number] = known[feed]

    def _add_input(self, feed: str, entry: str, reader: dict[str, Any]) -> str:
        source = self.outer["nodes"].get(split_feed(feed)[0], {})
        port = next(
            (one for one in operator_of(reader).inputs_for(reader.get("parameters", {})) if one.name == entry), None
        )
        plain = slug(source.get("title") or split_feed(feed)[0], "geo")
        wanted = (
            "geo"
            if entry == "geo" and not self.graph["inputs"]
            else plain
            if entry == "geo" or (port and port.many)
            else entry
        )
        name = free_name(wanted, {one["name"] for one in self.graph["inputs"]})
        self.graph["inputs"].append({"name": name, "help": port.help if port else ""})
        node = free_name(f"in_{name}", {*self.graph["nodes"], *self.inside})
        self.graph["nodes"] = {node: {"operator": "input", "parameters": {"name": name}}, **self.graph["nodes"]}
        self.node["inputs"][name] = [feed]
        return node

    def _cut_outputs(self) -> None:
        within, moved = set(self.inside), set(self.moved)
        made: dict[str, str] = {}

        def change(feed: str) -> str:
            source, output = split_feed(feed)
            if source not in moved:
                return feed
            if feed not in made:
                made[feed] = self._add_output(feed, source, output, bool(made))
            return made[feed]

        readers = {name: node for name, node in self.outer["nodes"].items() if name not in within}
        outside = {**self.outer, "nodes": readers}
        map_feeds(outside, change)
        for key in ("looking_at", "result"):
            if key in self.outer:
                self.outer[key] = outside[key]
        if not made:
            fed = {feed for node in self.graph["nodes"].values() for feed in _all_feeds(node)}
            ends = [
                name
                for name in self.inside
                if name not in fed and operator_of(self.graph["nodes"][name]).writes is None
            ]
            for name in ends[:1]:
                change(name)

    def _add_output(self, feed: str, source: str, output: str, more: bool) -> str:
        wanted = output or ("geo" if not more else slug(self.graph["nodes"][source].get("title") or source))
        name = free_name(wanted, {one["name"] for one in self.graph["outputs"]})
        self.graph["outputs"].append({"name": name, "help": "", "feed": feed})
        return f"{self.name}:{name}" if more else self.name

    # ---- values

    def _cut_values(self) -> None:
        """Wires of values that come from outside become dials that such a wire drives."""
        within = set(self.inside)
        known: dict[str, str] = {}
        for name in self.inside:
            node = self.graph["nodes"][name]
            chosen = operator_of(node)
            for parameter, value in list(node.get("parameters", {}).items()):
                if not is_wire(value) or value["wire"] in within:
                    continue
                source = value["wire"]
                if source not in known:
                    declared = chosen.parameter(parameter)
                    dial = free_name(slug(source), self._taken())
                    siblings = {
                        one.name: node.get("parameters", {}).get(one.name, one.default) for one in chosen.parameters
                    }
                    self.graph["dials"][dial] = bound_dial(declared, declared.default, siblings, self._first_input())
                    self.node["parameters"][dial] = {"wire": source}
                    known[source] = dial
                node["parameters"][parameter] = {"dial": known[source]}

    def _take_dials(self) -> None:
        """Dials of the graph outside, and values of the loop around it, that the nodes read become dials inside."""
        outer = self.outer.get("dials", {})
        renamed: dict[str, str] = {}
        for name in self.inside:
            node = self.graph["nodes"][name]
            bound = {value["dial"] for value in _bound_values(node)}
            for dial in sorted((names_of(node) | bound) & set(outer)):
                self.graph["dials"].setdefault(dial, deepcopy(outer[dial]))
                self.node["parameters"].setdefault(dial, {"dial": dial})
            for value in sorted(names_of(node) & set(self.given)):
                if value not in renamed:
                    renamed[value] = free_name(f"{value}_outside", self._taken())
                    kind = "number" if value in NUMBERS else "integer"
                    self.graph["dials"][renamed[value]] = {"type": kind, "value": 0, "help": self.given[value]}
                    self.node["parameters"][renamed[value]] = {"formula": value}
            replace_in(node, renamed, {})

    def _take_ties(self) -> None:
        """Parameters outside that the nodes follow become dials that follow them."""
        within, outside = set(self.inside), self.outer["nodes"]
        known: dict[tuple[str, str], str] = {}
        for name in self.inside:
            node = self.graph["nodes"][name]
            for pair in sorted(members_of(node)):
                other, parameter = pair
                if other in within or other not in outside or other in node.get("inputs", {}):
                    continue
                if pair not in known:
                    chosen = operator_of(outside[other])
                    declared = next((one for one in chosen.parameters if one.name == parameter), None)
                    if declared is None:
                        continue
                    known[pair] = free_name(f"{other}_{parameter}", self._taken())
                    value = outside[other].get("parameters", {}).get(parameter, declared.default)
                    plain = declared.default if isinstance(value, dict) else value
                    dial = bound_dial(declared, plain, {}, self._first_input())
                    if dial["type"] == "varying":
                        dial["type"] = "vector" if isinstance(plain, list) else "number"
                        dial["value"] = plain if isinstance(plain, (list, int, float)) else 0.0
                    self.graph["dials"][known[pair]] = {
                        key: one for key, one in dial.items() if key not in ("low", "high")
                    }
                    self.node["parameters"][known[pair]] = {"formula": f"{other}.{parameter}"}
            replace_in(node, {}, known)

    def _expose_what_is_read(self) -> None:
        """Parameters of the nodes that others outside follow become dials, and those follow the dials."""
        within, nodes = set(self.inside), self.outer["nodes"]
        for name, node in nodes.items():
            if name in within:
                continue
            renamed: dict[tuple[str, str], str] = {}
            for other, parameter in sorted(members_of(node)):
                if other not in within or other in node.get("inputs", {}):
                    continue
                value = nodes[other].get("parameters", {}).get(parameter)
                if isinstance(value, dict) and not is_bound(value):
                    raise GraphError(
                        f"'{node.get('title') or name}' follows '{other}.{parameter}', which is a "
                        "formula; fold both, or give it a value",
                        node=name,
                    )
                if is_bound(value):
                    raise GraphError(
                        f"'{node.get('title') or name}' follows '{other}.{parameter}'; fold both", node=name
                    )
                inner = {"nodes": {other: nodes[other]}, "dials": self.graph["dials"]}
                dial = add_dial(inner, other, parameter, f"{other}_{parameter}")
                renamed[other, parameter] = f"{self.name}.{dial}"
            replace_in(node, {}, renamed)

    def _taken(self) -> set[str]:
        attributes = {name for node in self.graph["nodes"].values() for name in names_of(node)}
        return {*self.graph["dials"], *self.given, *attributes}

    def _first_input(self) -> str:
        return str(self.graph["inputs"][0]["name"]) if self.graph["inputs"] else "geo"

    # ---- the board

    def _move_frames(self) -> None:
        within = set(self.inside)
        frames = self.outer.get("frames", {})
        for key, frame in list(frames.items()):
            held = [name for name in frame["nodes"] if name in within]
            if held and len(held) == len(frame["nodes"]):
                self.graph.setdefault("frames", {})[key] = frames.pop(key)
            elif held:
                frame["nodes"] = [name for name in frame["nodes"] if name not in within] + [self.name]
        for jump, name in list(self.outer.get("jumps", {}).items()):
            if name in self.moved:
                self.outer["jumps"][jump] = self.name

    def _place(self) -> dict[str, Any]:
        placed = [self.outer["nodes"][name]["place"] for name in self.moved if self.outer["nodes"][name].get("place")]
        if len(placed) < len(self.moved):
            return {}
        return {"place": [round(sum(place[axis] for place in placed) / len(placed)) for axis in (0, 1)]}


def _all_feeds(node: dict[str, Any]) -> list[str]:
    return [split_feed(feed)[0] for _, _, feed in feeds_in(node)] + list(value_feeds(node).values())


def _bound_values(node: dict[str, Any]) -> list[dict[str, str]]:
    found = []
    for value in node.get("parameters", {}).values():
        found += [value] if is_bound(value) else []
        if isinstance(value, dict):
            found += [one for one in value.values() if is_bound(one)]
    return found
