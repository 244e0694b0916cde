"""Which faces bound one solid, and which solids can be worked on together."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Ints
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.components import face_components
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.spatial.inside import inside

__all__ = ["layers_apart", "part_boxes", "part_volumes", "solid_of_faces"]


def part_volumes(geo: Geo, part: AnyArray, count: int, sign: Floats | None = None) -> Floats:
    """Return the volume of each of ``count`` parts in m³ ``(N,)``; negative where faces look inwards.

    ``part (F,)`` numbers the part of each face, -1 for none; a ``sign (F,)`` of -1 counts a face as turned over.
    Divergence theorem over triangles, about the middle of everything, so that it holds far from the origin.
    """
    cut = triangles(geo)
    corner = geo.positions[geo.topology.corner_point[cut.corner]] - geo.bounds.mean(axis=0)
    share = np.einsum("ij,ij->i", corner[:, 0], np.cross(corner[:, 1], corner[:, 2])) / 6.0
    share = share if sign is None else share * sign[cut.face]
    own = part[cut.face]
    return np.asarray(np.bincount(own[own >= 0], share[own >= 0], minlength=count), np.float64)


def solid_of_faces(geo: Geo) -> Ints:
    """Return the number of the solid that each face bounds ``(F,)``, from 0.

    Every connected part that looks outwards is a solid. One that looks inwards is a hollow of the smallest solid around
    it; if there is none it stands for itself.
    """
    piece = face_components(geo)
    used, piece = np.unique(piece, return_inverse=True)
    piece = piece.reshape(-1)
    volume = part_volumes(geo, piece, len(used))
    boxes = part_boxes(geo, piece, len(used))
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


def part_boxes(geo: Geo, part: AnyArray, count: int) -> Floats:
    """Return the bounds of each part ``(N, 2, 3)``; ``part (F,)`` is the part of each face, -1 for none."""
    shape = geo.topology
    boxes = np.stack([np.full((count, 3), np.inf), np.full((count, 3), -np.inf)], axis=1)
    corner = np.flatnonzero(part[shape.corner_face] >= 0)
    owner, place = part[shape.corner_face[corner]], geo.positions[shape.corner_point[corner]]
    np.minimum.at(boxes[:, 0], owner, place)
    np.maximum.at(boxes[:, 1], owner, place)
    return boxes


def layers_apart(geo: Geo, solid: Ints) -> Ints:
    """Return a layer for each face ``(F,)``, such that the bounds of different solids in one layer do not touch."""
    count = int(solid.max(initial=-1)) + 1
    boxes = part_boxes(geo, solid, count)
    layer = np.zeros(count, np.int64)
    for n in range(1, count):
        touching = (boxes[:n, 0] <= boxes[n, 1]).all(axis=1) & (boxes[:n, 1] >= boxes[n, 0]).all(axis=1)
        taken = np.unique(layer[:n][touching])
        gap = np.flatnonzero(taken != np.arange(len(taken)))
        layer[n] = gap[0] if len(gap) else len(taken)
    return layer[solid]
