"""Projects."""

from __future__ import annotations

from typing import Any

from flask_openapi3 import APIBlueprint, Tag

from reticula.service.context import context
from reticula.service.schemas import NewProject, ProjectList, ProjectPath, ProjectState
from reticula.store import projects
from reticula.store.models import Project

__all__ = ["blueprint"]

blueprint = APIBlueprint("projects", __name__, url_prefix="/api", abp_tags=[Tag(name="projects")])


def _state(project: Project) -> dict[str, Any]:
    return {"id": project.id, "title": project.title}


@blueprint.get("/projects", responses={200: ProjectList})
def list_projects():  # type: ignore[no-untyped-def]
    """List all projects."""
    with context().database.session() as session:
        return {"projects": [_state(project) for project in projects.list_all(session)]}


@blueprint.post("/projects", responses={201: ProjectState})
def create_project(body: NewProject):  # type: ignore[no-untyped-def]
    """Make a project."""
    with context().database.session() as session:
        return _state(projects.create(session, body.title)), 201


@blueprint.put("/projects/<project_id>", responses={200: ProjectState})
def rename_project(path: ProjectPath, body: NewProject):  # type: ignore[no-untyped-def]
    """Rename a project."""
    with context().database.session() as session:
        return _state(projects.rename(session, path.project_id, body.title))


@blueprint.delete("/projects/<project_id>", responses={204: None})
def delete_project(path: ProjectPath):  # type: ignore[no-untyped-def]
    """Delete a project with its graphs and shapes."""
    with context().database.session() as session:
        projects.delete(session, path.project_id)
    return "", 204
