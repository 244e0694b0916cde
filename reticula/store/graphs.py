"""Graphs and their edit log. Every change is a JSON Patch (RFC 6902) against a revision, kept as it arrives."""

from __future__ import annotations

import json
from typing import Any

import jsonpatch
from jsonpointer import JsonPointerException
from sqlalchemy import select
from sqlalchemy.orm import Session

from reticula.core.errors import GraphError
from reticula.core.graph import check_structure, empty_document
from reticula.store import projects
from reticula.store.errors import NotFound, Stale, StoreError
from reticula.store.models import Edit, Graph

__all__ = [
    "apply_patch",
    "create",
    "delete",
    "document_at",
    "drafted",
    "edit",
    "get",
    "history",
    "list_of",
    "redo",
    "state",
    "undo",
]

Patch = list[dict[str, Any]]


def list_of(session: Session, project_id: str) -> list[Graph]:
    """Return the graphs of a project, oldest first."""
    projects.get(session, project_id)
    found = select(Graph).where(Graph.project_id == project_id).order_by(Graph.created_at, Graph.id)
    return list(session.scalars(found))


def get(session: Session, graph_id: str, *, lock: bool = False) -> Graph:
    """Return a graph; raise NotFound. ``lock`` keeps others from editing it until the session ends."""
    found = session.get(Graph, graph_id, with_for_update=lock or None)
    if found is None:
        raise NotFound(f"There is no graph '{graph_id}'.")
    return found


def create(session: Session, project_id: str, title: str, document: dict[str, Any] | None = None) -> Graph:
    """Make a graph; raise GraphError if the given document is not valid."""
    projects.get(session, project_id)
    made = dict(document) if document is not None else empty_document()
    made["title"] = title
    check_structure(made)
    graph = Graph(project_id=project_id, title=title, revision=0, document=_text(made))
    session.add(graph)
    session.flush()
    return graph


def delete(session: Session, graph_id: str) -> None:
    session.delete(get(session, graph_id))


def apply_patch(document: dict[str, Any], patch: Patch) -> dict[str, Any]:
    """Return the patched document; raise GraphError if the patch does not fit or the result is not valid."""
    try:
        patched: dict[str, Any] = jsonpatch.JsonPatch(patch).apply(document)
    except (jsonpatch.JsonPatchException, JsonPointerException, TypeError, KeyError, ValueError) as error:
        raise GraphError(f"the edit does not fit the graph: {error}") from None
    check_structure(patched)
    return patched


def edit(session: Session, graph_id: str, revision: int, patch: Patch, label: str = "") -> Graph:
    """Apply an edit made against ``revision``; raise Stale if that is not the newest, GraphError if it is not valid."""
    graph = _at_revision(session, graph_id, revision)
    before = json.loads(graph.document)
    after = apply_patch(before, patch)
    return _record(session, graph, after, "edit", None, label, patch, jsonpatch.make_patch(after, before).patch)


def undo(session: Session, graph_id: str, revision: int) -> Graph:
    """Take the last edit back that was not taken back yet."""
    graph = _at_revision(session, graph_id, revision)
    done, _ = _stacks(session, graph_id)
    if not done:
        raise StoreError("There is nothing to undo.")
    target = _edit_at(session, graph_id, done[-1])
    return _replay(session, graph, "undo", target, json.loads(target.inverse), json.loads(target.patch))


def redo(session: Session, graph_id: str, revision: int) -> Graph:
    """Do the edit again that was taken back last."""
    graph = _at_revision(session, graph_id, revision)
    _, undone = _stacks(session, graph_id)
    if not undone:
        raise StoreError("There is nothing to redo.")
    target = _edit_at(session, graph_id, undone[-1])
    return _replay(session, graph, "redo", target, json.loads(target.patch), json.loads(target.inverse))


def history(session: Session, graph_id: str) -> list[Edit]:
    """Return the whole edit log, oldest first."""
    get(session, graph_id)
    return list(session.scalars(select(Edit).where(Edit.graph_id == graph_id).order_by(Edit.revision)))


def document_at(session: Session, graph: Graph, revision: int) -> dict[str, Any]:
    """Return the document as it was at a revision, found by taking later edits back; raise GraphError if there is
    none.
    """
    if not 0 <= revision <= graph.revision:
        raise GraphError(f"there is no revision {revision} of this graph; the newest is {graph.revision}")
    document: dict[str, Any] = json.loads(graph.document)
    later = (
        select(Edit.inverse).where(Edit.graph_id == graph.id, Edit.revision > revision).order_by(Edit.revision.desc())
    )
    for inverse in session.scalars(later):
        document = jsonpatch.apply_patch(document, json.loads(inverse))
    return document


def drafted(session: Session, graph: Graph, draft: Patch, revision: int | None) -> dict[str, Any]:
    """Return the document at a ``revision`` (none: the newest) with a draft on top.

    A draft belongs on the revision it was made against, so that an edit in it that is being saved at the same time is
    not applied twice.
    """
    document = document_at(session, graph, graph.revision if revision is None else revision)
    return apply_patch(document, draft) if draft else document


def state(session: Session, graph: Graph) -> dict[str, Any]:
    """Return a graph as plain data, with the labels of what undo and redo would do (None: nothing)."""
    done, undone = _stacks(session, graph.id)
    return {
        "id": graph.id,
        "project_id": graph.project_id,
        "title": graph.title,
        "revision": graph.revision,
        "document": json.loads(graph.document),
        "undo": _edit_at(session, graph.id, done[-1]).label if done else None,
        "redo": _edit_at(session, graph.id, undone[-1]).label if undone else None,
    }


def _at_revision(session: Session, graph_id: str, revision: int) -> Graph:
    graph = get(session, graph_id, lock=True)
    if graph.revision != revision:
        raise Stale(state(session, graph))
    return graph


def _stacks(session: Session, graph_id: str) -> tuple[list[int], list[int]]:
    """Return the revisions of the edits that can be undone and redone, last one to act on at the end."""
    done: list[int] = []
    undone: list[int] = []
    rows = select(Edit.kind, Edit.revision, Edit.target).where(Edit.graph_id == graph_id).order_by(Edit.revision)
    for kind, revision, target in session.execute(rows):
        if kind == "edit":
            done.append(revision)
            undone.clear()
        elif kind == "undo":
            done.remove(target)
            undone.append(target)
        else:
            undone.remove(target)
            done.append(target)
    return done, undone


def _edit_at(session: Session, graph_id: str, revision: int) -> Edit:
    return session.scalars(select(Edit).where(Edit.graph_id == graph_id, Edit.revision == revision)).one()


def _replay(session: Session, graph: Graph, kind: str, target: Edit, patch: Patch, inverse: Patch) -> Graph:
    after = apply_patch(json.loads(graph.document), patch)
    return _record(session, graph, after, kind, target.revision, target.label, patch, inverse)


def _record(
    session: Session,
    graph: Graph,
    after: dict[str, Any],
    kind: str,
    target: int | None,
    label: str,
    patch: Patch,
    inverse: Patch,
) -> Graph:
    graph.revision += 1
    graph.document = _text(after)
    graph.title = str(after.get("title") or graph.title)[:200]
    session.add(
        Edit(
            graph_id=graph.id,
            revision=graph.revision,
            kind=kind,
            target=target,
            label=label[:200],
            patch=_text(patch),
            inverse=_text(inverse),
        )
    )
    session.flush()
    return graph


def _text(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"), allow_nan=False)
