"""Moves of raised points, held back before a face crosses itself."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.geometry.planar.crossing_limits import crossing_limits
from reticula.core.geometry.remesh.extrusion import ExtrusionTopology
from reticula.core.rows import rows_at

__all__ = ["HeldMoves", "hold_back"]

STOP = 0.999
"""Share of the way to where a face would cross itself that points go."""


class HeldMoves(NamedTuple):
    """``moves (R, 3)`` of the raised points; faces that were ``crossing (F,)``; how many regions are ``held``."""

    moves: Floats
    crossing: Flags
    held: int


def hold_back(geo: Geo, raised: ExtrusionTopology, moves: Floats, chosen: Flags, everywhere: bool) -> HeldMoves:
    """Shorten ``moves (R, 3)``, seen along the faces' normals, so that no ``chosen (F,)`` face crosses itself.

    Regions of the extrusion are held one by one, each at its most; ``everywhere`` all at the smallest share.
    """
    shape = geo.topology
    if not chosen.any():
        return HeldMoves(moves, chosen, 0)
    at, on = rows_at(geo.positions, shape.corner_point), raised.number >= 0
    if on.all():
        corner_moves = rows_at(moves, raised.number)
    else:
        corner_moves = np.zeros((shape.corner_count, 3))
        corner_moves[on] = rows_at(moves, raised.number[on])
    share = crossing_limits(at, corner_moves, shape.face_start, face_normals(geo), chosen) * STOP
    crossing = share < 1.0
    if not crossing.any():
        return HeldMoves(moves, crossing, 0)
    least = np.ones(int(raised.region.max()) + 1)
    faces = np.flatnonzero(crossing)
    np.minimum.at(least, raised.region[raised.number[shape.face_start[faces]]], share[faces])
    count = int((least < 1.0).sum())
    if everywhere:
        least[:] = least.min()
        count = len(least)
    return HeldMoves(moves * least[raised.region][:, None], crossing, count)
