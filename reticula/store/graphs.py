"""Graphs and their edit log. Every change is a JSON Patch (RFC 6902) against a revision, kept as it arrives."""

from __future__ import annotations

import json
from typing import Any

import jsonpatch
from sqlalchemy import select
from sqlalchemy.orm import Session

from reticula.core.errors import GraphError
from reticula.core.graph import check_structure, empty_document
from reticula.core.graph.structure.extent import MOST_BYTES
from reticula.store import history, projects
from reticula.store.errors import NotFound, Stale, StoreError
from reticula.store.models import Edit, Graph
from reticula.store.patching import Patch, apply_patch, check_form
from reticula.store.rebasing import fits_on_top

__all__ = [
    "create",
    "delete",
    "drafted",
    "edit",
    "get",
    "go_back",
    "list_of",
    "redo",
    "state",
    "undo",
]

MOST_SINCE = 1_000
"""Edits of others that an edit is put on top of."""


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


def edit(
    session: Session, graph_id: str, revision: int, patch: Patch, label: str = "", key: str = "", author: str = ""
) -> Graph:
    """Apply an edit made against ``revision``; raise GraphError if it is not valid.

    If others edited the graph since, it goes on top of that where it fits; else Stale is raised. One that was applied
    before under the same ``key`` is not applied again: its sender lost the answer.
    """
    graph = get(session, graph_id, lock=True)
    if _is_applied(session, graph_id, key):
        return graph
    before = json.loads(graph.document)
    if graph.revision == revision:
        after = apply_patch(before, patch)
    else:
        after = _on_top(session, graph, revision, before, patch)
    back = jsonpatch.make_patch(after, before).patch
    made = Edit(kind="edit", label=label[:200], idempotency_key=key or None, undo_below=graph.undo_revision)
    made.author = author[:64]
    _record(session, graph, after, made, patch, back)
    graph.undo_revision, graph.redo_revision = graph.revision, None
    return graph


def go_back(
    session: Session, graph_id: str, revision: int, to: int, label: str = "", key: str = "", author: str = ""
) -> Graph:
    """Make a graph what it was at the revision ``to``, by an edit; raise Stale if ``revision`` is not the newest, and
    GraphError if it is the same as then, or there is no such revision.
    """
    graph = get(session, graph_id, lock=True)
    if _is_applied(session, graph_id, key):
        return graph
    _must_be_at(session, graph, revision)
    patch = jsonpatch.make_patch(json.loads(graph.document), history.document_at(session, graph, to)).patch
    if not patch:
        raise GraphError("the graph is the same as it was then")
    return edit(session, graph_id, revision, patch, label, key, author)


def _on_top(session: Session, graph: Graph, revision: int, now: dict[str, Any], patch: Patch) -> dict[str, Any]:
    """Return the newest document with an edit on top that was made against an earlier one; raise Stale."""
    if not 0 <= graph.revision - revision <= MOST_SINCE:
        raise Stale(state(session, graph))
    check_form(patch)
    texts = select(Edit.patch).where(Edit.graph_id == graph.id, Edit.revision > revision).order_by(Edit.revision)
    if not fits_on_top(patch, [json.loads(text) for text in session.scalars(texts)]):
        raise Stale(state(session, graph))
    try:
        return apply_patch(now, patch)
    except GraphError:
        raise Stale(state(session, graph)) from None


def _is_applied(session: Session, graph_id: str, key: str) -> bool:
    """Whether something was done to a graph under a key already; never without one."""
    if not key:
        return False
    found = select(Edit.id).where(Edit.graph_id == graph_id, Edit.idempotency_key == key)
    return session.scalars(found).first() is not None


def undo(session: Session, graph_id: str, revision: int, key: str = "", author: str = "") -> Graph:
    """Take the last edit back that was not taken back yet; under a ``key`` only once, as :func:`edit` does."""
    graph = get(session, graph_id, lock=True)
    if _is_applied(session, graph_id, key):
        return graph
    _must_be_at(session, graph, revision)
    if graph.undo_revision is None:
        raise StoreError("There is nothing to undo.")
    target = _edit_at(session, graph_id, graph.undo_revision)
    graph.undo_revision = target.undo_below
    target.redo_below, graph.redo_revision = graph.redo_revision, target.revision
    return _replay(session, graph, Edit(kind="undo", idempotency_key=key or None, author=author[:64]), target)


def redo(session: Session, graph_id: str, revision: int, key: str = "", author: str = "") -> Graph:
    """Do the edit again that was taken back last; under a ``key`` only once, as :func:`edit` does."""
    graph = get(session, graph_id, lock=True)
    if _is_applied(session, graph_id, key):
        return graph
    _must_be_at(session, graph, revision)
    if graph.redo_revision is None:
        raise StoreError("There is nothing to redo.")
    target = _edit_at(session, graph_id, graph.redo_revision)
    graph.redo_revision = target.redo_below
    target.undo_below, graph.undo_revision = graph.undo_revision, target.revision
    return _replay(session, graph, Edit(kind="redo", idempotency_key=key or None, author=author[:64]), target)


def drafted(session: Session, graph: Graph, draft: Patch, revision: int | None) -> dict[str, Any]:
    """Return the document at a ``revision`` (none: the newest) with a draft on top.

    A draft belongs on the revision it was made against, so that an edit in it that is being saved at the same time is
    not applied twice.
    """
    document = history.document_at(session, graph, graph.revision if revision is None else revision)
    return apply_patch(document, draft) if draft else document


def state(session: Session, graph: Graph) -> dict[str, Any]:
    """Return a graph as plain data, with the labels of what undo and redo would do (None: nothing)."""

    def label(at: int | None) -> str | None:
        return None if at is None else _edit_at(session, graph.id, at).label

    return {
        "id": graph.id,
        "project_id": graph.project_id,
        "title": graph.title,
        "revision": graph.revision,
        "document": json.loads(graph.document),
        "undo": label(graph.undo_revision),
        "redo": label(graph.redo_revision),
    }


def _must_be_at(session: Session, graph: Graph, revision: int) -> None:
    if graph.revision != revision:
        raise Stale(state(session, graph))


def _edit_at(session: Session, graph_id: str, revision: int) -> Edit:
    return session.scalars(select(Edit).where(Edit.graph_id == graph_id, Edit.revision == revision)).one()


def _replay(session: Session, graph: Graph, made: Edit, target: Edit) -> Graph:
    made.label, made.target = target.label, target.revision
    back, forth = json.loads(target.inverse), json.loads(target.patch)
    patch, inverse = (back, forth) if made.kind == "undo" else (forth, back)
    return _record(session, graph, apply_patch(json.loads(graph.document), patch), made, patch, inverse)


def _record(session: Session, graph: Graph, after: dict[str, Any], made: Edit, patch: Patch, inverse: Patch) -> Graph:
    """Keep the document after an edit, and the edit with the patch that leads there and the one that leads back."""
    graph.revision += 1
    graph.document = _text(after)
    if len(graph.document) > MOST_BYTES:
        raise GraphError(f"the graph would be larger than {MOST_BYTES // 1024**2} MB as text; keep data in shapes")
    graph.title = str(after.get("title") or graph.title)[:200]
    made.graph_id, made.revision = graph.id, graph.revision
    made.patch, made.inverse = _text(patch), _text(inverse)
    session.add(made)
    session.flush()
    return graph


def _text(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"), allow_nan=False)
