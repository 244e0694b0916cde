"""Who is at a graph: pages tell where they are, and hear of others and of edits as soon as there is something new.

A page asks again and again; each question waits, without a thread, until somebody comes, goes, looks elsewhere or edits
(see :mod:`reticula.service.serving.parking`).
"""

from __future__ import annotations

import json
from typing import Any

from flask_openapi3 import APIBlueprint, Tag
from sqlalchemy import select
from sqlalchemy.orm import Session

from reticula.service.answers import Answer
from reticula.service.company.rooms import Person, Room
from reticula.service.context import context
from reticula.service.people.principal import principal
from reticula.service.schemas import CompanyRequest, CompanyState, ErrorState, GraphPath
from reticula.service.serving.parking import answer_later
from reticula.store import graphs
from reticula.store.models import Edit
from reticula.store.rebasing import paths_of

__all__ = ["blueprint"]

MOST_EDITS, MOST_PATHS = 200, 200
TOLD = (Edit.revision, Edit.kind, Edit.label, Edit.author, Edit.idempotency_key, Edit.patch)
"""What a page is told of an edit."""
blueprint = APIBlueprint("company", __name__, url_prefix="/api", abp_tags=[Tag(name="company")])


@blueprint.post("/graphs/<graph_id>/company", responses={200: CompanyState, 422: ErrorState})
def meet(path: GraphPath, body: CompanyRequest) -> Answer:
    """Tell where a page is, and wait for news: others come, go or look elsewhere, or the graph has another revision.

    The answer has the graph only if others edited it since the revision that the page knows: its own edits, whose keys
    begin with its name, were answered when they were made.
    """
    person = Person(principal().name, body.looking_at, body.level)
    news = context().rooms.arrive(path.graph_id, body.page, person, body.version)
    with context().database.session() as session:
        graphs.get(session, path.graph_id)
        if _others_edited(session, path.graph_id, body):
            news.wake_all()
    return answer_later(news, body.wait, lambda: _news(news.room, path.graph_id, body))


def _news(room: Room, graph_id: str, body: CompanyRequest) -> dict[str, Any]:
    version, others = room.version, room.others(body.page)
    found: dict[str, Any] = {
        "version": version,
        "people": [{"page": page, **person.__dict__} for page, person in others.items()],
        "graph": None,
        "edits": [],
    }
    with context().database.session() as session:
        if not _others_edited(session, graph_id, body):
            return found
        since = select(*TOLD).where(Edit.graph_id == graph_id, Edit.revision > body.revision)
        newest = session.execute(since.order_by(Edit.revision.desc()).limit(MOST_EDITS)).all()
        told = [_told(*edit) for edit in reversed(newest)]
        return {**found, "graph": graphs.state(session, graphs.get(session, graph_id)), "edits": told}


def _others_edited(session: Session, graph_id: str, body: CompanyRequest) -> bool:
    """Whether anybody but the page edited the graph since the revision that it knows."""
    keys = select(Edit.idempotency_key).where(Edit.graph_id == graph_id, Edit.revision > body.revision)
    own = f"{body.page}-"
    return any(not (key or "").startswith(own) for key in session.scalars(keys))


def _told(revision: int, kind: str, label: str, author: str, key: str | None, patch: str) -> dict[str, Any]:
    return {
        "revision": revision,
        "kind": kind,
        "label": label,
        "author": author,
        "key": key or "",
        "paths": ["/".join(("", *place)) for place in paths_of(json.loads(patch))[:MOST_PATHS]],
    }
