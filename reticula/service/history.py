"""The history of a graph: every edit, the graph as it was, names for moments, and the way back to one."""

from __future__ import annotations

from flask_openapi3 import APIBlueprint, Tag

from reticula.core.graph.inspection.document_changes import document_changes
from reticula.core.graph.structure.linked import resolved
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.graphs import EDITED, told
from reticula.service.people.principal import principal
from reticula.service.schemas import (
    BackRequest,
    ErrorState,
    GraphPath,
    MomentName,
    MomentPath,
    MomentsCompared,
    MomentsQuery,
    MomentState,
)
from reticula.store import graphs, history

__all__ = ["blueprint"]

MOST_CHANGES = 500
blueprint = APIBlueprint("history", __name__, url_prefix="/api", abp_tags=[Tag(name="history")])


@blueprint.get("/graphs/<graph_id>/moments/<int:revision>", responses={200: MomentState, 422: ErrorState})
def read_moment(path: MomentPath) -> Answer:
    """Read the graph as it was at a revision; nothing changes."""
    with context().database.session() as session:
        graph = graphs.get(session, path.graph_id)
        return {"revision": path.revision, "document": history.document_at(session, graph, path.revision)}


@blueprint.put("/graphs/<graph_id>/moments/<int:revision>", responses={204: None, 422: ErrorState})
def name_moment(path: MomentPath, body: MomentName) -> Answer:
    """Give the graph as it was at a revision a name; an empty one takes it away."""
    with context().database.session() as session:
        history.name_moment(session, graphs.get(session, path.graph_id), path.revision, body.name)
    return "", 204


@blueprint.post("/graphs/<graph_id>/back", responses=EDITED)
def go_back(path: GraphPath, body: BackRequest) -> Answer:
    """Make the graph what it was at a revision, by an edit that can be undone."""
    with context().database.session() as session:
        graph = graphs.go_back(session, path.graph_id, body.revision, body.to, body.label, body.key, principal().name)
        made = graphs.state(session, graph)
    return told(made, body.key)


@blueprint.get("/graphs/<graph_id>/moments", responses={200: MomentsCompared, 422: ErrorState})
def compare_moments(path: GraphPath, query: MomentsQuery) -> Answer:
    """Say in words what differs between the graph at two revisions."""
    with context().database.session() as session:
        graph = graphs.get(session, path.graph_id)
        old, new = (resolved(history.document_at(session, graph, at)) for at in (query.old, query.new))
    found = document_changes(old, new)
    return {
        "changes": [{"node": one.node, "what": one.what} for one in found[:MOST_CHANGES]],
        "more": max(len(found) - MOST_CHANGES, 0),
    }
