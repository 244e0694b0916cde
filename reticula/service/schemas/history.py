"""Edits in their order, moments of a graph, and what differs between two."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from reticula.service.schemas.basics import Strict, Whole
from reticula.service.schemas.graphs import GraphPath, RevisionRequest

__all__ = [
    "BackRequest",
    "EditList",
    "EditState",
    "MomentChange",
    "MomentName",
    "MomentPath",
    "MomentState",
    "MomentsCompared",
    "MomentsQuery",
]


class EditState(BaseModel):
    """An edit and when it was made; ``author`` is the account that made it, nothing where nobody signs in, and
    ``name`` what the moment after it is called.
    """

    revision: int
    kind: Literal["edit", "undo", "redo"]
    label: str
    target: int | None
    author: str
    at: str
    name: str


class EditList(BaseModel):
    edits: list[EditState]


class MomentPath(GraphPath):
    revision: Whole = Field(ge=0)


class MomentName(Strict):
    name: str = Field(max_length=80)


class MomentState(BaseModel):
    revision: int
    document: dict[str, Any]


class BackRequest(RevisionRequest):
    """Back to what the graph was at the revision ``to``, as an edit with a ``label``."""

    to: Whole = Field(ge=0)
    label: str = Field("", max_length=200)


class MomentsQuery(BaseModel):
    """Two revisions to compare."""

    old: int = Field(ge=0)
    new: int = Field(ge=0)


class MomentChange(BaseModel):
    """A difference: the node that it is of (nothing: the graph), and what it is."""

    node: str
    what: str


class MomentsCompared(BaseModel):
    """What differs, in words; ``more`` counts differences that were left out."""

    changes: list[MomentChange]
    more: int
