"""What names exist for the element a formula runs on, and how their values are found."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Indices
from reticula.core.context import current
from reticula.core.geometry import measure
from reticula.core.geometry.measure import components as pieces
from reticula.core.geometry.measure import curvature
from reticula.core.geometry.mesh.attribute_types import AttributeType
from reticula.core.geometry.mesh.bounds import farthest_from_mean
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.incidence import incident
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language.types import FLAG, INTEGER, NUMBER, VEC3, Type, type_of_attribute
from reticula.core.spatial.thickness import thickness

__all__ = ["AROUND", "BUILTINS", "CONSTANTS", "SINGLE", "TIMELINE", "TIME_HELP", "Builtin", "Scope", "adjacent"]

TIMELINE: dict[str, float] = {"frame": 0.0, "time": 0.0, "seconds_per_frame": 1.0 / 24.0}
"""What is read of time outside of a graph: it stands at the beginning. 24 frames per second: common
practice, no source.
"""
TIME_HELP = {
    "frame": "number of the frame",
    "time": "seconds since the first frame",
    "seconds_per_frame": "seconds from one frame to the next",
}
"""What they are, for whoever writes a formula."""
CONSTANTS = {"pi": np.pi, "tau": 2 * np.pi, "e": np.e}


@dataclass(frozen=True)
class Builtin:
    """A value that every element of some kinds has without anyone setting it. An attribute of the name wins."""

    name: str
    type: AttributeType
    summary: str
    read: Mapping[Kind, Callable[[Geo], AnyArray]]


def _index(kind: Kind) -> Callable[[Geo], AnyArray]:
    return lambda geo: np.arange(geo.topology.count(kind))


def _count(kind: Kind) -> Callable[[Geo], AnyArray]:
    return lambda geo: np.full(1, geo.topology.count(kind))


def _fraction(kind: Kind) -> Callable[[Geo], AnyArray]:
    return lambda geo: np.arange(geo.topology.count(kind)) / max(geo.topology.count(kind) - 1, 1)


def _extent(geo: Geo) -> AnyArray:
    """Twice the distance from the mean of all points to the farthest: the same however the shape is turned."""
    if not geo.topology.point_count:
        return np.zeros(1)
    return np.full(1, 2.0 * farthest_from_mean(geo.positions, geo.bounds.mean(axis=0)))


def _of_pieces(values: Callable[[Geo], AnyArray]) -> dict[Kind, Callable[[Geo], AnyArray]]:
    """Readers of what is known of the connected part of each point."""
    return {
        "point": values,
        "edge": lambda geo: values(geo)[geo.topology.edges[:, 0]],
        "corner": lambda geo: values(geo)[geo.topology.corner_point],
        "face": lambda geo: values(geo)[geo.topology.corner_point[geo.topology.face_start[:-1]]],
        "curve": lambda geo: values(geo)[geo.topology.curve_point[geo.topology.curve_start[:-1]]],
    }


def _stands_at(geo: Geo) -> AnyArray:
    if not geo.topology.instance_count:
        return np.zeros((0, 3))
    return np.asarray(geo.attribute("instance", "transform"))[:, :3, 3]


_LISTED: tuple[Kind, ...] = ("point", "edge", "corner", "face", "curve")
_NUMBERED: tuple[Kind, ...] = (*_LISTED, "instance")
BUILTINS: dict[str, Builtin] = {
    entry.name: entry
    for entry in (
        Builtin("index", INTEGER, "number of the element, from 0", {k: _index(k) for k in _NUMBERED}),
        Builtin("count", INTEGER, "how many elements of the kind there are", {k: _count(k) for k in _NUMBERED}),
        Builtin("fraction", NUMBER, "index as 0..1 from the first to the last", {k: _fraction(k) for k in _NUMBERED}),
        Builtin(
            "position",
            VEC3,
            "place in m; of an edge, face or curve the mean of its points, of an instance where it stands",
            {
                "edge": measure.edge_centers,
                "corner": measure.corner_positions,
                "face": measure.face_centers,
                "curve": measure.curve_centers,
                "instance": _stands_at,
            },
        ),
        Builtin(
            "normal",
            VEC3,
            "unit normal",
            {
                "point": measure.point_normals,
                "face": measure.face_normals,
                "corner": lambda geo: measure.point_normals(geo)[geo.topology.corner_point],
            },
        ),
        Builtin("area", NUMBER, "area in m²", {"face": measure.face_areas}),
        Builtin("perimeter", NUMBER, "length of the outline in m", {"face": measure.face_perimeters}),
        Builtin("length", NUMBER, "length in m", {"edge": measure.edge_lengths, "curve": measure.curve_lengths}),
        Builtin(
            "border",
            FLAG,
            "whether it lies on an open border",
            {
                "point": lambda geo: geo.topology.border_points,
                "edge": lambda geo: geo.topology.border_edges,
            },
        ),
        Builtin("piece", INTEGER, "number of the connected part it belongs to", _of_pieces(pieces.point_components)),
        Builtin(
            "piece_name",
            INTEGER,
            "stable number of the connected part: the same whatever is added or removed elsewhere",
            _of_pieces(pieces.point_component_names),
        ),
        Builtin(
            "valence",
            INTEGER,
            "number of edges that meet at the point",
            {
                "point": lambda geo: np.diff(geo.topology.point_edges[0]).astype(np.int64),
            },
        ),
        Builtin(
            "angle",
            NUMBER,
            "angle between the two faces in degrees: 0 flat, above 0 a ridge, below 0 a valley",
            {
                "edge": curvature.edge_angles,
            },
        ),
        Builtin(
            "mean_curvature",
            NUMBER,
            "mean curvature in 1/m, above 0 where the surface bulges",
            {
                "point": curvature.mean_curvatures,
            },
        ),
        Builtin("gauss_curvature", NUMBER, "Gaussian curvature in 1/m²", {"point": curvature.gauss_curvatures}),
        Builtin(
            "piece_size",
            INTEGER,
            "how many elements of the kind the connected part has",
            {
                "point": pieces.point_component_sizes,
                "face": pieces.face_component_sizes,
            },
        ),
        Builtin(
            "thickness",
            NUMBER,
            "way through the material in m, -1 where there is no other side",
            {"point": thickness},
        ),
        Builtin(
            "planarity",
            NUMBER,
            "0 for a flat face; the more it is bent, the larger",
            {"face": measure.face_planarity},
        ),
        Builtin(
            "closed", FLAG, "whether the curve ends where it begins", {"curve": lambda geo: geo.topology.curve_closed}
        ),
        Builtin(
            "extent",
            NUMBER,
            "size of everything in m, however it is turned: twice the way from the middle to the farthest point",
            dict.fromkeys((*_LISTED, "whole"), _extent),
        ),
        Builtin("low", VEC3, "lowest corner of the box around everything", {"whole": lambda geo: geo.bounds[:1]}),
        Builtin("high", VEC3, "highest corner of the box around everything", {"whole": lambda geo: geo.bounds[1:]}),
    )
}

AROUND: dict[Kind, dict[str, Kind]] = {
    "point": {"faces": "face", "corners": "corner", "edges": "edge", "neighbours": "point"},
    "edge": {"points": "point", "faces": "face"},
    "corner": {"point": "point", "face": "face"},
    "face": {"points": "point", "corners": "corner", "edges": "edge", "neighbours": "face"},
    "curve": {"points": "point"},
    "instance": {},
    "whole": {},
}
"""What can be reached from an element: the word after ``here.`` and the kind it leads to."""
SINGLE = {("corner", "point"), ("corner", "face")}
"""Words that lead to exactly one element."""


def adjacent(geo: Geo, kind: Kind, around: str) -> tuple[Indices, Indices]:
    """Return the elements around each element of ``kind`` as starts ``(N+1,)`` and indices."""
    shape = geo.topology
    if around == "neighbours":
        if kind == "face":
            return shape.face_neighbours
        return shape.point_neighbours
    start, index = incident(geo, AROUND[kind][around], kind)
    return start.astype(np.int32, copy=False), index.astype(np.int32, copy=False)


@dataclass(frozen=True)
class Scope:
    """What a program can read: the geometry it runs on, the element kind, dials, inputs by name, and other nodes.

    An input that nothing is connected to is None. ``ties`` holds the parameter values of other nodes, by node;
    ``profiles`` the response curves and gradients among the controls.
    """

    geo: Geo
    kind: Kind
    dials: Mapping[str, Any] = field(default_factory=dict)
    inputs: Mapping[str, Geo | None] = field(default_factory=dict)
    ties: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    profiles: Mapping[str, Any] = field(default_factory=dict)

    def given(self, name: str) -> Any:
        """Return the value of a dial, control or tie (``node.parameter``)."""
        if name in self.dials:
            return self.dials[name]
        if name in TIMELINE:
            return (current().moment or TIMELINE)[name]
        node, _, parameter = name.partition(".")
        return self.ties[node][parameter]

    def owner(self, input: str) -> str:
        """Return the input's name, or nothing if it is the geometry that the program runs on."""
        return "" if self.inputs.get(input) is self.geo else input

    def of(self, owner: str) -> Scope:
        """Return the scope of an input's elements; ``owner`` as :meth:`owner` gives it."""
        if not owner:
            return self
        geo = self.inputs[owner]
        assert geo is not None
        return Scope(geo, "whole")

    def type_of(self, kind: Kind, name: str) -> Type | None:
        """Return the type of what ``name`` means on an element of ``kind``, or None."""
        if self.geo.has(kind, name):
            return type_of_attribute(self.geo.attributes[kind][name].type)
        builtin = BUILTINS.get(name)
        return builtin.type if builtin and kind in builtin.read else None

    def attribute_type_of(self, kind: Kind, name: str) -> AttributeType:
        """Return the attribute type of what ``name`` means; raise GeometryError if it means nothing."""
        builtin = BUILTINS.get(name)
        if self.geo.has(kind, name) or not builtin or kind not in builtin.read:
            return self.geo.find(kind, name).info
        return builtin.type

    def stable_label(self, kind: Kind, name: str) -> str:
        """Return the name of what says the same as a label by a number that stays: ``piece_name`` for ``piece``."""
        stable = f"{name}_name"
        return stable if self.type_of(kind, stable) is INTEGER else name

    def values(self, kind: Kind, name: str) -> AnyArray:
        """Return the values of a name that exists: ``(N, ...)``, or ``(1, ...)`` if they are all the same."""
        if self.geo.has(kind, name):
            return self.geo.attributes[kind][name].values
        return BUILTINS[name].read[kind](self.geo)

    def names(self, kind: Kind) -> list[str]:
        """Return every name that can be read on an element of ``kind``."""
        built_in = [name for name, entry in BUILTINS.items() if kind in entry.read]
        dials = list(self.dials) if kind == self.kind else []
        return sorted({*self.geo.attributes[kind], *built_in, *dials})

    def kinds_with(self, name: str) -> list[Kind]:
        """Return the kinds on which ``name`` can be read."""
        return [kind for kind in AROUND if self.type_of(kind, name)]
