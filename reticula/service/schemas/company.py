"""Who is at a graph, and what others do there."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from reticula.service.schemas.basics import Strict, Whole
from reticula.service.schemas.graphs import GraphState

__all__ = ["CompanyRequest", "CompanyState", "PersonState", "TheirEdit"]


class CompanyRequest(Strict):
    """Where a page is: its own name, with which the keys of its edits begin (``name-…``), and what it looks at, inside
    of what; and what it knows: the ``revision`` of the graph and the ``version`` of who is there.
    """

    page: str = Field(min_length=1, max_length=40)
    looking_at: str = Field("", max_length=400)
    level: str = Field("", max_length=2000)
    revision: Whole = Field(ge=0)
    version: Whole = Field(-1, ge=-1)
    wait: float = Field(20.0, ge=0, le=30)


class PersonState(BaseModel):
    """Another page; ``name`` is that of the account, nothing where nobody signs in."""

    page: str
    name: str
    looking_at: str
    level: str


class TheirEdit(BaseModel):
    """An edit that the page may not know, by the paths of what it changed; ``key`` is the one its sender gave it."""

    revision: int
    kind: Literal["edit", "undo", "redo"]
    label: str
    author: str
    key: str
    paths: list[str]


class CompanyState(BaseModel):
    version: int
    people: list[PersonState]
    graph: GraphState | None
    edits: list[TheirEdit]
