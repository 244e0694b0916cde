"""Questions to a cloud of points: the nearest one, and those within a radius."""

from __future__ import annotations

import math

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, Ints, as_readonly, sealed, starts_from_sizes
from reticula.core.errors import GeometryError, LimitError
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.spans import span
from reticula.core.spatial.kdtree import build_point_tree, count_near, fill_near, nearest
from reticula.core.spatial.query_order import query_order
from reticula.core.spatial.true_size import true_size

__all__ = ["NearestPoints", "points_of"]

MOST_PAIRS = 200_000_000
"""Neighbours that one question may list: 2.4 GB."""


class NearestPoints:
    """Places in space, ready to be asked. For the points of a geometry use :func:`points_of`."""

    def __init__(self, places: Floats, standing: Geo | None = None) -> None:
        """Places in the own space of the geometry ``standing``, if it is given: distances are then of its true size."""
        if not len(places):
            raise GeometryError("there are no points to ask; give a geometry that is not empty")
        self._enter = (lambda rows: rows) if standing is None else true_size(standing).enter
        self.tree = build_point_tree(np.ascontiguousarray(self._enter(places)))

    def nearest(self, asked: Floats, reach: AnyArray | float = math.inf) -> tuple[Indices, Floats]:
        """Return the nearest point's number ``(N,)`` (-1 beyond ``reach`` m) and its distance in m ``(N,)``.

        Of points that are equally near, the one with the lowest number is taken.
        """
        rows = sealed(self._enter(asked))
        order = query_order(rows)
        return nearest(self.tree, order.of(rows), order.of(_each(reach, rows)), order.number)

    def count(self, asked: Floats, radius: AnyArray | float, most: AnyArray | int | None = None) -> Ints:
        """Return how many points lie within ``radius`` m (one, or ``(N,)``) of each place, at most ``most``,
        ``(N,)``.
        """
        rows = sealed(self._enter(asked))
        order = query_order(rows)
        radii, limits = order.of(_each(radius, rows)), order.of(_limits(most, rows))
        return count_near(self.tree, order.of(rows), radii, limits, order.number)

    def near(
        self, asked: Floats, radius: AnyArray | float, most: AnyArray | int | None = None
    ) -> tuple[Indices, Indices, Floats]:
        """Return the points within ``radius`` m of each place, nearest first, at most ``most``.

        As starts ``(N+1,)``, point numbers and distances in m. Raises LimitError beyond two hundred million of them.
        """
        rows = sealed(self._enter(asked))
        order = query_order(rows)
        limits = order.of(_limits(most, rows))
        rows, radii = order.of(rows), order.of(_each(radius, rows))
        sizes = count_near(self.tree, rows, radii, limits, order.number)
        if sizes.sum() > MOST_PAIRS:
            raise LimitError(
                f"{sizes.sum():,} neighbours would be listed, {MOST_PAIRS:,} is the most; use a "
                "smaller radius or a limit"
            )
        start = starts_from_sizes(sizes)
        item, distance = fill_near(self.tree, rows, radii, start.astype(np.int64), order.number)
        return start, item, distance


def _limits(most: AnyArray | int | None, rows: Floats) -> Ints:
    limit = np.iinfo(np.int64).max if most is None else most
    return as_readonly(np.broadcast_to(np.asarray(limit, np.int64), (len(rows),)))


def _each(value: AnyArray | float, rows: Floats) -> Floats:
    return sealed(np.broadcast_to(np.asarray(value, np.float64), (len(rows),)))


@once_per_geo
def points_of(geo: Geo) -> NearestPoints:
    """Return the points of a geometry as a search tree, built once; raise GeometryError if there are none."""
    with span("search tree"):
        return NearestPoints(geo.positions, geo)
