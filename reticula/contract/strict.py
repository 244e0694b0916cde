"""What comes from outside: unknown fields are refused, so that a misspelt one is not passed over."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

__all__ = ["Name", "Strict", "Whole"]


def _whole(value: Any) -> Any:
    return int(value) if isinstance(value, float) and value.is_integer() else value


Whole = Annotated[int, BeforeValidator(_whole)]
"""A whole number, which JSON may write as 3.0."""


Name = Annotated[str, Field(max_length=200)]


class Strict(BaseModel):
    """A request: unknown fields are refused, and so are other types."""

    model_config = ConfigDict(extra="forbid", strict=True)
