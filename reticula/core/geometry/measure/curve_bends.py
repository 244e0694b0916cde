"""How curves turn and bend at their points."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, following_in_rows
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.rows import unit

__all__ = ["curve_bends", "curve_turns"]


def _turns(geo: Geo) -> tuple[AnyArray, Floats, Floats]:
    """Points that have a segment on both sides, the angle between both in rad, and their mean length in m."""
    shape = geo.topology
    begin, end = shape.curve_start[:-1], shape.curve_start[1:]
    after = following_in_rows(shape.curve_start)
    before = np.empty_like(after)
    before[after] = np.arange(len(after))
    inner = np.ones(len(after), bool)
    open_ = (end > begin) & ~shape.curve_closed
    inner[begin[open_]] = inner[end[open_] - 1] = False
    here = np.flatnonzero(inner)
    place = geo.positions[shape.curve_point]
    into, out = place[here] - place[before[here]], place[after[here]] - place[here]
    a, b = unit(into), unit(out)
    angle = np.arctan2(np.linalg.norm(np.cross(a, b), axis=1), np.einsum("ij,ij->i", a, b))
    straight = ~a.any(axis=1) | ~b.any(axis=1)
    length = 0.5 * (np.linalg.norm(into, axis=1) + np.linalg.norm(out, axis=1))
    return shape.curve_point[here], np.where(straight, 0.0, angle), length


def curve_turns(geo: Geo) -> Floats:
    """Return by how much curves turn at each point, in degrees ``(P,)``; 0 at ends and off curves, the sum where
    several run through.
    """
    point, angle, _ = _turns(geo)
    return np.degrees(np.bincount(point, angle, geo.topology.point_count))


def curve_bends(geo: Geo) -> Floats:
    """Return the curvature of curves at each point in 1/m ``(P,)``: twice the sine of half the turn by the mean length
    of both segments. Evenly on a circle that is 1 by its radius, since a chord is 2 r sin(turn / 2).
    """
    point, angle, length = _turns(geo)
    bend = np.divide(2.0 * np.sin(angle / 2.0), length, out=np.zeros(len(angle)), where=length > 0)
    return np.bincount(point, bend, geo.topology.point_count).astype(np.float64)
