"""Which faces bound one solid, and which solids can be worked on together."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Ints
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.components import face_components
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.spatial.inside import inside

__all__ = ["component_volumes", "layers_apart", "solid_of_faces"]


def component_volumes(geo: Geo) -> Floats:
    """Return the volume of each connected part in m³ ``(N,)``; negative where faces look inwards.

    Divergence theorem over triangles, about the middle of everything, so that it holds far from the origin.
    """
    cut = triangles(geo)
    corner = geo.positions[geo.topology.corner_point[cut.corner]] - geo.bounds.mean(axis=0)
    part = np.einsum("ij,ij->i", corner[:, 0], np.cross(corner[:, 1], corner[:, 2])) / 6.0
    piece = face_components(geo)
    return np.asarray(np.bincount(piece[cut.face], part, minlength=int(piece.max(initial=-1)) + 1), np.float64)


def solid_of_faces(geo: Geo) -> Ints:
    """Return the number of the solid that each face bounds ``(F,)``, from 0.

    Every connected part that looks outwards is a solid. One that looks inwards is a hollow of the smallest solid around
    it; if there is none it stands for itself.
    """
    piece = face_components(geo)
    used, piece = np.unique(piece, return_inverse=True)
    piece = piece.reshape(-1)
    volume = component_volumes(geo)[used]
    boxes = _boxes(geo, piece, len(used))
    first = np.full(len(used), -1)
    first[piece[::-1]] = geo.topology.corner_point[geo.topology.face_start[:-1][::-1]]
    owner = np.arange(len(used))
    outward = np.flatnonzero(volume > 0)
    for hollow in np.flatnonzero(volume <= 0):
        low, high = boxes[hollow]
        around = outward[(boxes[outward, 0] <= low).all(axis=1) & (boxes[outward, 1] >= high).all(axis=1)]
        for solid in around[np.argsort(volume[around], kind="stable")]:
            place = geo.positions[first[hollow]][None]
            if len(around) == 1 or inside(subset(geo, piece == solid, loose=False), place)[0]:
                owner[hollow] = solid
                break
    return np.unique(owner[piece], return_inverse=True)[1].reshape(-1)


def _boxes(geo: Geo, piece: Ints, count: int) -> Floats:
    """The bounds of each part ``(N, 2, 3)``."""
    shape = geo.topology
    boxes = np.stack([np.full((count, 3), np.inf), np.full((count, 3), -np.inf)], axis=1)
    owner, place = piece[shape.corner_face], geo.positions[shape.corner_point]
    np.minimum.at(boxes[:, 0], owner, place)
    np.maximum.at(boxes[:, 1], owner, place)
    return boxes


def layers_apart(geo: Geo, solid: Ints) -> Ints:
    """Return a layer for each face ``(F,)``, such that the bounds of different solids in one layer do not touch."""
    count = int(solid.max(initial=-1)) + 1
    boxes = _boxes(geo, solid, count)
    layer = np.zeros(count, np.int64)
    for n in range(1, count):
        touching = (boxes[:n, 0] <= boxes[n, 1]).all(axis=1) & (boxes[:n, 1] >= boxes[n, 0]).all(axis=1)
        taken = np.unique(layer[:n][touching])
        gap = np.flatnonzero(taken != np.arange(len(taken)))
        layer[n] = gap[0] if len(gap) else len(taken)
    return layer[solid]
