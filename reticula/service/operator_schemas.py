"""The shapes of operators and their parameters, as the interface and the finder get them."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from reticula.core.geometry.mesh.attribute_types import Shown
from reticula.core.graph.structure.library import PUBLISHED

__all__ = [
    "AttributeTypeState",
    "DialTypeState",
    "FormatState",
    "FunctionState",
    "HandleState",
    "InputState",
    "OperatorList",
    "OperatorPath",
    "OperatorState",
    "OptionState",
    "OutputState",
    "ParameterState",
    "Published",
    "ShownWhen",
]


class OperatorState(BaseModel):
    """An operator's declaration: all that its form, its help and the finder need."""

    name: str
    label: str
    family: str
    summary: str
    description: str
    carries: str
    keywords: list[str]
    related: list[str] = Field(description="operators that one may want instead or next")
    version: int
    inputs: list[InputState]
    makes_value: bool
    holds_graph: bool
    declares_inputs: bool
    outputs: list[OutputState]
    parameters: list[ParameterState]
    published: Published | None = None


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


class Published(BaseModel):
    """What a published operator is: its name, this release, and all that there are, oldest first."""

    name: str
    release: str
    releases: list[str]
    promises: list[str]
    changes: str
    examples: list[str]
    picture: bool
    origin: str
    presets: dict[str, dict[str, Any]]


class ShownWhen(BaseModel):
    parameter: str
    value: Any


class HandleState(BaseModel):
    """How a parameter is dragged in the view; ``at`` names siblings whose places say where."""

    shape: Literal["place", "places", "direction", "plane", "turn", "scale", "size"]
    at: list[str]
    space: Literal["own", "world"]


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
    section: str | None = None
    handle: HandleState | None = None


class FunctionState(BaseModel):
    name: str
    usage: str
    summary: str
    family: str = ""
    source: str = ""
    example: str = ""


class AttributeTypeState(BaseModel):
    """An attribute type: how the page shows its values and what can be made of them."""

    about: str
    shown: Shown
    parts: str = Field(description="a letter for each component that is shown by itself")
    measured: bool = Field(description="whether values are numbers or vectors")
    converts: bool = Field(description="whether values are edited by hand and become those of other types")


class DialTypeState(BaseModel):
    """A type of dials: what a new one begins with (none: it is only made of a parameter), whether it has limits, and
    whether it may follow a table.
    """

    fresh: Any = None
    ranged: bool
    follows: bool


class TableWords(BaseModel):
    """The words of what follows a table, each with what it means: seconds of units of time (0: frames), how a value is
    taken from rows, what it is before and after them.
    """

    units: dict[str, float]
    taken: dict[str, str]
    outside: dict[str, str]


class FormatState(BaseModel):
    """A file format: its name, what it keeps, its options with their words and what these are for, whether it is
    written or only read, whether it may name files beside it, and whether its bows become lines within an error.
    """

    name: str
    keeps: str
    options: dict[str, list[str]]
    about: dict[str, str]
    written: bool
    parts: bool
    tolerance: bool


class OperatorList(BaseModel):
    operators: list[OperatorState]
    functions: list[FunctionState]
    formats: dict[str, FormatState]
    attribute_types: dict[str, AttributeTypeState]
    dial_types: dict[str, DialTypeState]
    table_words: TableWords


PATTERN = "^" + PUBLISHED.pattern.replace(r"\d", "[0-9]").replace(r"\Z", "$")
"""Names of published operators, as a regular expression of ECMA-262."""


class OperatorPath(BaseModel):
    operator: str = Field(json_schema_extra={"pattern": PATTERN})
