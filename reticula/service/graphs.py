"""Graphs: documents, edits, undo and redo."""

from __future__ import annotations

from http import HTTPStatus
from typing import Any

from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel

from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.schemas import (
    EditList,
    EditRequest,
    ErrorState,
    GraphList,
    GraphPath,
    GraphState,
    NewGraph,
    ProjectPath,
    RevisionRequest,
)
from reticula.store import graphs

__all__ = ["blueprint"]

blueprint = APIBlueprint("graphs", __name__, url_prefix="/api", abp_tags=[Tag(name="graphs")])
Responses = dict[str | int | HTTPStatus, type[BaseModel] | dict[Any, Any] | None]
EDITED: Responses = {200: GraphState, 409: ErrorState, 422: ErrorState}


@blueprint.get("/projects/<project_id>/graphs", responses={200: GraphList})
def list_graphs(path: ProjectPath) -> Answer:
    """List the graphs of a project."""
    with context().database.session() as session:
        found = graphs.list_of(session, path.project_id)
        return {"graphs": [{"id": g.id, "title": g.title, "revision": g.revision} for g in found]}


@blueprint.post("/projects/<project_id>/graphs", responses={201: GraphState, 422: ErrorState})
def create_graph(path: ProjectPath, body: NewGraph) -> Answer:
    """Make a graph, empty or from a document."""
    with context().database.session() as session:
        made = graphs.create(session, path.project_id, body.title, body.document)
        return graphs.state(session, made), 201


@blueprint.get("/graphs/<graph_id>", responses={200: GraphState, 404: ErrorState})
def read_graph(path: GraphPath) -> Answer:
    """Read a graph at its newest revision."""
    with context().database.session() as session:
        return graphs.state(session, graphs.get(session, path.graph_id))


@blueprint.delete("/graphs/<graph_id>", responses={204: None})
def delete_graph(path: GraphPath) -> Answer:
    """Delete a graph with its edit log."""
    with context().database.session() as session:
        graphs.delete(session, path.graph_id)
    return "", 204


@blueprint.post("/graphs/<graph_id>/edits", responses=EDITED)
def edit_graph(path: GraphPath, body: EditRequest) -> Answer:
    """Apply a JSON Patch made against a revision; 409 with the current state if that is not the newest."""
    with context().database.session() as session:
        graph = graphs.edit(session, path.graph_id, body.revision, body.patch, body.label, body.key)
        return graphs.state(session, graph)


@blueprint.get("/graphs/<graph_id>/edits", responses={200: EditList})
def list_edits(path: GraphPath) -> Answer:
    """List the edit log, oldest first."""
    with context().database.session() as session:
        log = graphs.history(session, path.graph_id)
        return {"edits": [{"revision": e.revision, "kind": e.kind, "label": e.label, "target": e.target} for e in log]}


@blueprint.post("/graphs/<graph_id>/undo", responses=EDITED)
def undo_edit(path: GraphPath, body: RevisionRequest) -> Answer:
    """Take the last edit back."""
    with context().database.session() as session:
        return graphs.state(session, graphs.undo(session, path.graph_id, body.revision))


@blueprint.post("/graphs/<graph_id>/redo", responses=EDITED)
def redo_edit(path: GraphPath, body: RevisionRequest) -> Answer:
    """Do the edit again that was taken back last."""
    with context().database.session() as session:
        return graphs.state(session, graphs.redo(session, path.graph_id, body.revision))
