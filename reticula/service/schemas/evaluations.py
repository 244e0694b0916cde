"""Evaluations, looks at results, and checks."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from reticula.contract.answers import LookAnswer
from reticula.contract.queries import LookQuery
from reticula.core.graph.time.timeline import FARTHEST
from reticula.service.schemas.graphs import Basis, ErrorState

__all__ = [
    "BufferPath",
    "CheckCount",
    "ChecksRequest",
    "ChecksState",
    "EvaluationRequest",
    "EvaluationState",
    "ExportQuery",
    "FreezeRequest",
    "LookRequest",
    "LookState",
    "NodeReport",
    "Note",
    "Progress",
    "TicketPath",
    "TicketQuery",
]


class TicketPath(BaseModel):
    ticket_id: str


class BufferPath(BaseModel):
    digest: str


class TicketQuery(BaseModel):
    wait: float = Field(0.0, ge=0, le=30)


class ExportQuery(BaseModel):
    node: str
    format: str = "ply"
    encoding: str = ""
    options: str = Field("", max_length=400, description="what else the format is told: `name:word,name:word`")
    level: str = ""
    frame: float | None = Field(None, ge=-FARTHEST, le=FARTHEST)


class LookRequest(Basis):
    """A look at one node: queries name what is wanted (summary, mesh, normals, attribute, rows …).

    A ``difference`` compares with the node ``to``, as it is now or as it was ``at`` a revision.
    """

    node: str | None = None
    queries: list[LookQuery] = Field(default_factory=list, max_length=50)


class EvaluationRequest(LookRequest):
    """Evaluate a graph with its unsaved ``draft`` on top; a newer request on a channel supersedes this.

    ``ahead`` says that it may be wanted later: all others go first.
    """

    channel: str = Field("", max_length=64)
    ahead: bool = False
    only_node: bool = False
    wait: float = Field(0.4, ge=0, le=30)


class Note(BaseModel):
    level: Literal["note", "warning"]
    text: str


class NodeReport(BaseModel):
    """What became of a node.

    ``parts`` are the seconds by what they went into, ``outputs`` the counts of each output; ``change`` is the
    difference in counts from its first input.
    """

    state: Literal["done", "failed", "waiting", "idle"]
    key: str
    seconds: float
    parts: dict[str, float]
    cached: bool
    skipped: bool
    notes: list[Note]
    error: ErrorState | None
    counts: dict[str, int] | None
    outputs: dict[str, dict[str, int]]
    change: dict[str, int] | None


class Progress(BaseModel):
    done: int
    total: int
    node: str


class EvaluationState(BaseModel):
    """A running or finished evaluation. ``looks`` answer the queries in order, ``looking`` has their seconds.

    ``timely`` names the nodes of the level that may differ from frame to frame; ``keyed`` has what its values with
    keys are at this one.
    """

    class Keyed(BaseModel):
        nodes: dict[str, dict[str, Any]]
        dials: dict[str, Any]

    ticket: str
    state: Literal["waiting", "running", "done", "failed", "stopped"]
    progress: Progress
    revision: int | None = None
    nodes: dict[str, NodeReport] | None = None
    node: str | None = None
    looks: list[LookAnswer] | None = None
    looking: dict[str, float] | None = None
    timely: list[str] | None = None
    keyed: Keyed | None = None
    error: ErrorState | None = None


class LookState(BaseModel):
    looks: list[LookAnswer]


class ChecksRequest(Basis):
    """Check every node; an evaluation on the same channel goes first and supersedes this."""

    channel: str = Field("", max_length=64)


class CheckCount(BaseModel):
    """How many elements of a node's result have a trouble; ``expected`` where what came in or what the operator does
    explains it.
    """

    name: str
    kind: str
    count: int
    help: str
    expected: bool


class ChecksState(BaseModel):
    """What is wrong with each node's result: ``found`` beside the ``key`` of the result; ``skipped`` if it is too
    large to be checked
    without being asked.
    """

    class Node(BaseModel):
        key: str
        skipped: bool
        found: list[CheckCount]

    nodes: dict[str, Node]


class FreezeRequest(Basis):
    """Keep a node's result as a shape of the project, with all its attributes."""

    node: str
    name: str = Field(min_length=1, max_length=80)
