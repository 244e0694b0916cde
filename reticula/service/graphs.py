"""Graphs: documents, edits, undo and redo."""

from __future__ import annotations

from http import HTTPStatus
from typing import Any

from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel

from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.people.principal import principal
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
from reticula.store import graphs, history

__all__ = ["EDITED", "blueprint", "told"]

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
    """Apply a JSON Patch made against a revision, on top of what others did since; 409 with the current state if it
    does not fit that.
    """
    with context().database.session() as session:
        graph = graphs.edit(session, path.graph_id, body.revision, body.patch, body.label, body.key, principal().name)
        made = graphs.state(session, graph)
    return told(made, body.key)


def told(made: dict[str, Any], key: str = "") -> dict[str, Any]:
    """Tell all who are at a graph that it was edited, but for the page whose ``key`` it is; to be called when that is
    kept. Returns its state.
    """
    context().rooms.tell(made["id"], key.partition("-")[0])
    return made


@blueprint.get("/graphs/<graph_id>/edits", responses={200: EditList})
def list_edits(path: GraphPath) -> Answer:
    """List the edit log, oldest first."""
    with context().database.session() as session:
        graphs.get(session, path.graph_id)
        return {
            "edits": [{**one.__dict__, "at": one.at.isoformat()} for one in history.entries(session, path.graph_id)]
        }


@blueprint.post("/graphs/<graph_id>/undo", responses=EDITED)
def undo_edit(path: GraphPath, body: RevisionRequest) -> Answer:
    """Take the last edit back."""
    with context().database.session() as session:
        made = graphs.state(session, graphs.undo(session, path.graph_id, body.revision, body.key, principal().name))
    return told(made, body.key)


@blueprint.post("/graphs/<graph_id>/redo", responses=EDITED)
def redo_edit(path: GraphPath, body: RevisionRequest) -> Answer:
    """Do the edit again that was taken back last."""
    with context().database.session() as session:
        made = graphs.state(session, graphs.redo(session, path.graph_id, body.revision, body.key, principal().name))
    return told(made, body.key)
