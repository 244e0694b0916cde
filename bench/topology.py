"""The topology operators at about 10,000, 100,000 and 1,000,000 elements, beside the library that does that work
best.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

import fast_simplification
import igl
import manifold3d
import numpy as np
import shapely
import trimesh
from scipy.spatial import Delaunay

from bench.measure import Row, alone, compare
from bench.shapes import anew
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting

__all__ = ["rows"]

FREQUENCIES = (22, 71, 224)
"""Geodesic spheres of 9,680, 100,820 and 1,003,520 triangles."""


class Case:
    """One mesh in the forms that we and the peers take."""

    def __init__(self, frequency: int) -> None:
        ball = ops.geodesic_sphere(frequency=frequency)
        self.ball = ball.with_positions(ball.positions * (1 + 0.1 * np.sin(9 * ball.positions[:, :1])))
        self.points = np.array(self.ball.positions)
        self.faces = np.array(self.ball.topology.corner_point.reshape(-1, 3))
        self.long = self.faces.astype(np.int64)
        side = int(np.sqrt(len(self.faces)))
        self.sheet = ops.grid(cells=(side, side)).without_attribute("corner", "uv")
        self.quads = np.array(self.sheet.topology.corner_point.reshape(-1, 4))
        self.size = f"{len(self.faces):,} triangles"
        self._share = 1.0
        self.quad_size = f"{len(self.quads):,} quads"

    def anew(self, geo: Geo | None = None) -> Geo:
        """Return a mesh with nothing known about it yet."""
        return anew(geo or self.ball)

    def moved(self) -> Geo:
        """Return the mesh with all points somewhere else."""
        self._share += 0.001
        return self.ball.with_positions(self.points * self._share)

    def mesh(self) -> trimesh.Trimesh:
        return trimesh.Trimesh(self.points, self.faces, process=False)

    def solid(self) -> manifold3d.Manifold:
        return manifold3d.Manifold(manifold3d.Mesh64(self.points, self.faces.astype(np.uint64)))


def rows() -> Iterator[Row]:
    """Yield one comparison after the other, each at three sizes."""
    with collecting():
        cases = [Case(frequency) for frequency in FREQUENCIES]
        for family in (_raise, _cut, _join, _solids, _curves):
            for work in family():
                for case in cases:
                    row = work(case)
                    if row:
                        yield row


Work = Callable[[Case], "Row | None"]

SHARES = np.array([(i, j, 3 - i - j) for i in range(4) for j in range(4 - i)]) / 3


def _simplified_and_sampled(case: Case) -> float:
    """Simplify to a twentieth, then the largest distance from samples of either surface to the other."""
    points, faces = fast_simplification.simplify(case.points, case.faces, 0.95)
    pair = ((case.points, case.long), (points.astype(float), faces.astype(np.int64)))
    far = 0.0
    for (a, f), (b, g) in (pair, pair[::-1]):
        samples = np.einsum("sk,fki->fsi", SHARES, a[f]).reshape(-1, 3)
        far = max(far, float(igl.point_mesh_squared_distance(samples, b, g)[0].max()))
    return far


def _raise() -> Iterator[Work]:
    yield lambda c: compare(
        "extrude all faces one by one",
        c.size,
        lambda: ops.extrude(c.anew(), together=False, distance=0.01, rim_group=""),
        "NumPy by hand",
        lambda: _walls(c.points, c.faces, 0.01),
        3,
    )
    yield lambda c: alone(
        "extrude a half, even walls", c.size, lambda: ops.extrude(c.anew(), where="index < count / 2")
    )
    yield lambda c: compare(
        "inset by a fraction",
        c.size,
        lambda: ops.inset(c.anew(), by="fraction", fraction=0.2),
        "NumPy by hand",
        lambda: _walls(c.points, c.faces, 0.0),
        3,
    )
    yield lambda c: alone("bevel all edges", c.size, lambda: ops.bevel(c.anew(), width=0.0001))
    yield lambda c: alone("bevel all edges, again elsewhere", c.size, lambda: ops.bevel(c.moved(), width=0.0001))


def _walls(points: np.ndarray, faces: np.ndarray, far: float) -> tuple[np.ndarray, ...]:
    corners = points[faces]
    a, b, c = corners.transpose(1, 0, 2)
    normal = np.cross(b - a, c - a)
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    moved = corners + far * normal[:, None] if far else 0.8 * corners + 0.2 * corners.mean(axis=1, keepdims=True)
    top = np.arange(faces.size).reshape(-1, 3) + len(points)
    side = np.stack([faces, np.roll(faces, -1, 1), np.roll(top, -1, 1), top], axis=-1).reshape(-1, 4)
    return np.concatenate([points, moved.reshape(-1, 3)]), top, side


def _cut() -> Iterator[Work]:
    yield lambda c: compare(
        "split faces into four triangles",
        c.size,
        lambda: ops.split_faces(c.anew(), into="triangles"),
        "libigl upsample",
        lambda: igl.upsample(c.points, c.long, 1),
        3,
    )
    yield lambda c: compare(
        "smooth subdivide, Loop",
        c.size,
        lambda: ops.smooth_subdivide(c.anew(), scheme="loop"),
        "libigl",
        lambda: igl.loop(c.points, c.long, 1),
        3,
    )
    yield lambda c: compare(
        "triangulate quads",
        c.quad_size,
        lambda: ops.triangulate(c.anew(c.sheet)),
        "trimesh",
        lambda: trimesh.geometry.triangulate_quads(c.quads),
        3,
    )
    yield lambda c: alone("dual", c.size, lambda: ops.dual(c.anew()))
    yield lambda c: compare(
        "simplify to a tenth",
        c.size,
        lambda: ops.simplify(c.anew(), share=0.1),
        "fast-simplification",
        lambda: fast_simplification.simplify(c.points, c.faces, 0.9),
        3 if len(c.faces) < 5e5 else 1,
    )
    yield lambda c: compare(
        "simplify within an error",
        c.size,
        lambda: ops.simplify(c.anew(), to="error"),
        "fast-simplification + libigl at samples",
        lambda: _simplified_and_sampled(c),
        3 if len(c.faces) < 5e5 else 1,
    )
    yield lambda c: compare(
        "smooth, 10 times",
        c.size,
        lambda: ops.smooth(c.ball, iterations=10, keep="nothing"),
        "trimesh",
        lambda: trimesh.smoothing.filter_laplacian(c.mesh(), iterations=10, volume_constraint=False),
        3 if len(c.faces) < 5e5 else 1,
    )


def _join() -> Iterator[Work]:
    yield lambda c: compare(
        "unshare", c.size, lambda: ops.unshare(c.anew()), "NumPy by hand", lambda: c.points[c.faces].reshape(-1, 3), 3
    )

    def weld(c: Case) -> Row:
        apart = ops.unshare(c.ball)
        loose = np.array(apart.positions)
        tri = np.arange(len(loose)).reshape(-1, 3)
        return compare(
            "weld equal points",
            c.size,
            lambda: ops.weld(apart, radius=0),
            "libigl",
            lambda: igl.remove_duplicate_vertices(loose, tri, 0.0),
            3,
        )

    yield weld
    yield lambda c: compare(
        "mirror",
        c.size,
        lambda: ops.mirror(c.ball, through=(5, 0, 0)),
        "trimesh",
        lambda: trimesh.util.concatenate([c.mesh(), c.mesh().apply_transform(np.diag([-1, 1, 1, 1]))]),
        3,
    )
    yield lambda c: alone("region borders, parted", c.size, lambda: ops.region_borders(c.ball, split=True))

    def flatten(c: Case) -> Row:
        shape = ops.geodesic_sphere(frequency=4)
        count = len(c.faces) // shape.topology.face_count
        placed = ops.place_instances(ops.line(segments=max(count, 1)), shape, scale=0.1)
        matrix = placed.attribute("instance", "transform")
        tri = shape.topology.corner_point

        def by_hand() -> tuple[np.ndarray, np.ndarray]:
            moved = np.einsum("nij,pj->npi", matrix[:, :3, :3], shape.positions) + matrix[:, None, :3, 3]
            index = tri[None] + (np.arange(len(matrix)) * shape.topology.point_count)[:, None]
            return moved.reshape(-1, 3), index.reshape(-1)

        return compare("flatten instances", c.size, lambda: ops.flatten_instances(placed), "NumPy by hand", by_hand, 3)

    yield flatten


def _solids() -> Iterator[Work]:
    yield lambda c: compare(
        "slice, open",
        c.size,
        lambda: ops.slice(c.anew(), direction=(1, 2, 3), cap=False),
        "trimesh, one side",
        lambda: c.mesh().slice_plane((0, 0, 0), (1, 2, 3)),
        3,
    )
    yield lambda c: compare(
        "slice with caps",
        c.size,
        lambda: ops.slice(c.anew(), direction=(1, 2, 3)),
        "manifold3d",
        lambda: [m.to_mesh64() for m in c.solid().split_by_plane((1, 2, 3), 0)],
        3,
    )

    def boolean(c: Case) -> Row:
        other = ops.transform(c.ball, move=(0.3, 0.1, 0.2))
        moved = np.array(other.positions)

        def bare() -> Any:
            second = manifold3d.Manifold(manifold3d.Mesh64(moved, c.faces.astype(np.uint64)))
            return (c.solid() - second).to_mesh64()

        return compare("boolean difference", c.size, lambda: ops.boolean(c.ball, other), "manifold3d, bare", bare, 3)

    yield boolean

    def cells(c: Case) -> Row | None:
        centers = np.random.default_rng(0).uniform(-0.5, 0.5, (1000, 3))
        if len(c.faces) > 10_000:
            return alone("break into 1,000 cells", c.size, lambda: ops.break_into_cells(c.ball, Geo.of(centers)))
        return compare(
            "break into 1,000 cells",
            c.size,
            lambda: ops.break_into_cells(c.ball, Geo.of(centers)),
            "manifold3d, every tenth cell only",
            lambda: _halved(c.solid(), centers),
            1,
        )

    yield cells

    def even(c: Case) -> Row:
        across = float(np.sqrt(len(c.faces) / 2.3))
        ring = ops.circle(segments=int(3.5 * across))
        made = ops.fill(ring, what="curve", using="even", across=across)
        flat = np.array(made.positions[:, [0, 2]])
        return compare(
            "fill with an even mesh",
            f"{made.counts['faces']:,} triangles",
            lambda: ops.fill(ring, what="curve", using="even", across=across),
            "SciPy Delaunay of the same points",
            lambda: Delaunay(flat),
            1,
        )

    yield even


def _halved(solid: manifold3d.Manifold, centers: np.ndarray) -> list[Any]:
    """Cells by cutting with the bisectors of near centres only, nearest first: what a user of the library would
    write.
    """
    from scipy.spatial import Delaunay as Tetra

    start, near = Tetra(centers).vertex_neighbor_vertices
    made = []
    for k in range(0, len(centers), 10):
        part = solid
        neighbours = near[start[k] : start[k + 1]]
        for j in neighbours[np.argsort(np.linalg.norm(centers[neighbours] - centers[k], axis=1))]:
            way = centers[k] - centers[j]
            part = part.trim_by_plane(way, float(way @ (centers[k] + centers[j]) / 2 / np.linalg.norm(way)))
        made.append(part.to_mesh64())
    return made


def _curves() -> Iterator[Work]:
    def merge(c: Case) -> Row:
        shape = c.ball.topology
        some = np.arange(shape.edge_count) % 3 == 0
        marked = c.ball.with_attribute("edge", "some", some)
        lines = shapely.multilinestrings(shapely.linestrings(c.points[shape.edges[some]][:, :, :2]))
        return compare(
            "edges to curves",
            c.size,
            lambda: ops.edges_to_curves(marked, where="some"),
            "shapely line_merge",
            lambda: shapely.line_merge(lines),
            1,
        )

    yield merge

    def resample(c: Case) -> Row:
        count = len(c.faces)
        curve = ops.set_attribute(
            ops.line(segments=count), name="position", value="vec3(fraction, sin(fraction * 40), 0)"
        )
        line = shapely.LineString(curve.positions[:, :2])
        share = np.linspace(0, 1, count // 10)
        return compare(
            "resample one long curve",
            f"{count:,} points",
            lambda: ops.resample(curve, count=count),
            "shapely, 100 of the points",
            lambda: shapely.line_interpolate_point(line, share[:100], normalized=True),
            1,
        )

    yield resample
    yield lambda c: alone(
        "sweep a circle of 8",
        f"{len(c.faces) // 8:,} points",
        lambda: ops.sweep(ops.line(segments=len(c.faces) // 8), sides=8),
    )
    yield lambda c: alone(
        "struts along a quarter of the edges",
        c.size,
        lambda: ops.struts(c.ball, where="index % 4 == 0", radius=0.0001, sides=4),
    )
