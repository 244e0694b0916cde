"""Projects."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from reticula.store.errors import NotFound
from reticula.store.models import Project

__all__ = ["create", "delete", "get", "list_all", "rename"]


def list_all(session: Session) -> list[Project]:
    """Return all projects, oldest first."""
    return list(session.scalars(select(Project).order_by(Project.created_at, Project.id)))


def get(session: Session, project_id: str) -> Project:
    """Return a project; raise NotFound."""
    found = session.get(Project, project_id)
    if found is None:
        raise NotFound(f"There is no project '{project_id}'.")
    return found


def create(session: Session, title: str) -> Project:
    made = Project(title=title)
    session.add(made)
    session.flush()
    return made


def rename(session: Session, project_id: str, title: str) -> Project:
    found = get(session, project_id)
    found.title = title
    return found


def delete(session: Session, project_id: str) -> None:
    """Delete a project with its graphs and shapes."""
    session.delete(get(session, project_id))
