"""Scripts: a million points, beside the same maths written by hand with Numba and with NumPy; and how soon an edit is
seen.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator

import numpy as np
from numba import njit, prange
from scipy.spatial import cKDTree

from bench.measure import Row, alone, compare
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry.measure.areas import face_centers, point_normals
from reticula.core.language import evaluate
from reticula.core.language.compiled import builder
from reticula.core.language.noise import gradient_noise, octaves_at
from reticula.core.language.script import Script
from reticula.core.spatial import points_of
from reticula.core.spatial.kdtree import CountScratch, Scratch, count_one, fill_one
from reticula.core.spatial.kdtree import Row as Place

__all__ = ["rows"]

SIDE = 999
RADIUS = 0.04
DISPLACE = "amount: number(0, 1) = 0.1\nhere.position = position + normal * (amount * noise(position * 3, 4))\n"
NEIGHBOURS = f"""reef: geometry
near = reef.near(position, {RADIUS}, most=100)
total = 0.0
for p in near:
    total += 1 - distance(p.position, position) / {RADIUS}
here.heat = total
"""
FACES = f"""reef: geometry
count = len(reef.near(position, {RADIUS}, most=50))
for p in here.points:
    p.lift += 0.01 * count
"""


@njit(parallel=True)
def displaced(points, normals):  # type: ignore[no-untyped-def]
    out = np.empty_like(points)
    for i in prange(len(points)):
        lift = 0.1 * octaves_at(points[i, 0] * 3, points[i, 1] * 3, points[i, 2] * 3, 4)
        for k in range(3):
            out[i, k] = points[i, k] + normals[i, k] * lift
    return out


@njit(parallel=True)
def crowd(points, others, tree):  # type: ignore[no-untyped-def]
    out = np.empty(len(points))
    for chunk in prange((len(points) + 1023) // 1024):
        scratch = Scratch(np.empty(160, np.int32), np.empty(160))
        item, far = np.empty(100, np.int32), np.empty(100)
        for i in range(chunk * 1024, min(len(points), chunk * 1024 + 1024)):
            x, y, z = points[i, 0], points[i, 1], points[i, 2]
            count = fill_one(tree, (x, y, z), RADIUS, Place(item, far, 0, 100), scratch)
            total = 0.0
            for k in range(count):
                dx, dy, dz = others[item[k], 0] - x, others[item[k], 1] - y, others[item[k], 2] - z
                total += 1 - math.sqrt(dx * dx + dy * dy + dz * dz) / RADIUS
            out[i] = total
    return out


@njit(parallel=True)
def lifted(centers, face_start, corner_point, points, tree):  # type: ignore[no-untyped-def]
    found = np.empty(len(centers), np.int64)
    for chunk in prange((len(centers) + 1023) // 1024):
        scratch = CountScratch(np.empty(160, np.int32), np.empty(160, np.bool_))
        for f in range(chunk * 1024, min(len(centers), chunk * 1024 + 1024)):
            found[f] = count_one(tree, (centers[f, 0], centers[f, 1], centers[f, 2]), RADIUS, 50, scratch)
    lift = np.zeros(points)
    for f in range(len(centers)):
        for c in range(face_start[f], face_start[f + 1]):
            lift[corner_point[c]] += 0.01 * found[f]
    return lift


def script(text: str, geo: Geo, each: str, inputs: dict[str, Geo] | None = None) -> Callable[[], Geo]:
    def run() -> Geo:
        return Script(text, geo, each, inputs=inputs).run(backend="compiled")

    return run


def rows() -> Iterator[Row]:
    """Yield one comparison after the other."""
    with collecting():
        yield from _rows()


def _rows() -> Iterator[Row]:
    sheet = ops.grid(size=(2, 2), cells=(SIDE, SIDE))
    normals, size = point_normals(sheet), f"{sheet.topology.point_count:,} points"
    face_centers(sheet)
    points = np.array(sheet.positions)
    run = script(DISPLACE, sheet, "point")
    yield compare(
        "script: four octaves along the normal", size, run, "by hand, Numba", lambda: displaced(points, normals), 5
    )
    steps = np.full(len(points), 4)
    yield compare(
        "  the same",
        size,
        run,
        "by hand, NumPy (our noise)",
        lambda: points + normals * (0.1 * gradient_noise(points * 3, steps))[:, None],
        3,
    )
    cloud = Geo.of(np.random.default_rng(1).random((20_000, 3)) * [2, 0.05, 2] - [1, 0, 1])
    others, tree = np.array(cloud.positions), points_of(cloud).tree
    run = script(NEIGHBOURS, sheet, "point", {"reef": cloud})
    yield compare(
        "script: up to 100 neighbours in a loop",
        size,
        run,
        "by hand, Numba",
        lambda: crowd(points, others, tree),
        3,
    )
    few = 50_000
    some = Geo.of(points[:few])
    other_tree = cKDTree(others)

    def by_numpy() -> np.ndarray:  # type: ignore[type-arg]
        _, index = other_tree.query(points[:few], 100, distance_upper_bound=RADIUS)
        near = np.where(
            index < len(others),
            1 - np.linalg.norm(others[np.minimum(index, len(others) - 1)] - points[:few, None], axis=2) / RADIUS,
            0,
        )
        return near.sum(axis=1)

    yield compare(
        "  the same",
        f"{few:,} points",
        script(NEIGHBOURS, some, "point", {"reef": cloud}),
        "by hand, NumPy and SciPy's tree",
        by_numpy,
        3,
    )
    shape, centers = sheet.topology, face_centers(sheet)
    run = script(FACES, sheet, "face", {"reef": cloud})
    yield compare(
        "script: faces count what is near, lift their points",
        f"{shape.face_count:,} faces",
        run,
        "by hand, Numba",
        lambda: lifted(
            centers,
            shape.face_start,
            shape.corner_point,
            shape.point_count,
            tree,
        ),
        3,
    )

    def faces_by_numpy() -> np.ndarray:  # type: ignore[type-arg]
        near = other_tree.query_ball_point(centers, RADIUS, return_length=True)
        lift = np.zeros(shape.point_count)
        np.add.at(lift, shape.corner_point, np.repeat(0.01 * np.minimum(near, 50), np.diff(shape.face_start)))
        return lift

    yield compare(
        "  the same", f"{shape.face_count:,} faces", run, "by hand, NumPy and SciPy's tree", faces_by_numpy, 2
    )
    small = ops.grid(size=(2, 2), cells=(223, 223))
    point_normals(small)
    builder().enabled = False
    number = itertools.count()
    yield alone(
        "an edited formula, first result",
        f"{small.topology.point_count:,} points",
        lambda: evaluate(
            f"0.{next(number) + 1} * noise(position * 3, 4) + length(position.xz) * normal.y", small, "point"
        ),
        9,
    )
    yield alone(
        "an edited script with a loop, first result",
        f"{small.topology.point_count:,} points",
        lambda: Script(
            f"total = 0.0\nfor p in here.neighbours:\n    total += p.position.y * 0.{next(number) + 1}\nhere.a = total",
            small,
        ).run(backend="vector"),
        5,
    )
    turned = itertools.count()
    yield alone(
        "a control dragged, kernel built",
        f"{small.topology.point_count:,} points",
        lambda: Script(DISPLACE, small, controls={"amount": next(turned) % 90 / 100}).run(backend="compiled"),
        9,
    )
