"""Who asks: everybody on this machine, a person, somebody with a share link, the launcher, or nobody."""

from __future__ import annotations

import hmac
from dataclasses import dataclass
from typing import cast

from flask import g, request
from sqlalchemy.orm import Session

from reticula.service.context import context
from reticula.store import people
from reticula.store.people_models import User

__all__ = ["COOKIE", "Principal", "asker", "principal", "recognise"]

COOKIE = "__Host-reticula"


@dataclass(frozen=True)
class Principal:
    """Who asks. ``everything``: may do all. ``link_project``: the one project that a share link shows."""

    name: str = ""
    user: User | None = None
    everything: bool = False
    link_project: str = ""
    csrf_token: str = ""

    @property
    def is_known(self) -> bool:
        return self.everything or self.user is not None or bool(self.link_project)

    def role_in(self, session: Session, project_id: str) -> str | None:
        """Return look, edit or manage, or None."""
        if self.everything:
            return "manage"
        if self.user is not None:
            return people.role_in(session, self.user, project_id)
        return "look" if project_id == self.link_project else None


EVERYBODY = Principal(everything=True)
NOBODY = Principal()


def recognise(session: Session) -> Principal:
    """Return who sends the current request."""
    config = context().config
    if not config.sign_in:
        return EVERYBODY
    kind, _, secret = request.headers.get("Authorization", "").partition(" ")
    if kind.lower() == "bearer" and secret:
        if config.launch_secret and hmac.compare_digest(secret.encode(), config.launch_secret.encode()):
            return EVERYBODY
        user = people.by_token(session, secret)
        return Principal(user.name, user, user.administrator) if user else NOBODY
    found = people.find_sign_in(session, request.cookies.get(COOKIE, ""))
    if found is None:
        return NOBODY
    came, user, link = found
    if user is not None:
        return Principal(user.name, user, user.administrator, csrf_token=came.csrf_token)
    return Principal(link_project=link.project_id, csrf_token=came.csrf_token) if link else NOBODY


def principal() -> Principal:
    """Return who sent the current request, as it was recognised when it came in."""
    return cast(Principal, g.get("principal", NOBODY))


def asker() -> str:
    """Return whose turn an evaluation takes: a person's, or that of the page that asks."""
    line: str = request.environ.get("asgi.scope", {}).get("reticula.line", "")
    return principal().name or line
