"""Two results held against each other, as the page asks for it."""

from __future__ import annotations

from reticula.contract.answers import DifferenceLook
from reticula.core.geometry import Geo
from reticula.core.reports.comparison import compare
from reticula.workers.buffers import BufferFiles

__all__ = ["difference"]


def difference(geo: Geo, other: Geo, buffers: BufferFiles) -> DifferenceLook:
    """Return what differs in ``geo`` from ``other``, with the distance in m of each point to the other one as a
    buffer.
    """
    found = compare(geo, other)
    return {
        "what": "difference",
        "counts": found.counts,
        "attributes": [{"kind": one.kind, "name": one.name, "what": one.what} for one in found.attributes],
        "moved": found.moved,
        "farthest": found.farthest,
        "distance": buffers.keep(found.distance.astype("<f4")),
    }
