"""Questions to results, written as plain data as the page sends them."""

from __future__ import annotations

from typing import Any

from reticula.contract.queries import as_query
from reticula.core.geometry import Geo
from reticula.workers import result_queries
from reticula.workers.buffers import BufferFiles

__all__ = ["look"]


def look(geo: Geo, query: dict[str, Any], buffers: BufferFiles) -> Any:
    """Return the answer to a question."""
    return result_queries.look(geo, as_query(query), buffers)
