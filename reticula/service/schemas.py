"""The shapes of requests and answers. OpenAPI, and from that the TypeScript types, are made from these."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

__all__ = [
    "AssetList", "AssetPath", "AssetState", "BufferPath", "EditList", "EditRequest", "EditState", "ErrorState",
    "EvaluationRequest", "EvaluationState", "ExportQuery", "GraphList", "GraphPath", "GraphState", "GraphSummary",
    "Health", "LookRequest", "LookState", "NewGraph", "NewProject", "NodeReport", "OperatorList", "OperatorState",
    "ProjectList", "ProjectPath", "ProjectState", "RevisionRequest", "Settings", "TicketPath", "TicketQuery",
]  # fmt: skip


class Strict(BaseModel):
    """A request: unknown fields are refused, so that a misspelt one is not passed over."""

    model_config = ConfigDict(extra="forbid")


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


class Health(BaseModel):
    """Whether all parts answer."""

    status: Literal["ok", "degraded"]
    database: bool
    evaluators: int
    version: str


class ProjectPath(BaseModel):
    project_id: str


class GraphPath(BaseModel):
    graph_id: str


class AssetPath(BaseModel):
    asset_id: str


class TicketPath(BaseModel):
    ticket_id: str


class BufferPath(BaseModel):
    digest: str


class NewProject(Strict):
    title: str = Field(min_length=1, max_length=200)


class ProjectState(BaseModel):
    id: str
    title: str


class ProjectList(BaseModel):
    projects: list[ProjectState]


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
    revision: int = Field(ge=0)


class EditRequest(RevisionRequest):
    """A JSON Patch (RFC 6902) against a revision."""

    patch: list[dict[str, Any]] = Field(min_length=1, max_length=10_000)
    label: str = Field("", max_length=200)


class EditState(BaseModel):
    revision: int
    kind: Literal["edit", "undo", "redo"]
    label: str
    target: int | None


class EditList(BaseModel):
    edits: list[EditState]


class AssetState(BaseModel):
    id: str
    name: str
    file_name: str
    size: int
    summary: dict[str, Any]


class AssetList(BaseModel):
    assets: list[AssetState]


class LookRequest(Strict):
    """A look at one node: wishes name what is wanted (summary, mesh, normals, attribute, rows).

    ``draft`` is unsaved and was made against ``revision`` (the newest one, if not given).
    """

    node: str | None = None
    wishes: list[dict[str, Any]] = Field(default_factory=list, max_length=50)
    draft: list[dict[str, Any]] = Field(default_factory=list, max_length=1000)
    revision: int | None = Field(None, ge=0)


class EvaluationRequest(LookRequest):
    """Evaluate a graph with its unsaved ``draft`` on top; a newer request on a channel supersedes this."""

    channel: str = Field("", max_length=64)
    only_node: bool = False
    wait: float = Field(0.4, ge=0, le=30)


class Note(BaseModel):
    level: Literal["note", "warning"]
    text: str


class NodeReport(BaseModel):
    """What became of a node. ``outputs`` are the counts of each output, ``change`` is the difference in counts from its first input."""

    state: Literal["done", "failed", "waiting"]
    key: str
    seconds: float
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
    """A running or finished evaluation. ``looks`` answer the wishes in order."""

    ticket: str
    state: Literal["waiting", "running", "done", "failed", "stopped"]
    progress: Progress
    revision: int | None = None
    nodes: dict[str, NodeReport] | None = None
    node: str | None = None
    looks: list[dict[str, Any]] | None = None
    error: ErrorState | None = None


class LookState(BaseModel):
    looks: list[dict[str, Any]]


class TextRequest(Strict):
    """A text as it is being written, as a parameter of a node; ``elements`` are those that it prints for."""

    node: str
    parameter: str
    source: str = Field(max_length=20_000)
    elements: list[int] = Field(default_factory=list, max_length=100)
    draft: list[dict[str, Any]] = Field(default_factory=list, max_length=1000)
    revision: int | None = Field(None, ge=0)


class TextName(BaseModel):
    """A name that can be written, with its type, where it comes from, and its range or meaning."""

    model_config = ConfigDict(extra="ignore")
    name: str
    type: str
    origin: str = Field(validation_alias="from")
    summary: str
    unit: str = ""


class TextState(BaseModel):
    """What a text means: its error, its result in words, and what can be written in it."""

    error: ErrorState | None
    result: str
    names: list[TextName]
    members: dict[str, list[TextName]]
    controls: list[ParameterState] | None = None
    inputs: list[InputState] | None = None
    printed: list[str] = []


class RewriteRequest(Strict):
    """Another way to write a parameter: ``text`` makes a formula of a wire, ``nodes`` value nodes of a formula or script."""

    node: str
    parameter: str
    to: Literal["text", "nodes"]
    draft: list[dict[str, Any]] = Field(default_factory=list, max_length=1000)
    revision: int | None = Field(None, ge=0)


class RewriteState(BaseModel):
    """New nodes, what the parameter holds then, and the node that replaces a script."""

    nodes: dict[str, dict[str, Any]] = {}
    value: Any = None
    last: str | None = None


class TicketQuery(BaseModel):
    wait: float = Field(0.0, ge=0, le=30)


class ExportQuery(BaseModel):
    node: str
    format: str = "ply"
    encoding: str = ""


class OperatorState(BaseModel):
    """An operator's declaration: all that its form, its help and the finder need."""

    name: str
    label: str
    family: str
    summary: str
    description: str
    carries: str
    keywords: list[str]
    version: int
    inputs: list[InputState]
    makes_value: bool
    declares_inputs: bool
    outputs: list[OutputState]
    parameters: list[ParameterState]


class InputState(BaseModel):
    name: str
    help: str
    many: bool
    optional: bool


class OutputState(BaseModel):
    name: str
    help: str


class OptionState(BaseModel):
    value: str
    help: str


class ShownWhen(BaseModel):
    parameter: str
    value: Any


class ParameterState(BaseModel):
    name: str
    label: str
    widget: str
    default: Any
    help: str
    unit: str
    takes_formula: bool
    takes_wire: bool
    shown_when: ShownWhen | None = None
    soft: list[float] | None = None
    low: float | None = None
    high: float | None = None
    step: float | None = None
    size: int | None = None
    whole: bool | None = None
    options: list[OptionState] | None = None
    on: str | None = None
    of: str | None = None
    type: str | None = None
    kind: str | None = None
    new: bool | None = None


class FunctionState(BaseModel):
    name: str
    usage: str
    summary: str
    family: str = ""
    source: str = ""
    example: str = ""


class OperatorList(BaseModel):
    operators: list[OperatorState]
    functions: list[FunctionState]
    formats: dict[str, dict[str, Any]]


class Settings(BaseModel):
    """Settings of the workshop; unknown names are kept for newer versions."""

    model_config = ConfigDict(extra="allow")
    theme: Literal["day", "night"] | None = None


for _model in (ErrorState, OperatorState, EvaluationState, TextState):
    _model.model_rebuild()
