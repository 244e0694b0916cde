"""Answers to questions about a result: plain data whose form the type checker knows, and the page too."""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired

from pydantic import Field
from typing_extensions import TypedDict

from reticula.contract.explanations import LiveLook, LookTrouble, WhyLook, WiresLook
from reticula.core.geometry.mesh.kinds import Kind

__all__ = [
    "AnchorsLook",
    "AttributeAbout",
    "AttributeLook",
    "BufferRef",
    "ChecksLook",
    "Column",
    "Defect",
    "DifferenceLook",
    "EdgesLook",
    "FailedLook",
    "GroupsLook",
    "LiveLook",
    "LookAnswer",
    "MeshLook",
    "MissingLook",
    "NamesLook",
    "NormalsLook",
    "PlaceLook",
    "PlacedMesh",
    "RowsLook",
    "Spread",
    "SpreadLook",
    "StatisticsLook",
    "SummaryLook",
    "TraceLook",
    "UvLook",
    "WhyLook",
    "WiresLook",
]


class BufferRef(TypedDict):
    """An array by the digest of its content; it is fetched once."""

    digest: str
    dtype: str
    shape: list[int]


class AttributeAbout(TypedDict):
    """Name, type, and the range of numbers (per component), the members of a group, or words."""

    name: str
    type: str
    low: NotRequired[list[float]]
    high: NotRequired[list[float]]
    members: NotRequired[int]
    words: NotRequired[list[str]]
    unit: NotRequired[str]


class SummaryLook(TypedDict):
    """``placed`` has the attributes that only the shapes have that stand as instances."""

    what: Literal["summary"]
    counts: dict[str, int]
    attributes: dict[Kind, list[AttributeAbout]]
    built_in: dict[Kind, list[str]]
    placed: dict[Kind, list[AttributeAbout]]
    bounds: tuple[list[float], list[float]]
    pieces: int
    open_border_edges: int


class Drawn(TypedDict):
    """Arrays of a mesh: positions and normals of points, faces as triangles of corners, edges and segments as pairs of
    points. In a layout by uv, ``own_point`` and ``own_edge`` say whose point and edge one is.
    """

    position: BufferRef
    normal: BufferRef
    corner_point: BufferRef
    triangle_corner: BufferRef
    triangle_face: BufferRef
    edge: BufferRef
    segment: BufferRef
    loose_point: BufferRef
    bounds: tuple[list[float], list[float]]
    own_point: NotRequired[BufferRef]
    own_edge: NotRequired[BufferRef]


class PlacedMesh(TypedDict):
    """A mesh that is drawn many times: for each copy a matrix (column by column) and the number of its instance."""

    mesh: Drawn
    matrix: BufferRef
    number: BufferRef


class MeshLook(Drawn):
    what: Literal["mesh", "flat"]
    instances: list[PlacedMesh]


class NormalsLook(TypedDict):
    what: Literal["normals"]
    begin: BufferRef
    direction: BufferRef


class EdgesLook(TypedDict):
    """For each edge 1 (open border), 2 (crease), 3 (crowded) or 0, and how many of each there are."""

    what: Literal["edges"]
    kinds: BufferRef
    border: int
    crease: int
    crowded: int
    creases_are: str


class GroupCount(TypedDict):
    name: str
    members: int


class GroupsLook(TypedDict):
    """For each element a bit per group that it is in."""

    what: Literal["groups"]
    kind: Kind
    values: BufferRef
    total: int
    groups: list[GroupCount]
    left_out: int
    parts: NotRequired[list[int]]


class UvLook(TypedDict):
    what: Literal["uv"]
    values: BufferRef
    low: list[float]
    high: list[float]
    parts: NotRequired[list[int]]


class PlaceLook(TypedDict):
    """A 4 × 4 matrix, row by row."""

    what: Literal["place"]
    matrix: list[float]


class AttributeLook(AttributeAbout):
    """``parts``: how many rows are of the geometry and of each shape that stands in it; 0 where one lacks it."""

    what: Literal["attribute"]
    kind: Kind
    values: BufferRef
    parts: NotRequired[list[int]]


class Column(TypedDict):
    name: str
    type: str
    unit: str
    built_in: bool


class RowsLook(TypedDict):
    """``index`` has the element of each row; ``total`` counts those that were not filtered out."""

    what: Literal["rows"]
    columns: list[Column]
    index: list[int]
    rows: list[list[Any]]
    total: int
    count: int


class Word(TypedDict):
    word: str
    count: int


class Spread(TypedDict):
    """How one number of an attribute is spread over the elements; a flag has members, a text its words."""

    name: str
    part: int
    type: str
    count: NotRequired[int]
    bad: NotRequired[int]
    low: NotRequired[float]
    high: NotRequired[float]
    mean: NotRequired[float]
    deviation: NotRequired[float]
    bins: NotRequired[list[int]]
    members: NotRequired[int]
    words: NotRequired[int]
    most: NotRequired[list[Word]]


class StatisticsLook(TypedDict):
    what: Literal["statistics"]
    kinds: dict[Kind, list[Spread]]


class NamesLook(TypedDict):
    """Hexadecimal names; those that nothing else came from yet end in ``+``."""

    what: Literal["names"]
    kind: Kind
    names: list[str]


class AnchorsLook(TypedDict):
    """Faces and where in them; the places in the geometry's own space; its extent, m."""

    what: Literal["anchors"]
    anchors: list[list[Any]]
    places: list[list[float]]
    extent: float


class Mending(TypedDict):
    operator: str
    parameters: dict[str, Any]


class Defect(TypedDict):
    """Something wrong, at which elements, and the operator that mends it."""

    name: str
    kind: Kind
    count: int
    elements: list[int]
    help: str
    repair: Mending | None


class ChecksLook(TypedDict):
    what: Literal["checks"]
    checks: list[Defect]
    remarks: list[Defect]


class SpreadLook(TypedDict):
    what: Literal["spread"]
    kind: Kind
    elements: list[int]


class Step(TypedDict):
    """A node on the way of an element, which one it was there, and what became of it."""

    feed: str
    kind: Kind
    element: int
    position: tuple[float, float, float]
    how: Literal["kept", "made", "new"]


class TraceLook(TypedDict):
    what: Literal["trace"]
    steps: list[Step]


class AttributeChange(TypedDict):
    kind: Kind
    name: str
    what: str


class DifferenceLook(TypedDict):
    """Counts with the change in each; the distance in m of each point to the other surface."""

    what: Literal["difference"]
    counts: dict[str, tuple[int, int]]
    attributes: list[AttributeChange]
    moved: int
    farthest: float
    distance: BufferRef


class MissingLook(TypedDict):
    """There is no result to look at."""

    what: Literal["missing"]
    missing: Literal[True]


class FailedLook(TypedDict):
    """This look could not be taken; the others were."""

    what: Literal["error"]
    error: LookTrouble


LookAnswer = Annotated[
    SummaryLook
    | MeshLook
    | NormalsLook
    | EdgesLook
    | GroupsLook
    | UvLook
    | PlaceLook
    | AttributeLook
    | RowsLook
    | StatisticsLook
    | NamesLook
    | AnchorsLook
    | ChecksLook
    | SpreadLook
    | TraceLook
    | DifferenceLook
    | LiveLook
    | WiresLook
    | WhyLook
    | MissingLook
    | FailedLook,
    Field(discriminator="what"),
]
