"""Publishing: from a folded card to a definition, its example tried, held against the release before it."""

from __future__ import annotations

from copy import deepcopy
from dataclasses import dataclass, field
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.levels import level_of
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import ancestors, empty_document
from reticula.core.graph.structure.library import library
from reticula.core.operators.shared.resources import Resources
from reticula.core.packages.definition import Definition, check_definition, map_shapes, package_shapes, release_of
from reticula.core.packages.differences import Differences, differences, least_release
from reticula.core.packages.examples import Trial, run_examples

__all__ = ["Publication", "prepare"]


@dataclass(frozen=True)
class Publication:
    """A definition that may be published, what differs from the release before, and what it breaks, in words."""

    definition: dict[str, Any]
    trials: list[Trial]
    before: str | None = None
    found: Differences = field(default_factory=Differences)
    breaks: tuple[str, ...] = ()


def prepare(
    document: dict[str, Any],
    path: str,
    node: str,
    about: dict[str, Any],
    *,
    shapes: Resources | None = None,
    stored: dict[str, tuple[str, dict[str, str]]] | None = None,
) -> Publication:
    """Return what would be published of a folded node. ``about`` holds name, release, title, summary, help, tags,
    changes.

    ``stored`` says, for each project shape that is used, under which name (with its content) it goes along, and its
    entry for the definition. Raises GraphError if the node is not folded, the release does not follow the one before,
    or the example does not run.
    """
    level = level_of(document, path)
    entry = level["nodes"].get(node)
    if entry is None or entry["operator"] != "folded" or "graph" not in entry:
        raise GraphError("only a folded card can be published; fold the cards first", node=node)
    release_of(about.get("release", ""))
    graph = deepcopy(entry["graph"])
    graph.pop("looking_at", None)
    graph["title"] = about.get("title") or entry.get("title") or about["name"]
    for name, value in entry.get("parameters", {}).items():
        if name in graph.get("dials", {}) and not isinstance(value, dict):
            graph["dials"][name]["value"] = deepcopy(value)
            graph["dials"][name].pop("default", None)
    definition: dict[str, Any] = {
        "format": "reticula operator",
        "version": 1,
        **{key: value for key, value in about.items() if value not in ("", [], None)},
        "graph": graph,
    }
    example = _example(level, path, node, definition)
    needed = package_shapes(graph) | (package_shapes(example["graph"]) if example else set())
    going = {shape: found for shape, found in (stored or {}).items() if shape in needed}
    names = {shape: name for shape, (name, _) in going.items()}
    map_shapes(graph, names)
    if going:
        definition["shapes"] = {name: dict(told) for name, told in going.values()}
    check_definition(definition)
    examples = []
    if example:
        map_shapes(example["graph"], names)
        [trial] = run_examples(definition, [example], shapes)
        if trial.trouble:
            raise GraphError(f"the example does not run: {trial.trouble}", node=node)
        examples = [{**example, "expected": trial.found}]
    return _against_the_last(definition, examples, shapes)


def _example(level: dict[str, Any], path: str, node: str, definition: dict[str, Any]) -> dict[str, Any] | None:
    """Return the card with all that feeds it as an example; None where that hangs on what comes in from outside."""
    names = ancestors(level, node)
    nodes = {name: deepcopy(level["nodes"][name]) for name in level["nodes"] if name in names}
    if any(one["operator"] == "input" for one in nodes.values()):
        return None
    graph = {
        **empty_document(),
        "title": definition["graph"]["title"],
        "dials": deepcopy(level.get("dials", {})),
        "nodes": nodes,
        "result": node,
    }
    used = nodes[node]
    del used["graph"]
    used["operator"] = f"{definition['name']}@{definition['release']}"
    inputs = operator_of(level["nodes"][node]).inputs
    if any(not port.optional and not used.get("inputs", {}).get(port.name) for port in inputs):
        return None
    return {"title": "As it was when it was published", "graph": graph, "node": node}


def _against_the_last(definition: dict[str, Any], examples: list[Any], shapes: Resources | None) -> Publication:
    releases = library().releases(definition["name"])
    if not releases:
        return Publication({**definition, "examples": examples}, run_examples(definition, examples, shapes))
    before: Definition | None = library().definition(f"{definition['name']}@{releases[-1]}")
    assert before is not None
    if release_of(definition["release"]) <= release_of(releases[-1]):
        raise GraphError(
            f"{definition['name']} {releases[-1]} is published; a new release must be larger", parameter="release"
        )
    found = differences(before, definition)
    least = least_release(releases[-1], found)
    if release_of(definition["release"]) < release_of(least):
        why = f"gone: {'; '.join(found.gone)}" if found.gone else f"new: {'; '.join(found.new)}"
        raise GraphError(
            f"this must be {least} at least, since there is {found.step} change ({why})", parameter="release"
        )
    breaks = [
        f"the example '{trial.title}' of {releases[-1]}: {trial.trouble}"
        for trial in run_examples(definition, list(before.get("examples", [])), shapes)
        if trial.trouble
    ]
    promised = before["graph"].get("contracts", [])
    kept = definition["graph"].get("contracts", [])
    breaks += [f"the promise '{one['what']}' is not made any more" for one in promised if one not in kept]
    trials = run_examples(definition, examples, shapes)
    return Publication({**definition, "examples": examples}, trials, releases[-1], found, tuple(breaks))
