"""The history of a graph: its edits in order, the graph as it was at each of them, and names for moments."""

from __future__ import annotations

import json
from collections import OrderedDict
from dataclasses import dataclass
from datetime import UTC, datetime
from threading import Lock
from typing import Any

import jsonpatch
from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from reticula.core.errors import GraphError
from reticula.store.models import Edit, Graph, Moment

__all__ = ["Entry", "document_at", "entries", "name_moment"]

MOST_LETTERS = 64 * 1024**2
"""Of documents of earlier moments that are kept in memory."""
MOST_NAMED = 2_000


@dataclass(frozen=True)
class Entry:
    """An edit of the log: what it led to, when it was made and by whom, and the name of the moment after it.

    ``target`` is the edit that was undone or redone.
    """

    revision: int
    kind: str
    label: str
    target: int | None
    author: str
    at: datetime
    name: str


def entries(session: Session, graph_id: str) -> list[Entry]:
    """Return the whole edit log, oldest first, without what the edits did."""
    named = session.execute(select(Moment.revision, Moment.name).where(Moment.graph_id == graph_id))
    names: dict[int, str] = {revision: name for revision, name in named}  # noqa: C416
    columns = (Edit.revision, Edit.kind, Edit.label, Edit.target, Edit.author, Edit.created_at)
    found = session.execute(select(*columns).where(Edit.graph_id == graph_id).order_by(Edit.revision))
    return [
        Entry(revision, kind, label, target, author, at.replace(tzinfo=UTC), names.get(revision, ""))
        for revision, kind, label, target, author, at in found
    ]


class _Kept:
    """The few documents of earlier moments that were looked at last, as text, by graph and revision: going back and
    forth takes back only the edits between two of them. What an edit led to never changes.
    """

    def __init__(self) -> None:
        self._texts: OrderedDict[tuple[str, int], str] = OrderedDict()
        self._letters = 0
        self._lock = Lock()

    def nearest(self, graph_id: str, revision: int) -> tuple[int, str] | None:
        """The document of the first kept moment that is not before a revision."""
        with self._lock:
            later = [at for graph, at in self._texts if graph == graph_id and at >= revision]
            if not later:
                return None
            key = (graph_id, min(later))
            self._texts.move_to_end(key)
            return key[1], self._texts[key]

    def keep(self, graph_id: str, revision: int, text: str) -> None:
        with self._lock:
            self._letters += len(text) - len(self._texts.pop((graph_id, revision), ""))
            self._texts[graph_id, revision] = text
            while self._letters > MOST_LETTERS:
                self._letters -= len(self._texts.popitem(last=False)[1])


_kept = _Kept()


def document_at(session: Session, graph: Graph, revision: int) -> dict[str, Any]:
    """Return the document as it was at a revision, found by taking later edits back; raise GraphError if there is
    none.
    """
    if not 0 <= revision <= graph.revision:
        raise GraphError(f"there is no revision {revision} of this graph; the newest is {graph.revision}")
    begin, text = graph.revision, graph.document
    if revision == begin:
        newest: dict[str, Any] = json.loads(text)
        return newest
    known = _kept.nearest(graph.id, revision)
    if known is not None and known[0] < begin:
        begin, text = known
    document: dict[str, Any] = json.loads(text)
    later = (
        select(Edit.inverse)
        .where(Edit.graph_id == graph.id, Edit.revision > revision, Edit.revision <= begin)
        .order_by(Edit.revision.desc())
    )
    for inverse in session.scalars(later):
        document = jsonpatch.apply_patch(document, json.loads(inverse), in_place=True)
    _kept.keep(graph.id, revision, json.dumps(document, ensure_ascii=False))
    return document


def name_moment(session: Session, graph: Graph, revision: int, name: str) -> None:
    """Give the graph as it was at a revision a name, or take it away by an empty one; raise GraphError if there is no
    such revision, or too many have names.
    """
    if not 0 <= revision <= graph.revision:
        raise GraphError(f"there is no revision {revision} of this graph; the newest is {graph.revision}")
    session.execute(delete(Moment).where(Moment.graph_id == graph.id, Moment.revision == revision))
    if not name.strip():
        return
    if len(list(session.scalars(select(Moment.revision).where(Moment.graph_id == graph.id)))) >= MOST_NAMED:
        raise GraphError(f"{MOST_NAMED:,} moments of this graph have names, which is the most; take one away first")
    session.add(Moment(graph_id=graph.id, revision=revision, name=name.strip()[:80]))
