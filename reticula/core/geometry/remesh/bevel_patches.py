"""What a bevel puts in place of points: polygons, or rounded patches on the ball that touches the faces around."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, following_in_rows, ragged_index
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.remesh.bevel import BevelPlan
from reticula.core.geometry.remesh.bevel_faces import Rings
from reticula.core.geometry.remesh.offsets import even_offsets
from reticula.core.rows import unit

__all__ = ["corner_patches"]


def corner_patches(
    geo: Geo, plan: BevelPlan, positions: Floats, segments: int, profile: float, points: Flags
) -> tuple[Rings, Floats, AnyArray]:
    """Return faces in place of points, as (sizes, points, ring number), with the positions and owners of added
    points.
    """
    rows = segments // 2 if segments > 1 else 0
    count = len(plan.ring_point)
    sizes = np.diff(plan.ring_start)
    whole = [(sizes, plan.ring, np.arange(count))]
    round_ = (plan.ring_meets >= 3) | points[plan.ring_point] if rows else np.zeros(count, bool)
    if not rows or not round_.any():
        return whole, np.zeros((0, 3)), np.zeros(0, np.int64)
    owner = np.repeat(np.arange(count), sizes)
    plain = ~round_
    made = [(sizes[plain], plan.ring[plain[owner]], np.flatnonzero(plain))]
    chosen = np.flatnonzero(round_)
    pick = round_[owner]
    ring, loop = plan.ring[pick], np.repeat(np.arange(len(chosen)), sizes[chosen])
    rim = positions[ring]
    start = np.concatenate([[0], np.cumsum(sizes[chosen])])
    middle = np.add.reduceat(rim, start[:-1], axis=0) / sizes[chosen][:, None]
    first = len(positions)
    added, levels = [], [ring]
    lift = _Ball(geo, plan, chosen, rim, loop, middle, points, profile)
    for j in range(1, rows):
        t = j / rows
        added.append(lift(rim + t * (middle[loop] - rim), t))
        levels.append(first + (j - 1) * len(ring) + np.arange(len(ring)))
    centers = lift(middle, 1.0, single=True)
    center = first + (rows - 1) * len(ring) + np.arange(len(chosen))
    ahead = following_in_rows(start)
    for low, high in zip(levels, levels[1:], strict=False):
        quads = np.stack([low, low[ahead], high[ahead], high], axis=1)
        made.append((np.full(len(quads), 4), quads.reshape(-1), chosen[loop]))
    tips = np.stack([levels[-1], levels[-1][ahead], center[loop]], axis=1)
    made.append((np.full(len(tips), 3), tips.reshape(-1), chosen[loop]))
    owners = np.concatenate([np.tile(plan.ring_point[chosen][loop], rows - 1), plan.ring_point[chosen]])
    return made, np.concatenate([*added, centers]), owners


class _Ball:
    """Lifts points of patches onto the ball that touches the faces around the old point."""

    def __init__(
        self,
        geo: Geo,
        plan: BevelPlan,
        chosen: AnyArray,
        rim: Floats,
        loop: AnyArray,
        middle: Floats,
        points: Flags,
        profile: float,
    ) -> None:
        shape = geo.topology
        point = plan.ring_point[chosen]
        self.tip, self.loop, self.middle, self.rim = geo.positions[point], loop, middle, rim
        fan_start, fan, _, _ = shape.point_fans
        around, starts = ragged_index(fan_start, point)
        faces = shape.corner_face[fan[around]]
        inward = even_offsets(starts, faces, face_normals(geo), np.ones((shape.face_count, 3)), -np.ones(len(faces)))
        toward = middle - self.tip
        depth = np.einsum("ij,ij->i", inward, inward)
        out_of = np.sqrt(np.maximum(depth, 1.0))
        self.radius = np.zeros(len(point))
        size = np.sqrt(
            np.add.reduceat(
                np.einsum("ij,ij->i", rim - middle[loop], rim - middle[loop]),
                np.searchsorted(loop, np.arange(len(point))),
            )
            / np.bincount(loop)
        )
        height = np.abs(np.einsum("ij,ij->i", toward, unit(inward)))
        good = (depth > 1.0 + 1e-9) & ~points[point]
        self.radius[good] = _touching(size, height, out_of)[good]
        self.center = self.tip + inward * self.radius[:, None]
        self.round = good
        self.amount = np.clip((profile - 0.25) / 0.25, -1.0, 1.6)

    def __call__(self, at: Floats, share: float, single: bool = False) -> Floats:
        loop = np.arange(len(self.tip)) if single else self.loop
        way = unit(at - self.center[loop])
        ball = self.center[loop] + way * self.radius[loop][:, None] - at
        dome = (self.tip - self.middle)[loop] * 0.4 * (1.0 - (1.0 - share) ** 2)
        if not single:
            edge = self.center[loop] + unit(self.rim - self.center[loop]) * self.radius[loop][:, None] - self.rim
            ball = ball - edge * (1.0 - share)
        return at + self.amount * np.where(self.round[loop][:, None], ball, dome)


def _touching(size: Floats, height: Floats, out_of: Floats) -> Floats:
    """Radius of the ball whose cut at ``height`` below the tip is as large as the patch; its centre is ``out_of``
    radii away.
    """
    a, b, c = out_of * out_of - 1.0, -2.0 * height * out_of, height * height + size * size
    root = np.sqrt(np.maximum(b * b - 4 * a * c, 0.0))
    return np.where(a > 1e-9, (-b + root) / np.maximum(2 * a, 1e-300), 0.0)
