"""A geometry as a small picture of it takes it: few triangles, and all arrays in one compressed file."""

from __future__ import annotations

import json
import zlib

from reticula.core import ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry import Geo, triangles
from reticula.core.geometry.edit.placement import to_world
from reticula.workers.buffers import MemoryBuffers
from reticula.workers.render_data import mesh

__all__ = ["DRAWN", "MOST_TRIANGLES", "drawn_file", "light"]

MOST_TRIANGLES = 4000
"""Triangles that a small picture shows; more would only be smaller than its pixels."""
DRAWN = ".drawn"
"""What such files end with."""
FAST = 1


def light(geo: Geo) -> Geo:
    """Return a geometry where it stands with at most about :data:`MOST_TRIANGLES`, and nothing that is not drawn."""
    geo = to_world(geo)
    for kind, attributes in geo.attributes.items():
        for name in attributes:
            if kind != "instance" and not (kind == "point" and name == "position"):
                geo = geo.without_attribute(kind, name)
    if len(triangles(geo).corner) <= MOST_TRIANGLES:
        return geo
    with collecting():
        return ops.simplify(geo, to="count", count=MOST_TRIANGLES)


def drawn_file(geo: Geo) -> bytes:
    """Return a zlib stream (RFC 1950) of a line of JSON and the arrays that it names.

    The line has ``look``, the mesh as the view is told it, and ``arrays``: digest and bytes of each, in their order.
    """
    buffers = MemoryBuffers()
    look = mesh(light(geo), buffers)
    head = {"look": look, "arrays": [[digest, len(data)] for digest, data in buffers.kept.items()]}
    return zlib.compress(b"".join([json.dumps(head).encode(), b"\n", *buffers.kept.values()]), FAST)
