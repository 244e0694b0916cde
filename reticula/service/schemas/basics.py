"""What all requests and answers share, and settings of the workshop."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from reticula.contract.strict import Strict, Whole

__all__ = ["Health", "Settings", "Strict", "Whole"]


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
