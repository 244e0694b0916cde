"""Values at places of another geometry: one way to look them up for operators and for the language."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices
from reticula.core.geometry.measure.areas import point_normals
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights
from reticula.core.spatial.all_hits import all_hits
from reticula.core.spatial.points import points_of
from reticula.core.spatial.surface import Places, Surface, closest_in, surface_of
from reticula.core.spatial.tree import Tree, build_tree
from reticula.core.spatial.true_size import true_size

__all__ = [
    "NOTHING",
    "SAMPLED",
    "Sample",
    "sample_closest",
    "sample_hits",
    "sample_points",
    "sample_ray",
    "segment_tree",
]

SAMPLED: tuple[Kind, ...] = ("point", "corner", "face")
"""Kinds whose attributes can be read at a place, in the order in which a name is looked for."""
NOTHING = -1.0
"""The distance where nothing was found; no real distance is below 0."""


@dataclass(frozen=True, eq=False)
class Sample:
    """Places on ``source``, one per query: where they are and what is there.

    ``distance (N,)`` is in m and -1 where nothing was found; ``position`` and ``normal`` are ``(N, 3)`` and 0 there.
    """

    source: Geo
    found: Flags
    distance: Floats
    position: Floats
    normal: Floats
    maps: Mapping[Kind, SourceMap]

    def kind_of(self, name: str) -> Kind | None:
        """Return the kind on which the source has an attribute that can be read at places, or None."""
        return next((kind for kind in SAMPLED if kind in self.maps and self.source.has(kind, name)), None)

    def attribute(self, kind: Kind, name: str, *, corner: bool = False) -> Attribute:
        """Return a source attribute at the places; the source's default where nothing was found.

        Numbers, vectors and matrices are interpolated, others come from the nearest corner; with ``corner`` all do.
        """
        found = self.source.find(kind, name)
        entry = self.maps[kind]
        if corner:
            entry = SourceMap(entry.index)
        if self.found.all():
            return entry.attribute(name, found)
        rows = np.where(self.found, np.cumsum(self.found) - 1, -1)
        inside = SourceMap(entry.index[self.found], _rows_of(entry, self.found))
        return inside.attribute(name, found).take(rows)

    def only(self, kept: Flags) -> Sample:
        """Return the sample with nothing found where ``kept (N,)`` is no."""
        found = self.found & kept
        clear = np.where(found, 1.0, 0.0)[:, None]
        distance = np.where(found, self.distance, NOTHING)
        return Sample(self.source, found, distance, self.position * clear, self.normal * clear, self.maps)

    def chosen(self, rows: AnyArray) -> Sample:
        """Return some of the places, by number."""
        maps = {
            kind: SourceMap(entry.index[rows], None if entry.weights is None else _rows_of(entry, rows))
            for kind, entry in self.maps.items()
        }
        return Sample(self.source, self.found[rows], self.distance[rows], self.position[rows], self.normal[rows], maps)

    def __len__(self) -> int:
        return len(self.found)

    @staticmethod
    def merged(count: int, parts: Sequence[tuple[AnyArray, Sample]]) -> Sample:
        """Return ``count`` places: those of each part at its rows, later parts over earlier ones; nothing elsewhere.

        All are places on one source, found in one way.
        """
        first = parts[0][1]
        kinds = [kind for kind in SAMPLED if kind in first.maps]
        found, distance = np.zeros(count, bool), np.full(count, NOTHING)
        position, normal = np.zeros((count, 3)), np.zeros((count, 3))
        index = {kind: np.zeros(count, np.int32) for kind in kinds}
        blends = {}
        for kind in kinds:
            weights = first.maps[kind].weights
            if isinstance(weights, Weights) and len(first):
                width = len(weights.column) // len(first)
                blends[kind] = (np.zeros((count, width), np.int32), np.zeros((count, width)))
        for rows, part in parts:
            found[rows], distance[rows], position[rows], normal[rows] = (
                part.found,
                part.distance,
                part.position,
                part.normal,
            )
            for kind in kinds:
                entry = part.maps[kind]
                index[kind][rows] = entry.index
                if kind in blends:
                    assert isinstance(entry.weights, Weights)
                    size = (len(part), -1)
                    blends[kind][0][rows] = entry.weights.column.reshape(size)
                    blends[kind][1][rows] = entry.weights.value.reshape(size)
        maps = {kind: SourceMap(index[kind], Weights.rows(*blends[kind]) if kind in blends else None) for kind in kinds}
        return Sample(first.source, found, distance, position, normal, maps)

    @cached_property
    def index(self) -> Indices:
        """The main source point of each place ``(N,)``, -1 where nothing was found."""
        return np.where(self.found, self.maps["point"].index, -1).astype(np.int32)

    @cached_property
    def face(self) -> Indices:
        """The source face of each place ``(N,)``, -1 where nothing was found or the source has only points."""
        if "face" not in self.maps:
            return np.full(len(self.found), -1, np.int32)
        return np.where(self.found, self.maps["face"].index, -1).astype(np.int32)


def _rows_of(entry: SourceMap, chosen: AnyArray) -> Weights | None:
    if entry.weights is None:
        return None
    assert isinstance(entry.weights, Weights)
    column, value = entry.weights.column, entry.weights.value
    return Weights.rows(column.reshape(len(entry.index), -1)[chosen], value.reshape(len(entry.index), -1)[chosen])


def sample_closest(source: Geo, places: AnyArray, reach: float = math.inf) -> Sample:
    """Return the closest place on ``source`` to each of ``places (N, 3)``, within ``reach`` m.

    On its faces; without faces on its curves, whose place has no normal; without curves on its points.
    """
    sized = true_size(source)
    if not source.topology.face_count:
        if not len(source.topology.curve_segments[0]):
            return sample_points(source, places, reach)
        return _on_curves(source, np.ascontiguousarray(sized.enter(places)), reach)
    surface = surface_of(sized.geo)
    return _of_places(source, surface.closest(np.ascontiguousarray(sized.enter(places)), reach))


def sample_ray(
    source: Geo,
    origins: AnyArray,
    directions: AnyArray,
    reach: float = math.inf,
    begin: float = 0.0,
    *,
    both: bool = False,
) -> Sample:
    """Return what rays from ``origins (N, 3)`` along ``directions (N, 3)`` hit first, between ``begin`` and ``reach``
    m.

    With ``both`` they also go the other way, and the nearer hit counts; of two equally near the one ahead.
    """
    sized = true_size(source)
    surface, origins, directions = surface_of(sized.geo), sized.enter(origins), sized.enter(directions)
    ahead = surface.ray(origins, directions, reach, begin)
    if not both:
        return _of_places(source, ahead)
    back = surface.ray(origins, -directions, reach, begin)
    turn = back.found & (~ahead.found | (back.distance < ahead.distance))
    wide = turn[:, None]
    nearer = Places(
        np.where(turn, back.triangle, ahead.triangle),
        np.where(wide, back.weight, ahead.weight),
        np.where(wide, back.position, ahead.position),
        np.where(turn, back.distance, ahead.distance),
    )
    return _of_places(source, nearer)


def sample_hits(
    source: Geo,
    origins: AnyArray,
    directions: AnyArray,
    reach: float = math.inf,
    begin: float = 0.0,
    *,
    both: bool = False,
) -> tuple[Indices, Sample]:
    """Return all that rays hit, nearest first, with ``both`` in either direction: starts ``(N+1,)`` and the places."""
    sized = true_size(source)
    surface, origins, directions = surface_of(sized.geo), sized.enter(origins), sized.enter(directions)
    if not both:
        start, places = all_hits(surface, origins, directions, reach, begin)
        return start, _of_places(source, places)
    pairs, sign = np.repeat(np.arange(len(origins)), 2), np.tile([1.0, -1.0], len(origins))[:, None]
    start, places = all_hits(surface, origins[pairs], directions[pairs] * sign, reach, begin)
    ray = np.repeat(np.arange(len(origins)), np.diff(start[::2]))
    return start[::2], _of_places(source, places).chosen(np.lexsort((places.distance, ray)))


def sample_points(source: Geo, places: AnyArray, reach: float = math.inf) -> Sample:
    """Return the nearest point of ``source`` to each of ``places (N, 3)``, within ``reach`` m."""
    index, distance = points_of(source).nearest(np.asarray(places, np.float64), reach)
    found = index >= 0
    safe = np.maximum(index, 0)
    position = np.where(found[:, None], source.positions[safe], 0.0)
    normals = source.attribute("point", "normal") if source.has("point", "normal") else point_normals(source)
    normal = np.where(found[:, None], normals[safe], 0.0)
    return Sample(source, found, np.where(found, distance, NOTHING), position, normal, {"point": SourceMap(safe)})


@once_per_geo
def segment_tree(source: Geo) -> Tree:
    """The segments of all curves as triangles with two corners in one place."""
    pairs = source.topology.curve_segments[0]
    return build_tree(source.positions[pairs[:, [0, 1, 1]]])


def _on_curves(source: Geo, places: AnyArray, reach: float) -> Sample:
    """Places on curves closest to ``places (N, 3)`` at true size."""
    sized = true_size(source)
    pairs, owner = source.topology.curve_segments
    at = closest_in(segment_tree(sized.geo), places, reach)
    segment = np.maximum(at.triangle, 0)
    columns, weight = pairs[segment], np.stack([at.weight[:, 0], at.weight[:, 1] + at.weight[:, 2]], axis=1)
    heavier = columns[np.arange(len(columns)), weight.argmax(axis=1)].astype(np.int32)
    maps: dict[Kind, SourceMap] = {
        "point": SourceMap(heavier, Weights.rows(columns, weight)),
        "curve": SourceMap(owner[segment]),
    }
    distance = np.where(at.found, at.distance, NOTHING)
    return Sample(source, at.found, distance, sized.back(at.position), np.zeros_like(at.position), maps)


def _of_places(source: Geo, at: Places) -> Sample:
    """The sample of places on the surface at true size; they and their normals in the source's own space."""
    sized = true_size(source)
    distance = np.where(at.found, at.distance, NOTHING)
    surface = surface_of(sized.geo)
    normal = sized.back_normals(surface.normals(at))
    return Sample(source, at.found, distance, sized.back(at.position), normal, _PlaceMaps(surface, at))


class _PlaceMaps(Mapping[Kind, SourceMap]):
    """Source maps of places on triangles, made when they are asked for."""

    def __init__(self, surface: Surface, at: Places) -> None:
        self._surface, self._at = surface, at
        self._made: dict[Kind, SourceMap] = {}

    @cached_property
    def _nearest(self) -> Indices:
        return self._surface.nearest_corner(self._at)

    def __getitem__(self, kind: Kind) -> SourceMap:
        if kind not in SAMPLED:
            raise KeyError(kind)
        if kind not in self._made:
            triangle = np.maximum(self._at.triangle, 0)
            if kind == "face":
                self._made[kind] = SourceMap(self._surface.face[triangle])
            else:
                columns = self._surface.point if kind == "point" else self._surface.corner
                nearest = self._nearest if kind == "corner" else self._surface.corners.point[self._nearest]
                self._made[kind] = SourceMap(nearest, Weights.rows(columns[triangle], self._at.weight))
        return self._made[kind]

    def __iter__(self) -> Iterator[Kind]:
        return iter(SAMPLED)

    def __len__(self) -> int:
        return len(SAMPLED)
