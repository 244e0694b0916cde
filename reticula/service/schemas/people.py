"""Signing in, roles, share links and tokens."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from reticula.service.schemas.basics import Strict
from reticula.service.schemas.projects import ProjectPath

__all__ = [
    "LinkPath",
    "LinkRequest",
    "LinkState",
    "MemberPath",
    "MemberRequest",
    "MembersState",
    "NewToken",
    "PasswordRequest",
    "SessionState",
    "SignInRequest",
    "TokenList",
    "TokenPath",
    "TokenState",
]

Role = Literal["look", "edit", "manage"]


class SignInRequest(Strict):
    name: str = Field(max_length=64)
    password: str = Field(max_length=400)


class LinkRequest(Strict):
    link: str = Field(max_length=100)


class PasswordRequest(Strict):
    old: str = Field(max_length=400)
    new: str = Field(max_length=400)


class SessionState(BaseModel):
    """Who one is. ``sign_in``: whether one has to sign in here; ``link_project``: what a share link shows.

    Requests that change something carry ``csrf_token`` in the header X-CSRF-Token.
    """

    sign_in: bool
    known: bool
    name: str
    administrator: bool
    link_project: str
    csrf_token: str
    accounts: bool


class NewToken(Strict):
    title: str = Field(min_length=1, max_length=100)


class TokenPath(BaseModel):
    token_id: str


class TokenState(BaseModel):
    """A token; its secret goes into the header ``Authorization: Bearer``."""

    secret: str


class TokenEntry(BaseModel):
    id: str
    title: str
    used_at: str | None


class TokenList(BaseModel):
    tokens: list[TokenEntry]


class MemberPath(ProjectPath):
    name: str


class MemberRequest(Strict):
    role: Role


class MemberEntry(BaseModel):
    name: str
    role: Role


class LinkEntry(BaseModel):
    id: str
    created_at: str


class LinkPath(ProjectPath):
    link_id: str


class LinkState(BaseModel):
    """A link for looking: the page at ``/#link=SECRET``."""

    id: str
    secret: str


class MembersState(BaseModel):
    members: list[MemberEntry]
    others: list[str]
    links: list[LinkEntry]
