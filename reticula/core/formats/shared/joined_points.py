"""Vertices of files that repeat a point for every uv or normal there, joined to points again."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, Ints
from reticula.core.equal_rows import unique_rows

__all__ = ["JoinedPoints", "joined_points"]


@dataclass(frozen=True)
class JoinedPoints:
    """Points of vertices at equal places, in the order in which they first come.

    ``first (P,)`` is the first vertex of each point, ``point (V,)`` the point of each vertex.
    """

    first: Ints
    point: Indices

    def of_points(self, values: AnyArray, there: Flags) -> AnyArray | None:
        """Return values of vertices ``(V, ...)`` as those of points ``(P, ...)``; None if some point has several.

        ``there (V,)`` says which vertices have one; points without any get zeros.
        """
        having = np.flatnonzero(there)
        known = np.full(len(self.first), -1, np.int64)
        known[self.point[having][::-1]] = having[::-1]
        own, other = values[having], values[known[self.point[having]]]
        if not ((own == other) | ((own != own) & (other != other))).all():
            return None
        made = values[known]
        made[known < 0] = 0
        return made


def joined_points(places: Floats) -> JoinedPoints:
    """Join vertices at exactly equal ``places (V, 3)``."""
    first, point = unique_rows(np.ascontiguousarray(places + 0.0, np.float64).view(np.int64))
    return JoinedPoints(first, point.astype(np.int32))
