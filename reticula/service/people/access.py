"""What each request needs. A request that is not listed here is for administrators only."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from flask import Flask, Response, g, request
from sqlalchemy.orm import Session

from reticula.service.context import context
from reticula.service.errors import refuse
from reticula.service.people.principal import Principal, recognise
from reticula.store.models import Asset, Graph
from reticula.store.people import ROLES
from reticula.store.sheet_models import SheetRow

__all__ = ["NEEDS", "install_access", "keeps_something"]

ANYBODY, KNOWN, PERSON, NOBODY_ELSE = "anybody", "known", "person", "administrator"
"""Needs without a project: nothing, to have come in, to have come in by a password or token, to be administrator."""
LOOK, EDIT, MANAGE = ROLES

NEEDS: dict[str, str] = {
    "page": ANYBODY,
    "documentation": ANYBODY,
    "documentation_page": ANYBODY,
    "catalogue.health": ANYBODY,
    "monitoring.metrics": ANYBODY,  # looks after itself: loopback or a token
    "sessions.read_session": ANYBODY,
    "sessions.sign_in": ANYBODY,
    "sessions.sign_in_by_link": ANYBODY,
    "sessions.sign_out": ANYBODY,
    "sessions.change_password": PERSON,
    "sessions.list_tokens": PERSON,
    "sessions.make_token": PERSON,
    "sessions.drop_token": PERSON,
    "projects.list_projects": KNOWN,
    "projects.create_project": PERSON,
    "projects.rename_project": MANAGE,
    "projects.delete_project": MANAGE,
    "members.list_members": MANAGE,
    "members.set_member": MANAGE,
    "members.drop_member": MANAGE,
    "members.make_link": MANAGE,
    "members.drop_link": MANAGE,
    "graphs.list_graphs": LOOK,
    "graphs.create_graph": EDIT,
    "graphs.read_graph": LOOK,
    "graphs.delete_graph": EDIT,
    "graphs.edit_graph": EDIT,
    "graphs.undo_edit": EDIT,
    "graphs.redo_edit": EDIT,
    "company.meet": LOOK,
    "graphs.list_edits": LOOK,
    "history.read_moment": LOOK,
    "history.name_moment": EDIT,
    "history.go_back": EDIT,
    "history.compare_moments": LOOK,
    "changes.work_out": LOOK,
    "assets.list_assets": LOOK,
    "assets.upload_asset": EDIT,
    "assets.read_asset": LOOK,
    "assets.delete_asset": EDIT,
    "evaluations.evaluate": LOOK,
    "evaluations.read_evaluation": LOOK,
    "evaluations.stop_evaluation": LOOK,
    "evaluations.look": LOOK,
    "evaluations.check": LOOK,
    "evaluations.read_text": LOOK,
    "evaluations.rewrite": LOOK,
    "evaluations.export": LOOK,
    "evaluations.freeze": EDIT,
    "evaluations.read_buffer": KNOWN,
    "frames.read_frame": KNOWN,
    "frames.sample_channels": LOOK,
    "frames.sample_followed": LOOK,
    "frames.join_pictures": LOOK,
    "catalogue.list_operators": KNOWN,
    "demos.list_demos": KNOWN,
    "demos.read_demo": KNOWN,
    "demos.read_demo_picture": KNOWN,
    "demos.read_demo_shape": KNOWN,
    "demos.read_demo_sheet": KNOWN,
    "examples.read_example": KNOWN,
    "catalogue.read_settings": KNOWN,
    "catalogue.write_settings": PERSON,
    "library.publish": EDIT,
    "library.compare": KNOWN,
    "library.read_definition": KNOWN,
    "library.read_picture": KNOWN,
    "library.read_package_file": KNOWN,
    "sheets.check_plan": LOOK,
    "sheets.list_sheets": LOOK,
    "sheets.create_sheet": EDIT,
    "sheets.read_sheet": LOOK,
    "sheets.rename_sheet": EDIT,
    "sheets.delete_sheet": EDIT,
    "sheets.run_sheet": EDIT,
    "sheets.stop_sheet": EDIT,
    "sheets.extend_sheet": EDIT,
    "sheets.list_variants": LOOK,
    "sheets.match_variants": LOOK,
    "sheets.read_drawn": LOOK,
    "sheets.read_table": LOOK,
    "sheet_files.read_file": LOOK,
    "sheet_files.read_results": LOOK,
    "sheet_files.bring_in": EDIT,
    "packages.review_upload": PERSON,
    "packages.take": PERSON,
    "packages.list_depot": KNOWN,
    "packages.send_to_depot": PERSON,
    "packages.fetch_from_depot": PERSON,
}
"""What the handler of that name needs: one of the words above, or a role in the project that the request is about."""
READ_ONLY = ("sessions.list_tokens", "members.list_members")
SAFE = ("GET", "HEAD", "OPTIONS")
FOR_ALL = ("page", "documentation", "documentation_page", "catalogue.health", "monitoring.metrics")
"""Nobody has to be recognised for these."""
BEFORE_SIGN_IN = ("sessions.sign_in", "sessions.sign_in_by_link")
CSRF = "X-CSRF-Token"


def keeps_something(endpoint: str | None) -> bool:
    """Return whether a handler writes what is to be kept."""
    return NEEDS.get(endpoint or "page") in (PERSON, EDIT, MANAGE) and endpoint not in READ_ONLY


def install_access(app: Flask) -> None:
    """Recognise who asks, and refuse what they may not do."""

    @app.before_request
    def let_in() -> Response | None:
        need = NEEDS.get(request.endpoint or "page", NOBODY_ELSE)
        config = context().config
        if request.endpoint in FOR_ALL:
            return None
        if not config.sign_in and request.headers.get("X-Forwarded-For"):
            return refuse(403, "sign in", "Behind a proxy people have to sign in: name its host in RETICULA_HOSTS.")
        with context().database.session() as session:
            who = g.principal = recognise(session)
            return _trouble(session, who, need)


def _trouble(session: Session, who: Principal, need: str) -> Response | None:
    """Return why a request is refused, or None."""
    if not _is_meant(who):
        return refuse(403, "csrf", "This request did not come from the page. Load it again.")
    if need == ANYBODY or who.everything:
        return None
    if not who.is_known:
        return refuse(401, "sign in", "Sign in first.")
    if need == KNOWN or (need == PERSON and who.user is not None):
        return None
    if need in ROLES:
        project = _project_of(session, request.view_args or {})
        role = who.role_in(session, project) if project else None
        if role is None:
            return refuse(404, "not found", "There is no such thing, or you may not see it.")
        if ROLES.index(role) >= ROLES.index(need):
            return None
        return refuse(403, "role", f"You may {role} here; this needs '{need}'. Ask who manages the project.")
    return refuse(403, "role", "You may not do this. Ask an administrator.")


def _is_meant(who: Principal) -> bool:
    """Return whether a request that changes something comes from our page: it knows the token of the sign-in.

    Requests over the line of a page are: its origin was looked at when it was opened. Those with a token of an API
    carry no cookie that a browser would add by itself.
    """
    if request.method in SAFE or request.endpoint in BEFORE_SIGN_IN or not who.csrf_token:
        return True
    if request.environ.get("asgi.scope", {}).get("reticula.line"):
        return True
    return request.headers.get(CSRF) == who.csrf_token


def _project_of(session: Session, given: dict[str, Any]) -> str | None:
    """Return the project that a request is about."""
    finders: dict[str, Callable[[str], str | None]] = {
        "project_id": lambda key: key,
        "graph_id": lambda key: getattr(session.get(Graph, key), "project_id", None),
        "sheet_id": lambda key: getattr(session.get(SheetRow, key), "project_id", None),
        "asset_id": lambda key: getattr(session.get(Asset, key), "project_id", None),
        "ticket_id": lambda key: getattr(context().pool.find(key), "affinity", None),
    }
    return next((find(given[name]) for name, find in finders.items() if name in given), None)
