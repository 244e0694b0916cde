"""Room for further points between points that keep a distance, found and filled."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, starts_from_sizes
from reticula.core.geometry import Geo, triangles
from reticula.core.geometry.measure.triangles import halves, longest_edges
from reticula.core.jit import parallel_kernel, prange
from reticula.core.operators.shared.scatter_candidates import Candidates, Spacing, spaced
from reticula.core.rows import dot3
from reticula.core.spatial.points import NearestPoints

__all__ = ["without_gaps"]

NEAR = 8
"""Kept points that may cover a cell, the nearest ones."""
SMALL = 0.2
"""Size of a cell, as a share of the spacing, from which on it is looked at in some places."""
LOOKS = np.array([[1, 0, 0], [0, 1, 0], [0, 0, 1], [0.5, 0.5, 0], [0, 0.5, 0.5], [0.5, 0, 0.5], [1 / 3, 1 / 3, 1 / 3]])
ROUNDS = 60


class _Cells(NamedTuple):
    """Triangles within the triangles of a mesh: ``triangle (N,)``, barycentric ``weight (N, 3, 3)`` of each corner."""

    triangle: Indices
    weight: Floats

    def chosen(self, rows: AnyArray) -> _Cells:
        return _Cells(self.triangle[rows], self.weight[rows])


class _Surface(NamedTuple):
    """Corners ``(T, 3, 3)``, densities at them ``(T, 3)`` and unit normals ``(T, 3)`` of the triangles."""

    corner: Floats
    density: Floats
    normal: Floats

    def places(self, cells: _Cells) -> Floats:
        return _places(cells.weight, cells.triangle, self.corner)

    def at(self, triangle: Indices, weight: Floats) -> Candidates:
        """Candidates at barycentric places."""
        place = np.einsum("nc,ncj->nj", weight, self.corner[triangle])
        density = np.einsum("nc,nc->n", weight, self.density[triangle])
        return Candidates(place, self.normal[triangle], density, triangle, weight)


@parallel_kernel
def _places(weight: Floats, triangle: Indices, corner: Floats) -> Floats:
    out = np.empty(weight.shape)
    for n in prange(len(weight)):
        t = triangle[n]
        for k in range(3):
            for j in range(3):
                a, b, c = weight[n, k, 0] * corner[t, 0, j], weight[n, k, 1] * corner[t, 1, j], weight[n, k, 2]
                out[n, k, j] = (a + b) + c * corner[t, 2, j]
    return out


@parallel_kernel
def _middles(place: Floats) -> Floats:
    """The mean ``(N, 3)`` of each group of places ``(N, K, 3)``."""
    out = np.zeros((len(place), 3))
    for n in prange(len(place)):
        for j in range(3):
            for k in range(place.shape[1]):
                out[n, j] += place[n, k, j]
            out[n, j] /= place.shape[1]
    return out


def without_gaps(geo: Geo, kept: Candidates, density: Floats, faces: Flags, spacing: Spacing, seed: int) -> Candidates:
    """Return points with further ones wherever there is room on the marked ``faces (F,)``; the first stay as they are.

    Cells that no single point covers are halved and get a random candidate; small ones are looked at in seven places,
    and get one that is free. So on until all is covered: maximal Poisson-disk sampling by subdivision (White, Cline &
    Egbert, "Poisson disk point sets by hierarchical dart throwing", IEEE Symp. on Interactive Ray Tracing 2007), up to
    what lies between those places.
    """
    cut = triangles(geo)
    point = geo.topology.corner_point[cut.corner]
    corner = geo.positions[point]
    normal = np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0])
    normal /= np.maximum(np.linalg.norm(normal, axis=1), 1e-300)[:, None]
    surface = _Surface(corner, density[point], normal)
    start = np.flatnonzero(faces[cut.face] & (surface.density.max(axis=1) > 0.0)).astype(np.int32)
    cells = _Cells(start, np.tile(np.eye(3), (len(start), 1, 1)))
    rng = np.random.default_rng(seed)
    for _ in range(ROUNDS):
        cells = _open(surface, cells, kept, spacing)
        if not len(cells.triangle):
            break
        kept, cells = _filled(surface, cells, kept, spacing, rng)
    return kept


def _filled(
    surface: _Surface, cells: _Cells, kept: Candidates, spacing: Spacing, rng: np.random.Generator
) -> tuple[Candidates, _Cells]:
    """One round: points are put into open cells; large cells are halved, small ones stay as long as they had room."""
    edge, length = longest_edges(surface.places(cells))
    small = length <= SMALL * spacing.least
    large, edge = cells.chosen(~small), edge[~small]
    lot = rng.exponential(size=(len(edge), 3))
    weight = np.einsum("nk,nkc->nc", lot / lot.sum(axis=1, keepdims=True), large.weight)
    darts = surface.at(large.triangle, weight)
    darts = darts.chosen(np.flatnonzero(_free(darts, kept, spacing)))
    cells = cells.chosen(small)
    looked = _looked_at(surface, cells)
    free = _free(looked, kept, spacing).reshape(-1, len(LOOKS))
    room = np.flatnonzero(free.any(axis=1))
    first = looked.chosen(room * len(LOOKS) + free[room].argmax(axis=1))
    kept = kept.followed_by(spaced(darts.followed_by(first), spacing))
    row, left = np.arange(len(edge)), cells.chosen(room)
    middle = 0.5 * (large.weight[row, edge] + large.weight[row, (edge + 1) % 3])
    return kept, _Cells(
        np.concatenate([np.repeat(large.triangle, 2), left.triangle]),
        np.concatenate([halves(large.weight, edge, middle), left.weight]),
    )


def _open(surface: _Surface, cells: _Cells, kept: Candidates, spacing: Spacing) -> _Cells:
    """Return the cells that do not lie within the distance of one kept point."""
    if not len(kept.position) or not len(cells.triangle):
        return cells
    place = surface.places(cells)
    own = spacing.radius(np.einsum("nkc,nc->nk", cells.weight, surface.density[cells.triangle]).max(axis=1))
    return cells.chosen(_uncovered(place, _middles(place), own, surface.normal[cells.triangle], kept, spacing))


def _free(places: Candidates, kept: Candidates, spacing: Spacing) -> Flags:
    """Whether no kept point is too near to a place ``(N,)``."""
    out = np.ones(len(places.position), bool)
    if len(kept.position) and len(places.position):
        own = spacing.radius(places.density)
        out[:] = False
        out[_uncovered(places.position[:, None], places.position, own, places.normal, kept, spacing)] = True
    return out


def _uncovered(
    place: Floats, middle: Floats, own: Floats, normal: Floats, kept: Candidates, spacing: Spacing
) -> Indices:
    """Return which groups of places ``(N, K, 3)`` do not lie, all of a group, within the distance of one kept point.

    Looked at are the kept points nearest to the ``middle (N, 3)``; ``own (N,)`` are distances that the groups keep.
    Most are covered by the nearest one alone.
    """
    tree, radius = NearestPoints(kept.position), spacing.radius(kept.density)
    points, farthest = _Kept(kept.position, radius, kept.normal), np.maximum(own, radius.max())
    left = np.arange(len(place), dtype=np.int32)
    for most in (1, NEAR):
        if not len(left):
            break
        start, near = _near(tree, middle[left], farthest[left], most)
        covered = _covered(_Groups(place[left], own[left], normal[left]), start, near, points)
        left = left[~covered]
    return left


def _near(tree: NearestPoints, places: Floats, reach: Floats, most: int) -> tuple[Indices, Indices]:
    """The nearest kept points within ``reach (N,)`` of each place, at most so many: starts ``(N+1,)`` and numbers."""
    if most > 1:
        return tree.near(places, reach, most)[:2]
    found, _ = tree.nearest(places, reach)
    return starts_from_sizes(found >= 0), found[found >= 0]


class _Groups(NamedTuple):
    """Groups of places ``(N, K, 3)``, the distance each keeps ``(N,)``, and the surface's normal there ``(N, 3)``."""

    place: Floats
    own: Floats
    normal: Floats


class _Kept(NamedTuple):
    """Points ``(M, 3)``, the distance each keeps ``(M,)``, and the surface's normal there ``(M, 3)``."""

    position: Floats
    radius: Floats
    normal: Floats


@parallel_kernel
def _covered(groups: _Groups, start: Indices, near: Indices, kept: _Kept) -> Flags:
    place, own, normal = groups.place, groups.own, groups.normal
    position, radius, facing = kept.position, kept.radius, kept.normal
    out = np.zeros(len(place), np.bool_)
    for n in prange(len(place)):
        for m in range(start[n], start[n + 1]):
            k = near[m]
            if dot3(normal[n, 0], normal[n, 1], normal[n, 2], facing[k, 0], facing[k, 1], facing[k, 2]) < 0.0:
                continue
            away = 0.0
            for i in range(place.shape[1]):
                x, y, z = (
                    place[n, i, 0] - position[k, 0],
                    place[n, i, 1] - position[k, 1],
                    place[n, i, 2] - position[k, 2],
                )
                away = max(away, np.sqrt(x * x + y * y + z * z))
            if away < max(own[n], radius[k]):
                out[n] = True
                break
    return out


def _looked_at(surface: _Surface, cells: _Cells) -> Candidates:
    """The places at which small cells are looked at, one cell after the other."""
    weight = np.einsum("lk,nkc->nlc", LOOKS, cells.weight).reshape(-1, 3)
    return surface.at(np.repeat(cells.triangle, len(LOOKS)), weight)
