"""Tubes: a profile moved along curves."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices
from reticula.core.geometry.measure.curve_frames import curve_frames
from reticula.core.rows import unit

__all__ = ["Tubes", "sweep_profile"]

MOST_MITER = 4.0


@dataclass(frozen=True, eq=False)
class Tubes:
    """Faces of tubes: ``sizes (F,)``, ``point``; ``positions (Q * S, 3)``, ring after ring.

    ``uv`` per corner, ``curve (F,)`` the curve of each face, ``cap (F,)`` whether it closes an end.
    """

    sizes: AnyArray
    point: AnyArray
    positions: Floats
    uv: Floats
    curve: AnyArray
    cap: Flags


def sweep_profile(
    positions: Floats,
    start: Indices,
    point: Indices,
    closed: Flags,
    profile: Floats,
    ring: bool,
    radius: Floats,
    twist: Floats,
    up: Floats,
    caps: bool,
) -> Tubes:
    """Move a profile ``(S, 2)`` in m along curves: x goes along their normal, y along their binormal.

    ``radius (Q,)`` scales it and ``twist (Q,)`` turns it, in radians, at each curve point; ``ring`` says whether the
    profile is closed. At bends the profile is stretched so that the tube keeps its thickness (up to 4 times).
    """
    tangent, normal, cosine = curve_frames(positions, start, point, closed, up)
    side = np.cross(tangent, normal)
    c, s = np.cos(twist)[:, None], np.sin(twist)[:, None]
    x_axis, y_axis = c * normal + s * side, c * side - s * normal
    count, sides = len(point), len(profile)
    local = profile[None, :, :] * radius[:, None, None]
    offset = local[:, :, :1] * x_axis[:, None, :] + local[:, :, 1:] * y_axis[:, None, :]
    owner = np.repeat(np.arange(len(start) - 1), np.diff(start))
    number = np.arange(count)
    after = np.minimum(number + 1, count - 1)
    last = start[1:] - 1
    after[last] = np.where(closed, start[:-1], last)
    before = np.maximum(number - 1, 0)
    before[start[:-1]] = np.where(closed, last, start[:-1])
    place = positions[point]
    bend = unit(unit(place[after] - place) - unit(place - place[before]))
    bent = (cosine < 1.0 - 1e-12) & (cosine > 1e-9)
    stretch = np.where(bent, np.minimum(1.0 / np.maximum(cosine, 1e-9), MOST_MITER) - 1.0, 0.0)
    offset += (np.einsum("qsk,qk->qs", offset, bend) * stretch[:, None])[:, :, None] * bend[:, None, :]
    rings = (place[:, None, :] + offset).reshape(-1, 3)
    runs = np.flatnonzero((number != last[owner]) | closed[owner])
    a = np.arange(sides if ring else sides - 1)
    b = (a + 1) % sides
    low, high = runs[:, None] * sides, after[runs][:, None] * sides
    quads = np.stack([low + a, low + b, high + b, high + a], axis=2).reshape(-1, 4)
    lengths = np.linalg.norm(place[after] - place, axis=1)
    far = np.cumsum(lengths) - lengths
    far = far - far[start[:-1]][owner]
    around = np.arange(sides + 1) / (sides if ring else max(sides - 1, 1))
    v0, v1 = far[runs][:, None], (far + lengths)[runs][:, None]
    u0, u1 = np.broadcast_to(around[a], (len(runs), len(a))), np.broadcast_to(around[a + 1], (len(runs), len(a)))
    v0, v1 = np.broadcast_to(v0, u0.shape), np.broadcast_to(v1, u0.shape)
    uv = np.stack([np.stack([u, v], axis=2) for u, v in ((u0, v0), (u1, v0), (u1, v1), (u0, v1))], axis=2).reshape(
        -1, 2
    )
    faces_of = np.repeat(owner[runs], len(a))
    sizes, corners, cap = np.full(len(quads), 4), quads.reshape(-1), np.zeros(len(quads), bool)
    if caps and ring and sides >= 3:
        open_ = np.flatnonzero(~closed)
        every = np.arange(sides)
        bottom = (start[open_][:, None] * sides + every[::-1]).reshape(-1)
        top = ((start[open_ + 1] - 1)[:, None] * sides + every).reshape(-1)
        spread = np.ptp(profile, axis=0).max(initial=1e-12)
        flat = (profile - profile.min(axis=0)) / max(spread, 1e-12)
        sizes = np.concatenate([sizes, np.full(2 * len(open_), sides)])
        corners = np.concatenate([corners, bottom, top])
        uv = np.concatenate([uv, np.tile(flat[::-1], (len(open_), 1)), np.tile(flat, (len(open_), 1))])
        faces_of = np.concatenate([faces_of, open_, open_])
        cap = np.concatenate([cap, np.ones(2 * len(open_), bool)])
    return Tubes(sizes, corners, rings, uv, faces_of, cap)
