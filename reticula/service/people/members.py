"""Who may do what in a project: members with roles, and links for those who only look."""

from __future__ import annotations

from flask_openapi3 import APIBlueprint, Tag

from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.schemas import ErrorState, ProjectPath
from reticula.service.schemas.people import LinkPath, LinkState, MemberPath, MemberRequest, MembersState
from reticula.store import people, projects

__all__ = ["blueprint"]

blueprint = APIBlueprint("members", __name__, url_prefix="/api", abp_tags=[Tag(name="people")])


@blueprint.get("/projects/<project_id>/members", responses={200: MembersState, 404: ErrorState})
def list_members(path: ProjectPath) -> Answer:
    """List who has a role in a project, who else has an account, and the links for looking at it."""
    with context().database.session() as session:
        projects.get(session, path.project_id)
        members = people.members_of(session, path.project_id)
        there = {name for name, _ in members}
        return {
            "members": [{"name": name, "role": role} for name, role in members],
            "others": [user.name for user in people.users(session) if user.name not in there],
            "links": [
                {"id": link.id, "created_at": link.created_at.isoformat()}
                for link in people.links_of(session, path.project_id)
            ],
        }


@blueprint.put("/projects/<project_id>/members/<name>", responses={204: None, 404: ErrorState})
def set_member(path: MemberPath, body: MemberRequest) -> Answer:
    """Give a person a role in a project."""
    with context().database.session() as session:
        projects.get(session, path.project_id)
        people.allow(session, path.project_id, path.name, body.role)
    return "", 204


@blueprint.delete("/projects/<project_id>/members/<name>", responses={204: None, 404: ErrorState})
def drop_member(path: MemberPath) -> Answer:
    """Take a person's role in a project away."""
    with context().database.session() as session:
        projects.get(session, path.project_id)
        people.allow(session, path.project_id, path.name, None)
    return "", 204


@blueprint.post("/projects/<project_id>/links", responses={201: LinkState, 404: ErrorState})
def make_link(path: ProjectPath) -> Answer:
    """Make a link by which anybody may look at a project. Its secret is told once."""
    with context().database.session() as session:
        made, secret = people.add_link(session, path.project_id)
        return {"id": made, "secret": secret}, 201


@blueprint.delete("/projects/<project_id>/links/<link_id>", responses={204: None, 404: ErrorState})
def drop_link(path: LinkPath) -> Answer:
    """Take a link back, with all who came in by it."""
    with context().database.session() as session:
        people.drop_link(session, path.project_id, path.link_id)
    return "", 204
