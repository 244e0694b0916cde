"""Questions to results, written as plain data as the page sends them."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

from reticula.contract.queries import LookQuery
from reticula.core.geometry import Geo
from reticula.workers import result_queries
from reticula.workers.buffers import BufferFiles

__all__ = ["as_query", "look"]

_ADAPTER: TypeAdapter[LookQuery] = TypeAdapter(LookQuery)


def as_query(given: object) -> LookQuery:
    """Return plain data as a question, as the service reads them."""
    return _ADAPTER.validate_python(given)


def look(geo: Geo, query: dict[str, Any], buffers: BufferFiles) -> Any:
    """Return the answer to a question."""
    return result_queries.look(geo, as_query(query), buffers)
