"""Topology: who is joined to whom, without any positions."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from functools import cached_property
from typing import Any, TypeVar, cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices, as_readonly, following_in_rows, starts_from_sizes
from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh import adjacency
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.point_fans import PointFans, point_fans

__all__ = ["Topology"]

Result = TypeVar("Result")
MEMO_LIMIT = 6
MANY = 1000
"""From so many rows on a compiled kernel looks at them; fewer are not worth loading the compiler for."""
LARGEST = 2**31 - 1


class Topology:
    """Faces and curves over numbered points. Immutable, shared by all geometries that differ only in values.

    ``face_start (F+1,)`` and ``corner_point (C,)`` hold polygons of any size, counter-clockwise;
    ``curve_start (K+1,)``, ``curve_point (Q,)`` and ``curve_closed (K,)`` hold polylines. Points used by neither are
    loose. ``instance_count`` placed shapes stand beside them. All that depends on these alone (edges, neighbours,
    subdivision stencils) is computed once and kept here.
    """

    def __init__(
        self,
        point_count: int,
        face_start: AnyArray | None = None,
        corner_point: AnyArray | None = None,
        curve_start: AnyArray | None = None,
        curve_point: AnyArray | None = None,
        curve_closed: AnyArray | None = None,
        instance_count: int = 0,
    ) -> None:
        self.point_count = int(point_count)
        self.instance_count = int(instance_count)
        self.face_start = _indices([0] if face_start is None else face_start)
        self.corner_point = _indices([] if corner_point is None else corner_point)
        self.curve_start = _indices([0] if curve_start is None else curve_start)
        self.curve_point = _indices([] if curve_point is None else curve_point)
        closed = np.zeros(len(self.curve_start) - 1, bool) if curve_closed is None else np.asarray(curve_closed, bool)
        self.curve_closed: Flags = as_readonly(closed)
        self._memo: dict[Hashable, Any] = {}
        self._check()

    def _check(self) -> None:
        for what, start, used, least in (
            ("face", self.face_start, self.corner_point, 3),
            ("curve", self.curve_start, self.curve_point, 2),
        ):
            if len(start) > MANY and adjacency.rows_are_sound(start, used, least, self.point_count):
                continue
            if len(start) == 0 or start[0] != 0 or start[-1] != len(used):
                raise GeometryError(f"the {what} starts do not cover the {len(used)} {what} points")
            sizes = np.diff(start)
            if len(sizes) and sizes.min() < least:
                bad = int(np.argmin(sizes))
                raise GeometryError(f"{what} {bad} has {sizes[bad]} points; a {what} needs at least {least}")
            if len(used) and (used.min() < 0 or used.max() >= self.point_count):
                bad = int(np.flatnonzero((used < 0) | (used >= self.point_count))[0])
                owner = int(np.searchsorted(start, bad, side="right")) - 1
                raise GeometryError(
                    f"{what} {owner} uses point {used[bad]}, but there are only {self.point_count} points"
                )
        if len(self.curve_closed) != len(self.curve_start) - 1:
            raise GeometryError("there must be one closed flag per curve")

    def memoise(self, key: Hashable, make: Callable[[], Result]) -> Result:
        """Return ``make()``, computed once per ``key`` for this topology; the few newest results are kept."""
        if key in self._memo:
            self._memo[key] = self._memo.pop(key)
        else:
            made = make()
            while len(self._memo) >= MEMO_LIMIT:
                del self._memo[next(iter(self._memo))]
            self._memo[key] = made
        return cast(Result, self._memo[key])

    def __getstate__(self) -> dict[str, Any]:
        kept = (
            "point_count",
            "face_start",
            "corner_point",
            "curve_start",
            "curve_point",
            "curve_closed",
            "instance_count",
        )
        return {name: self.__dict__[name] for name in kept} | {"_memo": {}}

    def with_faces(self, point_count: int, face_start: AnyArray, corner_point: AnyArray) -> Topology:
        """Return other faces over ``point_count`` points; curves and instances stay as they are."""
        curves = (self.curve_start, self.curve_point, self.curve_closed)
        return Topology(point_count, face_start, corner_point, *curves, self.instance_count)

    def with_curves(
        self, point_count: int, curve_start: AnyArray, curve_point: AnyArray, curve_closed: AnyArray
    ) -> Topology:
        """Return other curves over ``point_count`` points; faces and instances stay as they are."""
        faces = (self.face_start, self.corner_point)
        return Topology(point_count, *faces, curve_start, curve_point, curve_closed, self.instance_count)

    @property
    def corner_count(self) -> int:
        return len(self.corner_point)

    @property
    def face_count(self) -> int:
        return len(self.face_start) - 1

    @property
    def curve_count(self) -> int:
        return len(self.curve_start) - 1

    @property
    def edge_count(self) -> int:
        return len(self.edges)

    def count(self, kind: Kind) -> int:
        """Return the number of elements of a kind."""
        match kind:
            case "point":
                return self.point_count
            case "edge":
                return self.edge_count
            case "corner":
                return self.corner_count
            case "face":
                return self.face_count
            case "curve":
                return self.curve_count
            case "instance":
                return self.instance_count
            case "whole":
                return 1

    @cached_property
    def face_size(self) -> Indices:
        """Number of corners of each face ``(F,)``."""
        return as_readonly(np.diff(self.face_start))

    @cached_property
    def _corner_neighbours(self) -> tuple[Indices, Indices, Indices]:
        return adjacency.corner_neighbours(self.face_start, self.corner_count)

    @property
    def corner_next(self) -> Indices:
        """The next corner counter-clockwise round the face ``(C,)``."""
        return self._corner_neighbours[0]

    @property
    def corner_previous(self) -> Indices:
        """The corner before it round the face ``(C,)``."""
        return self._corner_neighbours[1]

    @property
    def corner_face(self) -> Indices:
        """The face of each corner ``(C,)``."""
        return self._corner_neighbours[2]

    @cached_property
    def _edges(self) -> tuple[Indices, Indices]:
        return adjacency.edges_of_faces(self.point_count, self.corner_point, self.corner_next)

    def know_edges(self, edges: Indices, corner_edge: Indices) -> None:
        """Take edges ``(E, 2)`` and the one of each corner ``(C,)``, found on the way; they must be those that would be
        found here.
        """
        self.__dict__.setdefault("_edges", (edges, corner_edge))

    @property
    def edges(self) -> Indices:
        """Unique point pairs of the faces ``(E, 2)``, in order of first appearance among the corners."""
        return self._edges[0]

    @property
    def corner_edge(self) -> Indices:
        """The edge from each corner to the next one ``(C,)``."""
        return self._edges[1]

    @cached_property
    def edge_corners(self) -> tuple[Indices, Indices]:
        """Corners whose edge it is: starts ``(E+1,)`` and corners."""
        return adjacency.group_by(self.corner_edge, self.edge_count)

    @cached_property
    def corner_across(self) -> Indices:
        """The corner of the other face whose edge runs back along this corner's edge ``(C,)``.

        -1 at borders, where more than two faces meet, and where the two faces wind against each other.
        """
        return as_readonly(adjacency.corners_across(self.corner_point, *self.edge_corners))

    @cached_property
    def point_corners(self) -> tuple[Indices, Indices]:
        """Corners that use each point: starts ``(P+1,)`` and corners."""
        return adjacency.group_by(self.corner_point, self.point_count)

    @cached_property
    def point_fans(self) -> PointFans:
        """Corners around each point counter-clockwise: starts ``(P+1,)``, corners, and which fans are closed and
        which open.

        A point whose faces do not form a single fan has none.
        """
        return point_fans(*self.point_corners, self.corner_across, self.corner_previous, self.corner_next)

    @cached_property
    def point_edges(self) -> tuple[Indices, Indices]:
        """Edges that end at each point: starts ``(P+1,)`` and edges."""
        start, order = adjacency.group_by(self.edges.reshape(-1), self.point_count)
        return start, (order // 2).astype(np.int32)

    @cached_property
    def face_neighbours(self) -> tuple[Indices, Indices]:
        """Faces that share an edge with each face: starts ``(F+1,)`` and faces."""
        start, corners = self.edge_corners
        return adjacency.face_neighbours(self.face_start, self.corner_edge, start, corners, self.corner_face)

    @cached_property
    def edge_face_count(self) -> Indices:
        """Number of faces on each edge ``(E,)``: 1 on a border, 2 inside, more where it is non-manifold."""
        return np.diff(self.edge_corners[0])

    @cached_property
    def border_edges(self) -> Flags:
        """Which edges have exactly one face ``(E,)``."""
        return self.edge_face_count == 1

    @cached_property
    def border_points(self) -> Flags:
        """Which points lie on a border edge ``(P,)``."""
        on = np.zeros(self.point_count, bool)
        on[self.edges[self.border_edges].reshape(-1)] = True
        return on

    @cached_property
    def used_points(self) -> Flags:
        """Which points some face or curve uses ``(P,)``; the others are loose."""
        used = np.zeros(self.point_count, bool)
        used[self.corner_point] = True
        used[self.curve_point] = True
        return used

    @cached_property
    def curve_segments(self) -> tuple[Indices, Indices]:
        """Point pairs of all curves ``(S, 2)`` and the curve of each ``(S,)``."""
        sizes = np.diff(self.curve_start)
        owner = np.repeat(np.arange(self.curve_count, dtype=np.int32), sizes)
        pairs = np.stack([self.curve_point, self.curve_point[following_in_rows(self.curve_start)]], axis=1)
        keep = np.ones(len(pairs), bool)
        keep[self.curve_start[1:][~self.curve_closed] - 1] = False
        return pairs[keep], owner[keep]

    @cached_property
    def curve_ends(self) -> Flags:
        """Which points are the first or last one of an open curve ``(P,)``."""
        ends = np.zeros(self.point_count, bool)
        open_ = np.flatnonzero(~self.curve_closed & (np.diff(self.curve_start) > 0))
        ends[self.curve_point[self.curve_start[open_]]] = True
        ends[self.curve_point[self.curve_start[open_ + 1] - 1]] = True
        return ends

    @cached_property
    def point_neighbours(self) -> tuple[Indices, Indices]:
        """The points at the other ends of each point's edges, then of the curve segments through it, each once: starts
        ``(P+1,)`` and points.
        """
        start, edges = self.point_edges
        own = np.repeat(np.arange(self.point_count, dtype=np.int32), np.diff(start))
        near = (self.edges[edges].sum(axis=1) - own).astype(np.int32)
        segments = self.curve_segments[0]
        segments = segments[segments[:, 0] != segments[:, 1]]
        if not len(segments):
            return start, near
        owner = np.concatenate([own, segments[:, 0], segments[:, 1]]).astype(np.int64)
        other = np.concatenate([near, segments[:, 1], segments[:, 0]])
        _, first = np.unique(owner * self.point_count + other, return_index=True)
        first = np.sort(first)
        order = first[np.argsort(owner[first], kind="stable")]
        sizes = np.bincount(owner[order], minlength=self.point_count)
        return starts_from_sizes(sizes), other[order].astype(np.int32)

    @cached_property
    def point_piece(self) -> Indices:
        """The number of the connected part each point belongs to ``(P,)``, in order of first point."""
        pairs = np.concatenate([self.edges, self.curve_segments[0]])
        return adjacency.label_components(self.point_count, pairs, np.ones(self.point_count, bool))

    @property
    def euler_characteristic(self) -> int:
        """Points used by faces, minus edges, plus faces (2 for one closed surface without handles)."""
        return len(np.unique(self.corner_point)) - self.edge_count + self.face_count


def _indices(values: Any) -> Indices:
    array = np.asarray(values)
    if array.size and array.dtype != np.int32 and (array.max() > LARGEST or array.min() < -LARGEST):
        raise GeometryError(f"an index lies outside of the {LARGEST} elements that a geometry can hold")
    return cast(Indices, as_readonly(array.astype(np.int32, copy=not array.flags.writeable)))
