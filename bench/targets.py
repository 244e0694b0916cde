"""What each row is meant to reach: ours over theirs, at most."""

from __future__ import annotations

__all__ = ["TARGETS", "target_of"]

TARGETS: dict[str, float] = {
    "grid": 1.2,
    "extrude all faces one by one": 1.0,
    "inset by a fraction": 1.0,
    "unshare": 1.2,
    "triangulate quads": 1.2,
    "slice, open": 1.2,
    "simplify to a tenth": 1.2,
    "boolean difference": 1.3,
    "split faces into four triangles": 0.7,
    "fill with an even mesh": 1.1,
    "first hit of rays": 1.0,
    "first hits of rays": 1.0,
    "  as raycast, all its attributes": 1.15,
    "  as transfer attribute, one number": 1.15,
    "transfer attribute": 1.15,
    "scatter a million points": 0.7,
    "scatter 5,000 points evenly": 2.0,
    "mean curvature": 0.8,
    "point tree": 0.8,
    "point normals": 0.8,
    "smooth subdivide, new positions": 0.15,
    "read STL": 1.2,
    "write STL": 1.2,
    "read PLY": 1.2,
    "write PLY": 1.2,
}
"""By the name of the row; rows without one have no target of their own. Growth for ten times as much: 12 at most."""

MEMORY = 2.5
"""The most that an operator may take, over what it is given and what it makes."""


def target_of(what: str) -> float | None:
    """Return the target of the row called ``what``, None if it has none."""
    return MEMORY if what.startswith("memory: ") else TARGETS.get(what)
