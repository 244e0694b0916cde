"""Projects."""

from __future__ import annotations

from typing import Any

from flask_openapi3 import APIBlueprint, Tag

from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.people.principal import principal
from reticula.service.schemas import NewProject, ProjectList, ProjectPath, ProjectState
from reticula.store import people, projects
from reticula.store.models import Project

__all__ = ["blueprint"]

blueprint = APIBlueprint("projects", __name__, url_prefix="/api", abp_tags=[Tag(name="projects")])


def _state(project: Project, role: str) -> dict[str, Any]:
    return {"id": project.id, "title": project.title, "role": role}


@blueprint.get("/projects", responses={200: ProjectList})
def list_projects() -> Answer:
    """List the projects that one may see."""
    who = principal()
    with context().database.session() as session:
        found = [(project, who.role_in(session, project.id)) for project in projects.list_all(session)]
    return {"projects": [_state(project, role) for project, role in found if role]}


@blueprint.post("/projects", responses={201: ProjectState})
def create_project(body: NewProject) -> Answer:
    """Make a project."""
    with context().database.session() as session:
        made = projects.create(session, body.title)
        user = principal().user
        if user is not None:
            people.allow(session, made.id, user.name, "manage")
        return _state(made, "manage"), 201


@blueprint.put("/projects/<project_id>", responses={200: ProjectState})
def rename_project(path: ProjectPath, body: NewProject) -> Answer:
    """Rename a project."""
    with context().database.session() as session:
        return _state(projects.rename(session, path.project_id, body.title), "manage")


@blueprint.delete("/projects/<project_id>", responses={204: None})
def delete_project(path: ProjectPath) -> Answer:
    """Delete a project with its graphs and shapes."""
    with context().database.session() as session:
        projects.delete(session, path.project_id)
    return "", 204
