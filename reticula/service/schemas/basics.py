"""What all requests and answers share, and settings of the workshop."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict

__all__ = ["Health", "Settings", "Strict", "Whole"]


def _whole(value: Any) -> Any:
    return int(value) if isinstance(value, float) and value.is_integer() else value


Whole = Annotated[int, BeforeValidator(_whole)]
"""A whole number, which JSON may write as 3.0."""


class Strict(BaseModel):
    """A request: unknown fields are refused, so that a misspelt one is not passed over, and so are other types."""

    model_config = ConfigDict(extra="forbid", strict=True)


class Health(BaseModel):
    """Whether all parts answer: the database, how many evaluators do in time, how many jobs wait for them, bytes free
    on the disk of the data, and the depot (none: there is none).
    """

    status: Literal["ok", "degraded"]
    database: bool
    evaluators: int
    waiting: int
    disk_free: int
    depot: bool | None
    version: str


class Settings(BaseModel):
    """Settings of the workshop; unknown names are kept for newer versions."""

    model_config = ConfigDict(extra="allow")
    theme: Literal["day", "night"] | None = None
