"""Shapes that several parts of the bench start from."""

from __future__ import annotations

from reticula.core import Geo, ops
from reticula.core.geometry import Topology

__all__ = ["anew", "bumpy_ball"]


def bumpy_ball(frequency: int) -> Geo:
    """Return a geodesic sphere with bumps."""
    ball = ops.geodesic_sphere(frequency=frequency)
    return ops.set_attribute(ball, name="position", value="position * (1 + 0.1 * noise(position * 4))")


def anew(geo: Geo) -> Geo:
    """Return the same geometry with nothing known about it yet."""
    shape = geo.topology
    return Geo(Topology(shape.point_count, shape.face_start, shape.corner_point), geo.attributes)
