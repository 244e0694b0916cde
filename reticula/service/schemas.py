"""The shapes of requests and answers. OpenAPI, and from that the TypeScript types, are made from these."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from reticula.service.operator_schemas import InputState, ParameterState

__all__ = [
    "AssetList",
    "AssetPath",
    "AssetState",
    "Basis",
    "BufferPath",
    "ChangeRequest",
    "ChangeState",
    "CheckCount",
    "ChecksRequest",
    "ChecksState",
    "DepotState",
    "DifferenceQuery",
    "DifferenceState",
    "EditList",
    "EditRequest",
    "EditState",
    "ErrorState",
    "EvaluationRequest",
    "EvaluationState",
    "ExportQuery",
    "FreezeRequest",
    "GraphList",
    "GraphPath",
    "GraphState",
    "GraphSummary",
    "Health",
    "ImportRequest",
    "ImportState",
    "LookRequest",
    "LookState",
    "NewGraph",
    "NewProject",
    "NodeReport",
    "ProjectList",
    "ProjectPath",
    "ProjectState",
    "PublicationRequest",
    "PublicationState",
    "ReviewPath",
    "ReviewState",
    "RevisionRequest",
    "RewriteRequest",
    "RewriteState",
    "Settings",
    "TextRequest",
    "TextState",
    "TicketPath",
    "TicketQuery",
]


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


class Basis(Strict):
    """What a question is about: a saved ``revision`` (the newest one, if not given), the unsaved ``draft`` on top of
    it, and
    the ``level``: the graph inside a node, by its path, e.g. ``tile/rings@3``.
    """

    draft: list[dict[str, Any]] = Field(default_factory=list, max_length=10_000)
    revision: int | None = Field(None, ge=0)
    level: str = Field("", max_length=2000)


class LookRequest(Basis):
    """A look at one node: queries name what is wanted (summary, mesh, normals, attribute, rows …).

    A ``difference`` compares with the node ``to``, as it is now or as it was ``at`` a revision.
    """

    node: str | None = None
    queries: list[dict[str, Any]] = Field(default_factory=list, max_length=50)


class EvaluationRequest(LookRequest):
    """Evaluate a graph with its unsaved ``draft`` on top; a newer request on a channel supersedes this."""

    channel: str = Field("", max_length=64)
    only_node: bool = False
    wait: float = Field(0.4, ge=0, le=30)


class Note(BaseModel):
    level: Literal["note", "warning"]
    text: str


class NodeReport(BaseModel):
    """What became of a node.

    ``outputs`` are the counts of each output, ``change`` is the difference in counts from its first input.
    """

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
    """A running or finished evaluation. ``looks`` answer the queries in order."""

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


class ChecksRequest(Basis):
    """Check every node; an evaluation on the same channel goes first and supersedes this."""

    channel: str = Field("", max_length=64)


class CheckCount(BaseModel):
    """How many elements of a node's result have a trouble."""

    name: str
    kind: str
    count: int
    help: str


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


class TextRequest(Basis):
    """A text as it is being written, as a parameter of a node; ``elements`` are those that it prints for."""

    node: str
    parameter: str
    source: str = Field(max_length=20_000)
    elements: list[int] = Field(default_factory=list, max_length=100)


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


class RewriteRequest(Basis):
    """Another way to write a parameter: ``text`` makes a formula of a wire, ``nodes`` value nodes of a formula or
    script.
    """

    node: str
    parameter: str
    to: Literal["text", "nodes"]


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
    level: str = ""


class ChangeRequest(Basis):
    """A change that takes more than setting a value. What ``arguments`` are needed depends on ``what``."""

    what: Literal[
        "fold", "unfold", "rename node", "rename dial", "rename port", "make dial", "set free", "tie", "update"
    ]
    arguments: dict[str, Any] = Field(default_factory=dict)


class ChangeState(BaseModel):
    """The JSON Patch that makes the change, and the cards that it is about then."""

    patch: list[dict[str, Any]]
    cards: list[str]
    name: str = ""


class PublicationRequest(Basis):
    """Publish a folded card. With ``dry`` nothing is published: the answer says what would be."""

    node: str
    name: str = Field(max_length=48)
    release: str = Field(max_length=20)
    title: str = Field("", max_length=80)
    summary: str = Field("", max_length=200)
    help: str = Field("", max_length=20_000)
    changes: str = Field("", max_length=4000)
    tags: list[str] = Field(default_factory=list, max_length=20)
    reason: str = Field("", max_length=1000)
    picture: str = Field("", max_length=8_000_000, description="PNG, base64")
    dry: bool = False


class DifferenceState(BaseModel):
    gone: list[str]
    new: list[str]
    changed: list[str]
    step: Literal["major", "minor", "patch"]


class TrialState(BaseModel):
    title: str
    trouble: str


class PublicationState(BaseModel):
    operator: str
    published: bool
    before: str | None
    differences: DifferenceState
    breaks: list[str]
    trials: list[TrialState]


class DifferenceQuery(BaseModel):
    before: str
    after: str


class ReviewEntry(BaseModel):
    """An operator of a package: new, there already, or another one of the same name and release."""

    operator: str
    title: str
    summary: str
    state: Literal["new", "there already", "collides"]
    other_name: str
    dials: list[str]
    uses: list[str]
    shapes: list[str]


class ReviewState(BaseModel):
    """What a package would bring. It is taken by naming ``review``."""

    review: str
    main: str
    operators: list[ReviewEntry]


class ReviewPath(BaseModel):
    review_id: str


class ImportRequest(Strict):
    """For each operator that collides: keep the one that is there, or bring the other one under another name."""

    choices: dict[str, Literal["keep", "beside"]] = Field(default_factory=dict)


class ImportState(BaseModel):
    brought: list[str]
    kept: list[str]


class DepotEntry(BaseModel):
    operator: str
    title: str
    summary: str
    size: int
    here: bool


class DepotState(BaseModel):
    """What the depot has. ``message`` says in words why it does not answer."""

    available: bool
    message: str
    packages: list[DepotEntry]


class Settings(BaseModel):
    """Settings of the workshop; unknown names are kept for newer versions."""

    model_config = ConfigDict(extra="allow")
    theme: Literal["day", "night"] | None = None


for _model in (ErrorState, EvaluationState, TextState, ReviewState, DepotState):
    _model.model_rebuild()
