"""People: accounts, roles in projects, share links, sign-ins and tokens. Secrets are kept as hashes only."""

from __future__ import annotations

import hashlib
import re
import secrets
from datetime import timedelta

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from reticula.store.errors import NameTaken, NotFound, StoreError
from reticula.store.models import Project, now
from reticula.store.people_models import ApiToken, Membership, ShareLink, SignIn, User

__all__ = [
    "ROLES",
    "add_link",
    "add_token",
    "add_user",
    "allow",
    "by_token",
    "count_users",
    "drop_link",
    "drop_token",
    "end_sign_in",
    "find_sign_in",
    "find_user",
    "links_of",
    "members_of",
    "remove_user",
    "role_in",
    "set_password",
    "sign_in",
    "sign_in_by_link",
    "tokens_of",
    "users",
]

ROLES = ("look", "edit", "manage")
"""From least to most."""
AWAY = timedelta(days=14)
SEEN_EVERY = timedelta(minutes=5)
NAME = re.compile(r"[\w.@-]{1,64}\Z")


def _hash(secret: str) -> str:
    return hashlib.sha256(secret.encode("utf-8", "replace")).hexdigest()


def users(session: Session) -> list[User]:
    """Return all accounts by name."""
    return list(session.scalars(select(User).order_by(User.name)))


def count_users(session: Session) -> int:
    return session.scalar(select(func.count()).select_from(User)) or 0


def find_user(session: Session, name: str) -> User | None:
    return session.scalar(select(User).where(User.name == name))


def _user(session: Session, name: str) -> User:
    found = find_user(session, name)
    if found is None:
        raise NotFound(f"There is no account '{name}'.")
    return found


def add_user(session: Session, name: str, password_hash: str, *, administrator: bool = False) -> User:
    """Make an account; the first one is an administrator's. Raises NameTaken, or StoreError for a name that is none."""
    if not NAME.match(name):
        raise StoreError("The name of an account has up to 64 letters, digits, and . _ @ -.")
    if find_user(session, name) is not None:
        raise NameTaken(f"There is an account '{name}' already.")
    made = User(name=name, password_hash=password_hash, administrator=administrator or count_users(session) == 0)
    session.add(made)
    session.flush()
    return made


def set_password(session: Session, name: str, password_hash: str) -> None:
    """Set another password, and end all that came in by the old one. Raises NotFound."""
    found = _user(session, name)
    found.password_hash = password_hash
    session.execute(delete(SignIn).where(SignIn.user_id == found.id))


def remove_user(session: Session, name: str) -> None:
    """Remove an account with its tokens and sign-ins; projects stay. Raises NotFound."""
    session.delete(_user(session, name))


# ---- roles


def role_in(session: Session, user: User, project_id: str) -> str | None:
    """Return what a person may do in a project, or None."""
    if user.administrator:
        return "manage"
    found = session.get(Membership, (project_id, user.id))
    return found.role if found else None


def allow(session: Session, project_id: str, name: str, role: str | None) -> None:
    """Give a person a role in a project, or take it away (None). Raises NotFound."""
    user = _user(session, name)
    if role is None:
        session.execute(delete(Membership).where(Membership.project_id == project_id, Membership.user_id == user.id))
    else:
        session.merge(Membership(project_id=project_id, user_id=user.id, role=role))


def members_of(session: Session, project_id: str) -> list[tuple[str, str]]:
    """Return the names of those who have a role in a project, and the role."""
    asked = select(User.name, Membership.role).join(Membership, Membership.user_id == User.id)
    found = session.execute(asked.where(Membership.project_id == project_id).order_by(User.name))
    return [(name, role) for name, role in found]


# ---- share links


def add_link(session: Session, project_id: str) -> tuple[str, str]:
    """Make a link for looking at a project; return its id, and the secret, which is told once. Raises NotFound."""
    if session.get(Project, project_id) is None:
        raise NotFound(f"There is no project '{project_id}'.")
    secret = secrets.token_urlsafe(24)
    made = ShareLink(project_id=project_id, secret_hash=_hash(secret))
    session.add(made)
    session.flush()
    return made.id, secret


def links_of(session: Session, project_id: str) -> list[ShareLink]:
    asked = select(ShareLink).where(ShareLink.project_id == project_id).order_by(ShareLink.created_at)
    return list(session.scalars(asked))


def drop_link(session: Session, project_id: str, link_id: str) -> None:
    """Take a link back, with all who came in by it. Raises NotFound."""
    found = session.get(ShareLink, link_id)
    if found is None or found.project_id != project_id:
        raise NotFound("There is no such link any more.")
    session.delete(found)


# ---- sign-ins


def sign_in(session: Session, user: User) -> tuple[str, SignIn]:
    """Let a person in; return the secret for the cookie."""
    return _let_in(session, user_id=user.id)


def sign_in_by_link(session: Session, secret: str) -> tuple[str, SignIn, str]:
    """Let somebody in by a share link; return also the project that it shows. Raises NotFound."""
    link = session.scalar(select(ShareLink).where(ShareLink.secret_hash == _hash(secret)))
    if link is None:
        raise NotFound("This link does not work (any more). Ask for another one.")
    return *_let_in(session, share_link_id=link.id), link.project_id


def _let_in(session: Session, *, user_id: str | None = None, share_link_id: str | None = None) -> tuple[str, SignIn]:
    session.execute(delete(SignIn).where(SignIn.seen_at < now() - AWAY))
    secret = secrets.token_urlsafe(32)
    made = SignIn(
        secret_hash=_hash(secret),
        user_id=user_id,
        share_link_id=share_link_id,
        csrf_token=secrets.token_urlsafe(24),
        seen_at=now(),
    )
    session.add(made)
    session.flush()
    return secret, made


def find_sign_in(session: Session, secret: str) -> tuple[SignIn, User | None, ShareLink | None] | None:
    """Return who came in with a secret, unless that is over."""
    found = session.get(SignIn, _hash(secret))
    if found is None or found.seen_at < now() - AWAY:
        return None
    if found.seen_at < now() - SEEN_EVERY:
        found.seen_at = now()
    user = session.get(User, found.user_id) if found.user_id else None
    link = session.get(ShareLink, found.share_link_id) if found.share_link_id else None
    return found, user, link


def end_sign_in(session: Session, secret: str) -> None:
    session.execute(delete(SignIn).where(SignIn.secret_hash == _hash(secret)))


# ---- tokens


def add_token(session: Session, name: str, title: str) -> str:
    """Make a token for a person's programs; return its secret, which is told once. Raises NotFound, NameTaken."""
    user = _user(session, name)
    if session.scalar(select(ApiToken).where(ApiToken.user_id == user.id, ApiToken.title == title)):
        raise NameTaken(f"There is a token '{title}' already.")
    secret = f"rtc_{secrets.token_urlsafe(30)}"
    session.add(ApiToken(user_id=user.id, title=title, secret_hash=_hash(secret)))
    session.flush()
    return secret


def tokens_of(session: Session, user_id: str) -> list[ApiToken]:
    return list(session.scalars(select(ApiToken).where(ApiToken.user_id == user_id).order_by(ApiToken.created_at)))


def drop_token(session: Session, user_id: str, token_id: str) -> None:
    """Take a token back. Raises NotFound."""
    found = session.get(ApiToken, token_id)
    if found is None or found.user_id != user_id:
        raise NotFound("There is no such token any more.")
    session.delete(found)


def by_token(session: Session, secret: str) -> User | None:
    """Return whose token a secret is."""
    found = session.scalar(select(ApiToken).where(ApiToken.secret_hash == _hash(secret)))
    if found is None:
        return None
    if found.used_at is None or found.used_at < now() - SEEN_EVERY:
        found.used_at = now()
    return session.get(User, found.user_id)
