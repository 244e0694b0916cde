"""Graphs, their edits, and changes that the service works out."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, Field

from reticula.contract.changes import Change
from reticula.core.graph.time.timeline import FARTHEST
from reticula.service.schemas.basics import Strict, Whole

__all__ = [
    "Basis",
    "ChangeRequest",
    "ChangeState",
    "EditRequest",
    "ErrorState",
    "GraphList",
    "GraphPath",
    "GraphState",
    "GraphSummary",
    "NewGraph",
    "RevisionRequest",
]


class GraphPath(BaseModel):
    graph_id: str


class NewGraph(Strict):
    title: str = Field(min_length=1, max_length=200)
    document: dict[str, Any] | None = None


class GraphSummary(BaseModel):
    id: str
    title: str
    revision: int


class GraphList(BaseModel):
    graphs: list[GraphSummary]


class GraphState(BaseModel):
    """A graph at its newest revision. ``undo`` and ``redo`` say what they would do; null: nothing."""

    id: str
    project_id: str
    title: str
    revision: int
    document: dict[str, Any]
    undo: str | None
    redo: str | None


class RevisionRequest(Strict):
    """What is done to a graph as it is at a revision."""

    revision: Whole = Field(ge=0)
    key: str = Field("", max_length=64, description="a name of the sender's own: sent again, it is not done again")


class EditRequest(RevisionRequest):
    """A JSON Patch (RFC 6902) against a revision."""

    patch: list[dict[str, Any]] = Field(min_length=1, max_length=10_000)
    label: str = Field("", max_length=200)


class Basis(Strict):
    """What a question is about: a saved ``revision`` (the newest one, if not given), the unsaved ``draft`` on top of
    it, the ``level`` (the graph inside a node, by its path, e.g. ``tile/rings@3``), and the ``frame``: the graph's
    first one, if not given.
    """

    draft: list[dict[str, Any]] = Field(default_factory=list, max_length=10_000)
    revision: Whole | None = Field(None, ge=0)
    level: str = Field("", max_length=2000)
    frame: float | None = Field(None, ge=-FARTHEST, le=FARTHEST)


class ChangeRequest(Basis):
    """A change that takes more than setting a value."""

    change: Change


class ChangeState(BaseModel):
    """The JSON Patch that makes the change, and the cards that it is about then."""

    patch: list[dict[str, Any]]
    cards: list[str]
    name: str = ""


class ErrorState(BaseModel):
    """Why something was refused. ``graph`` is the current state where a revision was stale."""

    code: str
    message: str
    node: str | None = None
    parameter: str | None = None
    line: int | None = None
    column: int | None = None
    length: int | None = None
    cause: str | None = None
    graph: GraphState | None = None
