"""What a handler of a request may return."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from werkzeug.wrappers import Response

__all__ = ["Answer"]

Answer = (
    Response
    | str
    | bytes
    | dict[str, Any]
    | list[Any]
    | tuple[str | dict[str, Any] | Response, int]
    | tuple[str | dict[str, Any], int, Mapping[str, str]]
)
"""A body, a body with a status, or both with headers; the types are there at run time, where OpenAPI is made."""
