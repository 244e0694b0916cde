"""Texts as they are written, and other ways to write them."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from reticula.service.operator_schemas import InputState, ParameterState
from reticula.service.schemas.basics import Whole
from reticula.service.schemas.graphs import Basis, ErrorState

__all__ = ["RewriteRequest", "RewriteState", "TextName", "TextRequest", "TextState"]


class TextRequest(Basis):
    """A text as it is being written, as a parameter of a node; ``elements`` are those that it prints for."""

    node: str
    parameter: str
    source: str = Field(max_length=20_000)
    elements: list[Whole] = Field(default_factory=list, max_length=100)


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
