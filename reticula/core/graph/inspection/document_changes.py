"""What differs between two graph documents, in words: nodes, their values, wires, dials, and the graphs inside."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from reticula.core.graph.structure.document import Document

__all__ = ["DocumentChange", "document_changes"]

UNTOLD = ("place", "operator_version")
"""Of a node: where its card lies, and what the service notes."""


@dataclass(frozen=True)
class DocumentChange:
    """One difference: the node it is of (``tile/ring`` inside of ``tile``; nothing: the graph) and what it is."""

    node: str
    what: str

    @property
    def text(self) -> str:
        """The difference as a line."""
        return f"{self.node}: {self.what}" if self.node else self.what


def document_changes(old: Document, new: Document) -> list[DocumentChange]:
    """Return what differs in ``new`` from ``old``, nodes in the order of the new one; places of cards are left out."""
    return _changes("", old, new)


def _changes(inside: str, old: Document, new: Document) -> list[DocumentChange]:
    here = inside.rstrip("/")
    found = [DocumentChange(here, what) for what in _of_graph(old, new)]
    before, after = old["nodes"], new["nodes"]
    renamed = _renamed(before, after)
    for was, name in renamed.items():
        found.append(DocumentChange(inside + name, f"was called {was}"))
    before = {renamed.get(name, name): node for name, node in before.items()}
    for name, node in after.items():
        if name not in before:
            found.append(DocumentChange(inside + name, f"new, {_operator(node)}"))
        elif before[name] != node:
            found += [DocumentChange(inside + name, what) for what in _of_node(before[name], node, renamed)]
            if "graph" in node and "graph" in before[name]:
                found += _changes(f"{inside}{name}/", before[name]["graph"], node["graph"])
    found += [
        DocumentChange(inside + name, f"gone, {_operator(node)}") for name, node in before.items() if name not in after
    ]
    return found


def _renamed(before: Mapping[str, Any], after: Mapping[str, Any]) -> dict[str, str]:
    """Return the names of nodes that are the same under another name, old to new, where that is certain."""
    gone = {name: _content(node) for name, node in before.items() if name not in after}
    came = {name: _content(node) for name, node in after.items() if name not in before}
    there, times = Counter(came.values()), Counter(gone.values())
    once = {content: name for name, content in came.items() if there[content] == 1}
    return {name: once[content] for name, content in gone.items() if content in once and times[content] == 1}


def _content(node: Mapping[str, Any]) -> str:
    return json.dumps({key: value for key, value in node.items() if key not in UNTOLD}, sort_keys=True)


def _operator(node: Mapping[str, Any]) -> str:
    return str(node["operator"]).replace("_", " ")


def _of_node(old: Mapping[str, Any], new: Mapping[str, Any], renamed: Mapping[str, str]) -> list[str]:
    found = []
    if old["operator"] != new["operator"]:
        found.append(f"{_operator(new)} instead of {_operator(old)}")
    if old.get("title") != new.get("title"):
        found.append(f"title {_short(old.get('title'))} → {_short(new.get('title'))}")
    if bool(old.get("skip")) != bool(new.get("skip")):
        found.append("skipped" if new.get("skip") else "not skipped any more")
    found += _values(old.get("parameters", {}), new.get("parameters", {}))
    ours = {port: [_fed(feed, renamed) for feed in feeds] for port, feeds in old.get("inputs", {}).items()}
    theirs = new.get("inputs", {})
    for port in {**ours, **theirs}:
        before, after = ours.get(port, []), list(theirs.get(port, []))
        if before != after:
            found.append(f"{port} from {', '.join(after) or 'nothing'} instead of {', '.join(before) or 'nothing'}")
    if ("graph" in old) != ("graph" in new):
        found.append("holds a graph of its own" if "graph" in new else "holds no graph any more")
    return found


def _fed(feed: str, renamed: Mapping[str, str]) -> str:
    name, colon, output = feed.partition(":")
    return renamed.get(name, name) + colon + output


def _values(old: Mapping[str, Any], new: Mapping[str, Any]) -> list[str]:
    return [
        f"{name} {_short(old.get(name), 'default')} → {_short(new.get(name), 'default')}"
        for name in {**old, **new}
        if old.get(name) != new.get(name) or (name in old) != (name in new)
    ]


def _of_graph(old: Document, new: Document) -> list[str]:
    found = []
    before, after = old.get("dials", {}), new.get("dials", {})
    for name in {**before, **after}:
        if name not in before:
            found.append(f"new dial {name} = {_short(after[name].get('value'))}")
        elif name not in after:
            found.append(f"the dial {name} is gone")
        elif before[name] != after[name]:
            found += [f"dial {name}: {what}" for what in _values(before[name], after[name])]
    for side in ("inputs", "outputs"):
        names = [[entry["name"] for entry in document.get(side, [])] for document in (old, new)]
        if names[0] != names[1]:
            found.append(f"{side}: {', '.join(names[1]) or 'none'} instead of {', '.join(names[0]) or 'none'}")
        elif old.get(side, []) != new.get(side, []):
            found.append(f"what is said of the {side}")
    told = {"format", "version", "nodes", "dials", "inputs", "outputs"}
    for key in {**old, **new}:
        if key not in told and old.get(key) != new.get(key):
            found.append(f"{key.replace('_', ' ')} {_short(old.get(key))} → {_short(new.get(key))}")
    return found


def _short(value: Any, none: str = "none") -> str:
    if value is None:
        return none
    if isinstance(value, dict) and len(value) == 1:
        kind, inner = next(iter(value.items()))
        if kind in ("formula", "wire", "dial"):
            return f"{kind} {_short(inner)}"
    text = value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)
    return text if len(text) <= 60 else text[:57] + "…"
