"""The faces of a bevelled mesh."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.geometry.remesh.bevel import BevelPlan

__all__ = ["BevelFaces", "Rings", "bevel_faces"]

Rings = list[tuple[AnyArray, AnyArray, AnyArray]]
"""Faces in place of points: their sizes, their points, and the number of the ring of each."""


class BevelFaces(NamedTuple):
    """All faces: their ``sizes``; per corner its ``point``, a source ``corner`` and an old ``edge`` (-1 for none); per
    face its source ``face`` and its ``kind``: 0 an old one, 1 a strip, 2 in place of a point.
    """

    sizes: AnyArray
    point: AnyArray
    corner: AnyArray
    edge: AnyArray
    face: AnyArray
    kind: AnyArray


def bevel_faces(
    shape: Topology,
    plan: BevelPlan,
    segments: int,
    rings: Rings,
) -> BevelFaces:
    """Return the old faces with their corners cut off, the strips of cut edges, and the ``rings`` in place of
    points.
    """
    double = plan.before != plan.after
    times = 1 + double
    corner = np.repeat(np.arange(shape.corner_count), times)
    second = np.arange(len(corner)) - np.repeat(np.cumsum(times) - times, times) == 1
    point = np.where(second, plan.after[corner], plan.before[corner])
    last = np.append(corner[1:] != corner[:-1], True) if len(corner) else np.zeros(0, bool)
    old = np.where(last, shape.corner_edge[corner], -1)
    sizes = np.add.reduceat(times, shape.face_start[:-1]) if shape.face_count else np.zeros(0, np.int64)
    base = shape.point_count + len(plan.inner) + len(plan.slid)
    inner = segments - 1
    steps = np.arange(inner)

    def along(arc: AnyArray, back: AnyArray) -> AnyArray:
        number = base + arc[:, None] * inner + np.where(back[:, None], inner - 1 - steps, steps)
        ends = np.where(back[:, None], plan.arc[arc][:, ::-1], plan.arc[arc])
        return np.concatenate([ends[:, :1], number, ends[:, 1:]], axis=1)

    count = len(plan.strip_edge)
    p, q = along(plan.strip_arc[:, 0], plan.strip_back[:, 0]), along(plan.strip_arc[:, 1], plan.strip_back[:, 1])
    quads = np.stack([p[:, :-1], p[:, 1:], q[:, 1:], q[:, :-1]], axis=2).reshape(-1, 4)
    c, t = plan.strip_corner[:, 0], plan.strip_corner[:, 1]
    near = np.arange(segments) < (segments + 1) // 2
    start, end = (
        np.where(near, c[:, None], shape.corner_next[t][:, None]),
        np.where(near, shape.corner_next[c][:, None], t[:, None]),
    )
    quad_corner = np.stack([start, start, end, end], axis=2).reshape(-1)
    quad_face = np.where(near, shape.corner_face[c][:, None], shape.corner_face[t][:, None]).reshape(-1)
    all_sizes, points, corners = (
        [sizes, np.full(count * segments, 4)],
        [point, quads.reshape(-1)],
        [corner, quad_corner],
    )
    faces, kinds = (
        [np.arange(shape.face_count), quad_face],
        [np.zeros(shape.face_count, int), np.ones(count * segments, int)],
    )
    for ring_sizes, ring, number in rings:
        all_sizes.append(ring_sizes)
        points.append(ring)
        corners.append(np.repeat(plan.ring_corner[number], ring_sizes))
        faces.append(shape.corner_face[plan.ring_corner[number]])
        kinds.append(np.full(len(ring_sizes), 2))
    total = sum(len(part) for part in points)
    old = np.concatenate([old, np.full(total - len(old), -1)])
    cut = np.zeros(shape.edge_count, bool)
    cut[plan.strip_edge] = True
    return BevelFaces(
        np.concatenate(all_sizes),
        np.concatenate(points),
        np.concatenate(corners),
        old,
        np.concatenate(faces),
        np.concatenate(kinds),
    )
