"""What the scattering operators share: how many points, how evenly, and carrying the surface's values to them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.errors import LimitError
from reticula.core.geometry import Attribute, Geo, SourceMap, triangles
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.source_maps import Weights
from reticula.core.geometry.remesh.scattering import eliminate_samples, sample_triangles, thin_in_order
from reticula.core.jit import inline, parallel_kernel, prange
from reticula.core.operators.declaration.parameters import Choice, Integer, Number, Parameter
from reticula.core.operators.shared.new_points import beside_whole, tell_left_behind
from reticula.core.rows import dot3, rows_at
from reticula.core.spatial.nearest_corner import FaceCorners, nearest_corners
from reticula.core.spatial.points import NearestPoints

__all__ = [
    "CANDIDATES",
    "MOST",
    "Candidates",
    "Spacing",
    "amounts",
    "bare_places",
    "carried_points",
    "evenly",
    "on_surface",
    "require",
    "spaced",
]

MOST = 20_000_000
"""Points that one scattering may make."""
CANDIDATES = 5
"""How many candidates even spacing chooses from, per point that is wanted; the paper's advice."""


@dataclass(frozen=True, eq=False)
class Candidates:
    """Random places ``position (N, 3)`` with the ``normal (N, 3)`` of the surface (0 where there is none) and
    relative ``density (N,)``.
    """

    position: Floats
    normal: Floats
    density: Floats
    triangle: Indices
    weight: Floats

    def chosen(self, rows: AnyArray) -> Candidates:
        return Candidates(
            self.position[rows], self.normal[rows], self.density[rows], self.triangle[rows], self.weight[rows]
        )

    def followed_by(self, more: Candidates) -> Candidates:
        return Candidates(
            np.concatenate([self.position, more.position]),
            np.concatenate([self.normal, more.normal]),
            np.concatenate([self.density, more.density]),
            np.concatenate([self.triangle, more.triangle]),
            np.concatenate([self.weight, more.weight]),
        )


def bare_places(places: Floats) -> Candidates:
    """Return candidates that are no more than ``places (N, 3)``: all of one density, on no triangle."""
    count = len(places)
    return Candidates(places, np.zeros_like(places), np.ones(count), np.zeros(count, np.int32), np.zeros((count, 3)))


def amounts(per: str, unit: str, spacing: float, arrangement: str) -> tuple[Parameter, ...]:
    """Return the parameters of how many points there are and how they lie; ``per`` is "area" or "volume"."""
    word = {"area": "square metre", "volume": "cubic metre"}[per]
    return (
        Choice(
            "amount",
            "total",
            "how many points",
            options={
                "total": "a number in all",
                f"per {per}": f"a number per {word}",
                "spacing": "as many as fit with a distance between them",
            },
        ),
        Number("total", 200, "points in all", soft=(0, 5000), low=0.0, step=1, shown_when=("amount", "total")),
        Number(
            f"per_{per}",
            500.0,
            f"points per {word}",
            unit=unit,
            soft=(0, 5000),
            low=0.0,
            shown_when=("amount", f"per {per}"),
        ),
        Number(
            "spacing",
            spacing,
            "least distance between points",
            unit="m",
            soft=(0, 1),
            low=1e-9,
            shown_when=("amount", "spacing"),
        ),
        Choice(
            "arrangement",
            arrangement,
            "how they lie",
            options={
                "random": "each by itself",
                "even": "evenly spaced, without clumps and gaps",
            },
            shown_when=("amount", ["total", f"per {per}"]),
        ),
        Integer("seed", 0, "another number gives other places", soft=(0, 100)),
    )


def require(count: float) -> int:
    """Return a count of points as a whole number; LimitError beyond twenty million."""
    if count > MOST:
        raise LimitError(f"this would make {count:,.0f} points; {MOST:,} is the most, so ask for fewer")
    return max(round(count), 0)


def on_surface(geo: Geo, density: Floats, faces: Flags, count: int, seed: int) -> Candidates:
    """Return random places on the marked ``faces (F,)``, by area times ``density (P,)``, which is 0 or more per
    point.
    """
    cut = triangles(geo)
    point = rows_at(geo.topology.corner_point, cut.corner)
    mesh = _Triangles(point, geo.positions, rows_at(density, point))
    total = np.cumsum(_shares(mesh, rows_at(faces, cut.face)))
    if not total[-1] > 0.0:
        warn("There is no area with a density above 0, so no points were made.")
        count = 0
    triangle, weight = sample_triangles(total, mesh.density, count, seed)
    place, facing, dense = _at_places(triangle, weight, mesh)
    return Candidates(place, facing, dense, triangle, weight)


class _Triangles(NamedTuple):
    """The points ``(T, 3)`` of triangles, the ``position (P, 3)`` of points, and the density at corners ``(T, 3)``."""

    point: Indices
    position: Floats
    density: Floats


@inline
def _normal(mesh: _Triangles, t: int) -> tuple[float, float, float]:
    """The normal of a triangle, as long as twice its area."""
    a, b, c = mesh.position[mesh.point[t, 0]], mesh.position[mesh.point[t, 1]], mesh.position[mesh.point[t, 2]]
    px, py, pz = b[0] - a[0], b[1] - a[1], b[2] - a[2]
    qx, qy, qz = c[0] - a[0], c[1] - a[1], c[2] - a[2]
    return py * qz - pz * qy, pz * qx - px * qz, px * qy - py * qx


@parallel_kernel
def _shares(mesh: _Triangles, marked: Flags) -> Floats:
    """The area of each triangle times its mean density ``(T,)``; 0 of those that are not ``marked (T,)``."""
    out = np.zeros(len(marked))
    for t in prange(len(marked)):
        if marked[t]:
            x, y, z = _normal(mesh, t)
            mean = (mesh.density[t, 0] + mesh.density[t, 1] + mesh.density[t, 2]) / 3.0
            out[t] = 0.5 * np.sqrt(x * x + y * y + z * z) * mean
    return out


@parallel_kernel
def _at_places(triangle: Indices, weight: Floats, mesh: _Triangles) -> tuple[Floats, Floats, Floats]:
    """Position ``(N, 3)``, unit normal ``(N, 3)`` and density ``(N,)`` of places within triangles."""
    count = len(triangle)
    place, facing, dense = np.empty((count, 3)), np.empty((count, 3)), np.empty(count)
    for n in prange(count):
        t, (u, v, w) = triangle[n], weight[n]
        x, y, z = _normal(mesh, t)
        size = max(np.sqrt(x * x + y * y + z * z), 1e-300)
        facing[n, 0], facing[n, 1], facing[n, 2] = x / size, y / size, z / size
        for j in range(3):
            a, b = mesh.position[mesh.point[t, 0], j], mesh.position[mesh.point[t, 1], j]
            place[n, j] = (u * a + v * b) + w * mesh.position[mesh.point[t, 2], j]
        dense[n] = dot3(u, v, w, mesh.density[t, 0], mesh.density[t, 1], mesh.density[t, 2])
    return place, facing, dense


def evenly(candidates: Candidates, wanted: int, size: float, flat: bool) -> Candidates:
    """Keep ``wanted`` candidates, evenly spaced; ``size`` is the area (``flat``) or volume in which they lie.

    The radius is the largest that as many disks or balls could have: Yuksel 2015, equations 1 and 2.
    """
    if not len(candidates.position) or wanted <= 0:
        return candidates.chosen(np.zeros(0, np.int64))
    largest = (
        (size / (2.0 * np.sqrt(3.0) * wanted)) ** 0.5 if flat else (size / (4.0 * np.sqrt(2.0) * wanted)) ** (1 / 3)
    )
    relative = candidates.density / max(float(candidates.density.mean()), 1e-300)
    radius = largest * np.maximum(relative, 0.05) ** (-0.5 if flat else -1.0 / 3.0)
    start, item, distance = NearestPoints(candidates.position).near(candidates.position, 2.0 * radius)
    kept = eliminate_samples(start, item, distance, radius, candidates.normal, wanted)
    return candidates.chosen(kept)


class Spacing(NamedTuple):
    """A distance in m that points keep where the density is ``highest``; more where it is lower."""

    least: float
    highest: float
    flat: bool

    def radius(self, density: Floats) -> Floats:
        """Return the distance ``(N,)`` at some densities."""
        relative = density / max(self.highest, 1e-300)
        return np.asarray(self.least * np.maximum(relative, 1e-3) ** (-0.5 if self.flat else -1.0 / 3.0))


def spaced(candidates: Candidates, spacing: Spacing) -> Candidates:
    """Keep candidates, in their order, that are no closer together than the spacing."""
    if not len(candidates.position):
        return candidates
    radius = spacing.radius(candidates.density)
    return candidates.chosen(np.flatnonzero(thin_in_order(candidates.position, radius, candidates.normal)))


def carried_points(source: Geo, chosen: Candidates) -> Geo:
    """Return points at the chosen places with every attribute of the surface, its face and the place within it.

    ``source_face`` is the face's number; ``source_corners`` are three of its corners, whose ``source_weights`` make the
    place. Attributes of points win over those of corners, these over those of faces.
    """
    made = Geo.of(chosen.position)
    cut = triangles(source)
    corners, face = rows_at(cut.corner, chosen.triangle), rows_at(cut.face, chosen.triangle)
    shape = source.topology

    @cache
    def nearest() -> Indices:
        faces = FaceCorners(cut.face, shape.face_start, shape.corner_point, source.positions)
        return nearest_corners(faces, np.asarray(chosen.triangle, np.int32), chosen.position)

    maps: dict[Kind, Callable[[], SourceMap]] = {
        "face": lambda: SourceMap(face),
        "corner": lambda: SourceMap(nearest(), Weights.rows(corners, chosen.weight)),
        "point": lambda: SourceMap(
            shape.corner_point[nearest()], Weights.rows(rows_at(shape.corner_point, corners), chosen.weight)
        ),
    }
    for kind, entry in maps.items():
        named = {name: found for name, found in source.attributes[kind].items() if name != "position"}
        way = entry() if named else None
        for name, found in named.items():
            if made.has("point", name) and kind == "point":
                note(f"'{name}' is on more than one kind; the points' values were taken.")
            assert way is not None
            made = made.with_attribute("point", name, way.attribute(name, found))
    tell_left_behind(source, "points lie on faces", ("edge", "curve", "instance"))
    made = beside_whole(made, source)
    if not source.has("point", "normal") and not source.has("corner", "normal"):
        made = made.with_attribute("point", "normal", chosen.normal)
    made = made.with_attribute("point", "source_face", face.astype(np.int64))
    start = np.arange(len(corners) + 1, dtype=np.int32) * 3
    listed = Attribute("integer list", as_readonly(corners.reshape(-1).astype(np.int64)), as_readonly(start))
    made = made.with_attribute("point", "source_corners", listed)
    return made.with_attribute("point", "source_weights", chosen.weight)
