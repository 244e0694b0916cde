"""Whether places lie inside a mesh."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.spatial.surface import surface_of

__all__ = ["behind", "inside"]

WAY = (0.4829, 0.7411, 0.4664)
"""The direction in which is looked; none that a drawn mesh is likely to be aligned with."""


def inside(geo: Geo, places: Floats) -> Flags:
    """Return which ``places (N, 3)`` lie inside a closed mesh: those from which a ray meets its first face from
    behind.
    """
    low, high = geo.bounds
    out = ((places > low) & (places < high)).all(axis=1)
    asked = np.flatnonzero(out)
    if len(asked):
        surface = surface_of(geo)
        way = np.tile(WAY, (len(asked), 1))
        hits = surface.ray(places[asked], way, np.inf, 0.0)
        out[asked] = hits.found & (np.einsum("ij,ij->i", surface.normals(hits), way) > 0)
    return out


def behind(geo: Geo, places: Floats) -> Flags:
    """Return which ``places (N, 3)`` lie on the side of a sheet that its faces do not look to."""
    surface = surface_of(geo)
    near = surface.closest(places)
    return np.einsum("ij,ij->i", surface.normals(near), places - near.position) < 0
