"""``reticula diff``: two mesh files, or two graph documents or packages, held against each other, in words."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import click

from reticula.cli.console import Step, progress
from reticula.cli.options import JSON
from reticula.core.errors import GraphError
from reticula.core.formats import read_file
from reticula.core.graph.inspection.document_changes import document_changes
from reticula.core.packages import load_package
from reticula.core.packages.opened import read_document
from reticula.core.reports.comparison import compare

__all__ = ["diff_command"]

FILE = click.Path(dir_okay=False, path_type=Path)


@click.command("diff")
@click.argument("old", type=FILE)
@click.argument("new", type=FILE)
@JSON
def diff_command(old: Path, new: Path, as_json: bool) -> int:
    """Say what differs in NEW from OLD; both are meshes, or both are graphs (JSON) or packages (zip).

    Ends with code 0 if they are the same, with 3 if they differ.
    """
    graphs = {path.suffix.lower() in (".json", ".zip") for path in (old, new)}
    if len(graphs) > 1:
        raise GraphError(f"{old} and {new} cannot be compared: one is a graph, the other one a mesh")
    with progress(f"{old.name}, {new.name}") as step:
        told = _graphs(old, new) if graphs.pop() else _meshes(old, new, step)
    lines: list[str] = told["lines"]
    print(json.dumps(told, indent=2) if as_json else "\n".join(lines) or "the same")
    return 3 if told["differ"] else 0


def _graphs(old: Path, new: Path) -> dict[str, Any]:
    found = document_changes(_document(old), _document(new))
    changes = [{"node": one.node, "what": one.what} for one in found]
    return {"differ": bool(found), "changes": changes, "lines": [one.text for one in found]}


def _document(path: Path) -> dict[str, Any]:
    if path.suffix.lower() == ".zip":
        package = load_package(path)
        graph: dict[str, Any] = package.definitions[package.main]["graph"]
        return graph
    return read_document(path)


def _meshes(old: Path, new: Path, step: Step) -> dict[str, Any]:
    step(0, 3, f"reading {old.name}")
    before = read_file(old)
    step(1, 3, f"reading {new.name}")
    after = read_file(new)
    if before.digest == after.digest:
        nothing: dict[str, Any] = {"counts": {}, "attributes": [], "rewired": [], "lines": []}
        return {"differ": False, "moved": 0, "farthest": 0.0, **nothing}
    step(2, 3, "comparing")
    found = compare(after, before)
    lines = [f"{count:,} {kind} ({more:+,})" for kind, (count, more) in found.counts.items() if more]
    lines += [f"{one.kind} {one.name}: {one.what}" for one in found.attributes]
    if found.moved:
        lines.append(f"{found.moved:,} points are off the other one, at most {found.farthest:.6g} m")
    if found.rewired:
        lines.append(f"{' and '.join(found.rewired)} go over other points")
    lines = lines or ["elements are ordered in another way"]
    return {
        "differ": True,
        "counts": {kind: {"now": count, "more": more} for kind, (count, more) in found.counts.items()},
        "attributes": [{"kind": one.kind, "name": one.name, "what": one.what} for one in found.attributes],
        "moved": found.moved,
        "farthest": found.farthest,
        "rewired": found.rewired,
        "lines": lines,
    }
