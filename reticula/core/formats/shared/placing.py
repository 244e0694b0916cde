"""Places of instances as formats hold them: a move, a turn and a scale."""

from __future__ import annotations

import numpy as np
import scipy

from reticula.core.arrays import Floats
from reticula.core.diagnostics import note
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.instances import flatten, with_instances

__all__ = ["parts_of", "without_shear"]

SHEAR = 1e-6
"""Cosine between the axes of a place from which on it is more than a move, a turn and a scale."""


def without_shear(geo: Geo, format: str) -> Geo:
    """Turn those instances into mesh whose place is no move, turn and scale: ``format`` holds nothing else."""
    if not geo.topology.instance_count:
        return geo
    axes = geo.attribute("instance", "transform")[:, :3, :3]
    length = np.linalg.norm(axes, axis=1)
    with np.errstate(invalid="ignore", divide="ignore"):
        unit = axes / length[:, None, :]
        cosines = np.abs(np.einsum("nki,nkj->nij", unit, unit) - np.eye(3))
    sheared = (cosines > SHEAR).any(axis=(1, 2))
    if not sheared.any():
        return geo
    note(f"{int(sheared.sum()):,} sheared instances were turned into mesh; {format} places by moves, turns and scales.")
    named = geo.attributes["instance"]
    parted = [{name: found.take(np.flatnonzero(some)) for name, found in named.items()} for some in (sheared, ~sheared)]
    return with_instances(flatten(with_instances(geo, parted[0], geo.prototypes)), parted[1], geo.prototypes)


def parts_of(matrices: Floats) -> tuple[Floats, Floats, Floats]:
    """Return the moves ``(N, 3)``, unit quaternions ``(N, 4)`` and scales ``(N, 3)`` of places ``(N, 4, 4)`` without
    shear. Mirrored ones scale x by less than 0.
    """
    axes = matrices[:, :3, :3]
    scale = np.linalg.norm(axes, axis=1)
    scale[:, 0] *= np.where(np.linalg.det(axes) < 0, -1.0, 1.0)
    safe = np.where(scale == 0.0, 1.0, scale)
    turned = axes / safe[:, None, :]
    flat = (scale == 0.0).any(axis=1)
    turned[flat] = np.eye(3)
    return matrices[:, :3, 3], scipy.spatial.transform.Rotation.from_matrix(turned).as_quat(), scale
