"""The box around a geometry."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from reticula.core.arrays import Floats

if TYPE_CHECKING:
    from reticula.core.geometry.mesh.contents import Contents

__all__ = ["bounds_of"]


def bounds_of(geo: Contents) -> Floats:
    """Return the lowest and highest corner of the axis-aligned box around points and instances ``(2, 3)``, m.

    Zeros if there is nothing.
    """
    found = [geo.positions.min(axis=0), geo.positions.max(axis=0)] if geo.topology.point_count else []
    if geo.topology.instance_count:
        boxes = np.stack([prototype.bounds for prototype in geo.prototypes])[geo.attribute("instance", "shape")]
        corners = np.stack([boxes[:, [i, j, k], [0, 1, 2]] for i in (0, 1) for j in (0, 1) for k in (0, 1)], axis=1)
        matrix = geo.attribute("instance", "transform")
        placed = (corners @ matrix[:, :3, :3].transpose(0, 2, 1) + matrix[:, None, :3, 3]).reshape(-1, 3)
        found += [placed.min(axis=0), placed.max(axis=0)]
    return np.stack([np.min(found, axis=0), np.max(found, axis=0)]) if found else np.zeros((2, 3))
