"""The connected parts of a geometry: their numbers and sizes."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Ints, UInts
from reticula.core.geometry.mesh.geo import Geo, once_per_geo

__all__ = [
    "face_component_sizes",
    "face_components",
    "label_names",
    "point_component_names",
    "point_component_sizes",
    "point_components",
]


@once_per_geo
def point_components(geo: Geo) -> Ints:
    """Return the number of the connected part of each point ``(P,)``, from 0."""
    return geo.topology.point_piece.astype(np.int64)


@once_per_geo
def face_components(geo: Geo) -> Ints:
    """Return the number of the connected part of each face ``(F,)``."""
    shape = geo.topology
    return point_components(geo)[shape.corner_point[shape.face_start[:-1]]]


@once_per_geo
def point_component_sizes(geo: Geo) -> Ints:
    """Return how many points the connected part of each point has ``(P,)``."""
    return _sizes(point_components(geo))


@once_per_geo
def face_component_sizes(geo: Geo) -> Ints:
    """Return how many faces the connected part of each face has ``(F,)``."""
    return _sizes(face_components(geo))


def label_names(labels: Ints, names: UInts) -> Ints:
    """Return a number per element ``(N,)``, the same for equal ``labels (N,)``, that hangs on the stable ``names (N,)``
    of the elements: it stays what it is when others are added or removed, and when labels are counted anew.
    """
    order = np.lexsort((names, labels))
    first = np.diff(labels[order], prepend=labels[order[:1]] - 1) != 0
    made = np.empty(len(labels), np.int64)
    made[order] = (names[order][first] >> np.uint64(1)).astype(np.int64)[np.cumsum(first) - 1]
    return made


@once_per_geo
def point_component_names(geo: Geo) -> Ints:
    """Return a stable number of the connected part of each point ``(P,)``; see ``label_names``."""
    return label_names(point_components(geo), geo.identity("point"))


def _sizes(piece: Ints) -> Ints:
    return np.bincount(piece)[piece] if len(piece) else piece
