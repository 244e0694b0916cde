"""Proof sheets: what is asked for, and what is told of them and of their variants."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from reticula.core.graph.time.timeline import FARTHEST
from reticula.many.choices import MOST_VARIANTS
from reticula.service.schemas.basics import Strict, Whole

__all__ = [
    "ExtendRequest",
    "MatchList",
    "MatchRequest",
    "NewSheet",
    "PlanBody",
    "PlanCheck",
    "PlanState",
    "RunRequest",
    "SheetFile",
    "SheetList",
    "SheetPath",
    "SheetState",
    "SheetTitle",
    "TableQuery",
    "VariantFile",
    "VariantList",
    "VariantPath",
    "VariantState",
    "VariantsQuery",
]

Spread = Literal["random", "latin", "sobol"]
"""One of :data:`reticula.many.choices.SPREADS`."""


class AimBody(Strict):
    """A formula over values and numbers of a variant, or on its whole, and what it is to be; ``at`` means a value."""

    formula: str = Field(min_length=1, max_length=2000)
    goal: Literal["smallest", "largest", "at"] = "smallest"
    value: float = Field(0.0, allow_inf_nan=False)


class SeekBody(Strict):
    """What is sought: aims, and conditions that must hold."""

    aims: list[AimBody] = Field(min_length=1, max_length=3)
    conditions: list[str] = Field(default_factory=list, max_length=12)


class PlanBody(Strict):
    """What is varied, as texts by the names of dials or as ``NODE.PARAMETER``, and which numbers are noted.

    With ``seek`` it is turned until the aims are met best, by at most ``count`` tries. ``table`` is a table of the
    project: each of its rows is made, with every variant. ``ending`` is the format of the file that is kept of each
    result; empty: none.
    """

    vary: dict[str, str] = Field(default_factory=dict, max_length=40)
    count: Whole = Field(16, ge=1, le=MOST_VARIANTS)
    spread: Spread = "sobol"
    seed: Whole = Field(0, ge=0, lt=2**32)
    numbers: dict[str, str] = Field(default_factory=dict, max_length=24)
    seek: SeekBody | None = None
    table: str = Field("", max_length=200)
    ending: str = Field("", max_length=12, pattern=r"^[a-z0-9]*$")


class NewSheet(Strict):
    """A sheet of a graph as it is at a ``revision`` with a ``draft``; ``node`` is whose result it shows, none: what the
    graph looks at.
    """

    draft: list[dict[str, Any]] = Field(default_factory=list, max_length=10_000)
    revision: Whole | None = Field(None, ge=0)
    frame: float | None = Field(None, ge=-FARTHEST, le=FARTHEST)
    title: str = Field("", max_length=200)
    node: str | None = None
    plan: PlanBody


class PlanFile(PlanBody):
    """A plan in a file."""

    columns: list[str] = Field(default_factory=list, max_length=2000)

    node: str | None = None
    frame: float | None = Field(None, ge=-FARTHEST, le=FARTHEST)


class PlanState(BaseModel):
    """A plan as it was made: see :class:`reticula.many.sheet.Plan`."""

    vary: dict[str, str]
    count: int
    spread: Spread
    seed: int
    numbers: dict[str, str]
    node: str | None
    frame: float | None
    seek: SeekBody | None = None
    table: str = ""
    columns: list[str] = Field(default_factory=list, description="those of the table")
    ending: str = ""


class PlanCheck(BaseModel):
    """How many variants a plan makes, or why none. ``sets`` are the columns of its table that set something, ``kept``
    those that are only kept beside the results.
    """

    count: int
    trouble: str
    sets: list[str] = Field(default_factory=list)
    kept: list[str] = Field(default_factory=list)


class SheetState(BaseModel):
    """A sheet: what it shows, whether it is being made, and how far it is.

    ``ended`` counts the variants that have ended; a page that knows those up to one asks for those since. ``best`` are
    the numbers of the best variants by now of one that seeks. ``noted`` are the plan's numbers and those that its aims
    and conditions read.
    """

    id: str
    project_id: str
    graph_id: str | None
    title: str
    plan: PlanState
    state: Literal["running", "stopped", "done", "failed"]
    trouble: str
    ended: int
    best: list[int]
    noted: dict[str, str]
    open: int
    done: int
    failed: int
    made: str


class SheetList(BaseModel):
    sheets: list[SheetState]


class SheetPath(BaseModel):
    sheet_id: str


class SheetTitle(Strict):
    title: str = Field(min_length=1, max_length=200)


class RunRequest(Strict):
    """Whether those that failed are made once more, too."""

    failed: bool = False


class ExtendRequest(PlanBody):
    """A plan whose variants are added as far as the sheet does not have them."""


class VariantsQuery(BaseModel):
    """Those that ended after ``since``; less than 0: all."""

    since: int = -1


class VariantState(BaseModel):
    """A variant. ``numbers`` are those asked for (null: could not be had), ``picture`` names the file that draws it,
    ``file`` that of the result itself, if one is kept.

    Of a sheet that seeks, ``aims`` are what their formulas say, by formula, and ``meets`` whether all conditions hold.
    """

    number: int
    state: Literal["open", "done", "failed"]
    ended: int
    values: dict[str, Any]
    numbers: dict[str, float | None]
    aims: dict[str, float | None]
    meets: bool
    counts: dict[str, int]
    error: str
    warnings: list[str]
    notes: list[str]
    seconds: float
    memory: int
    picture: str
    file: str


class VariantFile(Strict):
    """A variant in a file."""

    number: Whole = Field(ge=1)
    state: Literal["open", "done", "failed"]
    ended: Whole = Field(ge=0)
    values: dict[str, Any]
    numbers: dict[str, float | None] = Field(default_factory=dict, max_length=100)
    counts: dict[str, int] = Field(default_factory=dict, max_length=100)
    error: str = ""
    warnings: list[str] = Field(default_factory=list, max_length=1000)
    notes: list[str] = Field(default_factory=list, max_length=1000)
    seconds: float = Field(0.0, ge=0)
    memory: Whole = Field(0, ge=0)
    picture: str = Field("", pattern=r"^([0-9a-f]{32}\.drawn)?$")


class SheetFile(Strict):
    """A sheet with its variants, as a file has it beside their pictures; ``document`` is the graph that it shows."""

    format: Literal["reticula proof sheet"]
    version: Literal[1]
    title: str = Field(min_length=1, max_length=200)
    plan: PlanFile
    document: dict[str, Any]
    best: list[Whole] = Field(default_factory=list, max_length=MOST_VARIANTS)
    variants: list[VariantFile] = Field(max_length=MOST_VARIANTS)


class VariantList(BaseModel):
    sheet: SheetState
    variants: list[VariantState]


class MatchRequest(Strict):
    """A formula over the values and numbers of variants, e.g. ``volume < 0.002 and ridges > 3``."""

    where: str = Field(min_length=1, max_length=2000)


class MatchList(BaseModel):
    """The numbers of the variants, or what is wrong with the formula."""

    numbers: list[int]
    trouble: str


class VariantPath(SheetPath):
    number: Whole


class TableQuery(BaseModel):
    """The format of the table."""

    ending: Literal["csv", "parquet"] = "csv"
