"""Room for further points inside of a mesh, between points that keep a distance, found and filled."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import scipy

from reticula.core.arrays import Flags, Floats
from reticula.core.geometry import Geo
from reticula.core.operators.shared.scatter_candidates import Spacing, bare_places, spaced
from reticula.core.spatial.sampling import sample_closest
from reticula.core.spatial.winding import winding_numbers

__all__ = ["filled_volume"]

NEAR = 6
"""Kept points that may cover a cell, the nearest ones."""
SMALL = 0.12
"""Edge of a cell, as a share of the spacing, from which on it is looked at in some places."""
CORNERS = np.array([[x, y, z] for x in (-1.0, 1.0) for y in (-1.0, 1.0) for z in (-1.0, 1.0)])
LOOKS = np.concatenate([np.zeros((1, 3)), CORNERS])
ROUNDS = 60


class _Cubes(NamedTuple):
    """Cubes of one size: ``middle (N, 3)``, which of them lie ``inside (N,)`` as a whole, and half of the edge."""

    middle: Floats
    inside: Flags
    half: float

    def chosen(self, kept: Flags) -> _Cubes:
        return _Cubes(self.middle[kept], self.inside[kept], self.half)

    def halved(self) -> _Cubes:
        small = self.half / 2.0
        return _Cubes((self.middle[:, None] + small * CORNERS).reshape(-1, 3), np.repeat(self.inside, 8), small)


def filled_volume(geo: Geo, kept: Floats, spacing: float, seed: int) -> Floats:
    """Return points ``(N, 3)`` with further ones wherever there is room inside of the mesh; the first stay.

    The box of the mesh is divided into cubes; those outside and those that one point covers are left out, others get a
    random point and are divided again, small ones are looked at in nine places: maximal Poisson-disk sampling by
    subdivision (White, Cline & Egbert, "Poisson disk point sets by hierarchical dart throwing", IEEE Symp. on
    Interactive Ray Tracing 2007), up to what lies between those places.
    """
    low, high = geo.bounds
    rng = np.random.default_rng(seed)
    half = float((high - low).max()) / 2.0
    cubes = _Cubes((0.5 * (low + high))[None], np.zeros(1, bool), half)
    while 2.0 * cubes.half > 0.5 * spacing:
        cubes = _not_outside(geo, cubes.halved())
    while 2.0 * cubes.half > SMALL * spacing:
        cubes = _open(cubes, kept, spacing)
        darts = cubes.middle + cubes.half * rng.uniform(-1.0, 1.0, cubes.middle.shape)
        kept = _with(kept, darts[_room(geo, darts, cubes.inside, kept, spacing)], spacing)
        cubes = _not_outside(geo, _open(cubes, kept, spacing).halved())
    for _ in range(ROUNDS):
        cubes = _open(cubes, kept, spacing)
        looked = (cubes.middle[:, None] + cubes.half * LOOKS).reshape(-1, 3)
        room = _room(geo, looked, np.repeat(cubes.inside, len(LOOKS)), kept, spacing).reshape(-1, len(LOOKS))
        some: Flags = np.asarray(room.any(axis=1))
        if not some.any():
            break
        kept = _with(kept, looked[np.flatnonzero(some) * len(LOOKS) + room[some].argmax(axis=1)], spacing)
        cubes = cubes.chosen(np.asarray(some))
    return kept


def _not_outside(geo: Geo, cubes: _Cubes) -> _Cubes:
    """Leave out the cubes that lie outside as a whole, and note those that lie inside as a whole."""
    rest = np.flatnonzero(~cubes.inside)
    cut = sample_closest(geo, cubes.middle[rest], np.sqrt(3.0) * cubes.half).found
    whole = rest[~cut]
    cubes.inside[whole] = winding_numbers(geo, cubes.middle[whole]) > 0.5
    stays = cubes.inside.copy()
    stays[rest[cut]] = True
    return cubes.chosen(stays)


def _open(cubes: _Cubes, kept: Floats, spacing: float) -> _Cubes:
    """Leave out the cubes that lie within the spacing of one kept point."""
    if not len(kept) or not len(cubes.middle):
        return cubes
    near = (
        scipy.spatial.cKDTree(kept)
        .query(cubes.middle, min(NEAR, len(kept)), workers=-1)[1]
        .reshape(len(cubes.middle), -1)
    )
    far = np.abs(cubes.middle[:, None] - kept[near]) + cubes.half
    return cubes.chosen(~((far * far).sum(axis=2) < spacing * spacing).any(axis=1))


def _room(geo: Geo, places: Floats, inside: Flags, kept: Floats, spacing: float) -> Flags:
    """Whether places are far enough from all kept points, and inside: those not known to be are asked for."""
    free = np.ones(len(places), bool)
    if len(kept) and len(places):
        free = np.asarray(scipy.spatial.cKDTree(kept).query(places, workers=-1)[0] >= spacing)
    asked = np.flatnonzero(free & ~inside)
    free[asked] = winding_numbers(geo, places[asked]) > 0.5
    return free


def _with(kept: Floats, places: Floats, spacing: float) -> Floats:
    """Return kept points with those places that keep the distance among themselves, earlier ones first."""
    return np.concatenate([kept, spaced(bare_places(places), Spacing(spacing, 1.0, False)).position])
