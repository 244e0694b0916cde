"""Coming in and going out: passwords, share links, and tokens for programs."""

from __future__ import annotations

import math
from typing import Any

from flask import Response, jsonify, request
from flask_openapi3 import APIBlueprint, Tag

from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.errors import refuse
from reticula.service.people.passwords import fits, hashed
from reticula.service.people.principal import COOKIE, principal
from reticula.service.people.tries import Tries
from reticula.service.schemas import ErrorState
from reticula.service.schemas.people import (
    LinkRequest,
    NewToken,
    PasswordRequest,
    SessionState,
    SignInRequest,
    TokenList,
    TokenPath,
    TokenState,
)
from reticula.store import people
from reticula.store.errors import NotFound
from reticula.store.people_models import SignIn

__all__ = ["blueprint"]

blueprint = APIBlueprint("sessions", __name__, url_prefix="/api", abp_tags=[Tag(name="people")])
LINK = ""
"""The name under which tries of share links are counted."""
MONTH = 30 * 24 * 3600
tries = Tries()


@blueprint.get("/session", responses={200: SessionState})
def read_session() -> Answer:
    """Tell who one is, and whether one has to sign in."""
    here, who = context(), principal()
    with here.database.session() as session:
        accounts = people.count_users(session) > 0 if here.config.sign_in else True
    return {
        "sign_in": here.config.sign_in,
        "known": who.is_known,
        "name": who.name,
        "administrator": who.everything,
        "link_project": who.link_project,
        "csrf_token": who.csrf_token,
        "accounts": accounts,
    }


@blueprint.post("/session", responses={200: SessionState, 401: ErrorState, 429: ErrorState})
def sign_in(body: SignInRequest) -> Answer:
    """Sign in by name and password; the answer sets the cookie of the sign-in."""
    address = request.remote_addr or ""
    pause = tries.pause(body.name, address)
    if pause > 0.0:
        return _wait(pause)
    with context().database.session() as session:
        user = people.find_user(session, body.name)
        kept = user.password_hash if user else None
    if not fits(body.password, kept) or user is None:
        tries.failed(body.name, address)
        return refuse(401, "sign in", "This is not the name and password of an account.")
    tries.succeeded(body.name)
    with context().database.session() as session:
        secret, came = people.sign_in(session, user)
    return _came_in(secret, came, name=user.name, administrator=user.administrator)


@blueprint.post("/session/link", responses={200: SessionState, 404: ErrorState, 429: ErrorState})
def sign_in_by_link(body: LinkRequest) -> Answer:
    """Come in by a share link, for looking at one project."""
    address = request.remote_addr or ""
    pause = tries.pause(LINK, address)
    if pause > 0.0:
        return _wait(pause)
    try:
        with context().database.session() as session:
            secret, came, project = people.sign_in_by_link(session, body.link)
    except NotFound:
        tries.failed(LINK, address)
        raise
    return _came_in(secret, came, link_project=project)


@blueprint.delete("/session", responses={204: None})
def sign_out() -> Answer:
    """Sign out in this browser."""
    with context().database.session() as session:
        people.end_sign_in(session, request.cookies.get(COOKIE, ""))
    response = Response(status=204)
    response.delete_cookie(COOKIE, path="/", secure=True, httponly=True, samesite="Strict")
    return response


@blueprint.put("/session/password", responses={204: None, 401: ErrorState, 409: ErrorState})
def change_password(body: PasswordRequest) -> Answer:
    """Take another password; all browsers have to sign in again."""
    user = principal().user
    if user is None:
        return refuse(403, "role", "Nobody signs in here.")
    address = request.remote_addr or ""
    pause = tries.pause(user.name, address)
    if pause > 0.0:
        return _wait(pause)
    if not fits(body.old, user.password_hash):
        tries.failed(user.name, address)
        return refuse(401, "password", "This is not your password so far.")
    with context().database.session() as session:
        people.set_password(session, user.name, hashed(body.new))
    return "", 204


@blueprint.get("/tokens", responses={200: TokenList})
def list_tokens() -> Answer:
    """List one's own tokens; their secrets are not kept."""
    user = principal().user
    with context().database.session() as session:
        found = people.tokens_of(session, user.id) if user else []
    return {
        "tokens": [
            {"id": one.id, "title": one.title, "used_at": one.used_at.isoformat() if one.used_at else None}
            for one in found
        ]
    }


@blueprint.post("/tokens", responses={201: TokenState, 409: ErrorState})
def make_token(body: NewToken) -> Answer:
    """Make a token for one's programs. Its secret is told once."""
    user = principal().user
    if user is None:
        return refuse(403, "role", "Nobody signs in here, so that programs need no token.")
    with context().database.session() as session:
        return {"secret": people.add_token(session, user.name, body.title)}, 201


@blueprint.delete("/tokens/<token_id>", responses={204: None, 404: ErrorState})
def drop_token(path: TokenPath) -> Answer:
    """Take a token back."""
    user = principal().user
    with context().database.session() as session:
        people.drop_token(session, user.id if user else "", path.token_id)
    return "", 204


def _came_in(secret: str, came: SignIn, **told: Any) -> Response:
    state = {"sign_in": True, "known": True, "name": "", "administrator": False, "link_project": "", "accounts": True}
    response = jsonify({**state, **told, "csrf_token": came.csrf_token})
    response.set_cookie(COOKIE, secret, max_age=MONTH, path="/", secure=True, httponly=True, samesite="Strict")
    return response


def _wait(seconds: float) -> Response:
    whole = math.ceil(seconds)
    response = refuse(429, "tries", f"Too many tries that failed. Try again in {whole} seconds.")
    response.headers["Retry-After"] = str(whole)
    return response
