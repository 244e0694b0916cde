"""Questions to a result. To add one: a class here, its answer in :mod:`.answers`, and who answers it in
:mod:`reticula.workers.result_queries`, where the type checker says what is missing.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, FiniteFloat

from reticula.contract.strict import Name, Strict, Whole
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.operators.shared.picked import MOST_PICKED

__all__ = [
    "AnchorsQuery",
    "AttributeQuery",
    "ChecksQuery",
    "DifferenceQuery",
    "EdgesQuery",
    "FlatQuery",
    "GroupsQuery",
    "LiveQuery",
    "LookQuery",
    "MeshQuery",
    "NamesQuery",
    "NormalsQuery",
    "PlaceQuery",
    "RowsQuery",
    "SpreadQuery",
    "StatisticsQuery",
    "SummaryQuery",
    "TraceQuery",
    "UvQuery",
    "WhyQuery",
    "WiresQuery",
]

MOST_ROWS = 2000
SHARP = 30.0
"""From which angle in degrees on an edge counts as a crease, if no crease attribute says so."""
Text = Annotated[str, Field(max_length=10_000)]
Elements = Annotated[list[Whole], Field(max_length=MOST_PICKED)]
Coordinates = Annotated[list[FiniteFloat], Field(min_length=3, max_length=3)]


class Asked(Strict):
    """A question; the asker may mark it, to find its answer."""

    mark: str = Field("", alias="as", max_length=40)


class SummaryQuery(Asked):
    """Counts, attributes with their ranges, bounds."""

    what: Literal["summary"]


class MeshQuery(Asked):
    """What is drawn of it, where it stands."""

    what: Literal["mesh"]


class FlatQuery(Asked):
    """The faces laid out by their uv."""

    what: Literal["flat"]


class NormalsQuery(Asked):
    """Strokes: normals, or a vector attribute, of points or faces."""

    what: Literal["normals"]
    kind: Literal["point", "face"] = "point"
    name: Name = "normal"


class EdgesQuery(Asked):
    """Which edges are open borders, creases or crowded; ``angle`` in degrees."""

    what: Literal["edges"]
    angle: FiniteFloat = Field(SHARP, ge=0, le=180)


class GroupsQuery(Asked):
    """All groups of a kind."""

    what: Literal["groups"]
    kind: Kind


class UvQuery(Asked):
    """Where each corner lies on the uv sheet."""

    what: Literal["uv"]


class PlaceQuery(Asked):
    """The matrix from the geometry's own space to the world."""

    what: Literal["place"]


class AttributeQuery(Asked):
    """The values of an attribute or built-in, for false colour."""

    what: Literal["attribute"]
    kind: Kind
    name: Name


class RowsQuery(Asked):
    """A page of the ledger; ``where`` is a formula, ``sort`` a column, with ``.NUMBER`` behind it for a component."""

    what: Literal["rows"]
    kind: Kind
    offset: Whole = Field(0, ge=0)
    limit: Whole = Field(100, ge=0, le=MOST_ROWS)
    sort: Name = ""
    descending: bool = False
    where: Text = ""


class StatisticsQuery(Asked):
    """How the numbers of each attribute are spread, of one kind or all, over the elements for which ``where`` holds."""

    what: Literal["statistics"]
    kind: Kind | None = None
    where: Text = ""


class NamesQuery(Asked):
    """The stable names of some elements."""

    what: Literal["names"]
    kind: Kind
    elements: Elements = Field(default_factory=list)


class AnchorsQuery(Asked):
    """What holds some places in the world (x, y, z in m) on the geometry."""

    what: Literal["anchors"]
    places: list[Coordinates] = Field(default_factory=list, max_length=MOST_PICKED)


class ChecksQuery(Asked):
    """What is wrong with it, at which elements, and what mends it."""

    what: Literal["checks"]


class SpreadQuery(Asked):
    """Chosen elements with those around them, without their rim, or all of their piece, loop or ring."""

    what: Literal["spread"]
    kind: Kind
    how: Literal["grow", "shrink", "piece", "loop", "ring"]
    elements: Elements = Field(default_factory=list)


class TraceQuery(Asked):
    """The way of an element back to where it was made."""

    what: Literal["trace"]
    kind: Kind
    element: Whole


class DifferenceQuery(Asked):
    """What differs from the result of the node ``to``, as it is now or as it was ``at`` a revision."""

    what: Literal["difference"]
    to: Name | None = None
    at: Whole | None = None


class LiveQuery(Asked):
    """What a text, as the ``parameter`` of a node, gives for an element of this result; none: for nothing picked."""

    what: Literal["live"]
    node: Name
    parameter: Name
    source: str = Field(max_length=20_000)
    kind: Kind | None = None
    element: Whole | None = None


class WiresQuery(Asked):
    """The values on the wires of value nodes, for an element of this result."""

    what: Literal["wires"]
    kind: Kind | None = None
    element: Whole | None = None


class WhyQuery(Asked):
    """Which node gave an element of this result a value, by what, from which values."""

    what: Literal["why"]
    kind: Kind
    element: Whole
    name: Name


LookQuery = Annotated[
    SummaryQuery
    | MeshQuery
    | FlatQuery
    | NormalsQuery
    | EdgesQuery
    | GroupsQuery
    | UvQuery
    | PlaceQuery
    | AttributeQuery
    | RowsQuery
    | StatisticsQuery
    | NamesQuery
    | AnchorsQuery
    | ChecksQuery
    | SpreadQuery
    | TraceQuery
    | DifferenceQuery
    | LiveQuery
    | WiresQuery
    | WhyQuery,
    Field(discriminator="what"),
]
