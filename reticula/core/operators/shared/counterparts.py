"""Ways to find, for each element of one geometry, its counterpart on another one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.diagnostics import warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Attribute, Geo, Kind, SourceMap, Topology
from reticula.core.geometry.mesh.incidence import incident
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.geometry.mesh.source_maps import Weights
from reticula.core.operators.shared.group_marking import centers_of
from reticula.core.spatial.points import NearestPoints
from reticula.core.spatial.sampling import NOTHING, sample_closest, sample_points

__all__ = ["METHODS", "Lookup", "look_up"]

METHODS = {
    "surface": "closest place on the surface, values interpolated",
    "corner": "closest place, the value of its nearest corner",
    "point": "nearest point or element",
    "uv": "same place in uv",
    "index": "same number",
}


@dataclass(frozen=True, eq=False)
class Lookup:
    """What was found for some elements: ``found (N,)``, ``distance (N,)`` (in m if ``measured``), and values on
    demand.
    """

    found: Flags
    distance: Floats
    measured: bool
    attribute: Callable[[Kind, str], Attribute]


def look_up(geo: Geo, source: Geo, kind: Kind, chosen: AnyArray, by: str, reach: float) -> Lookup:
    """Find the counterparts of the elements ``chosen (N,)`` of a kind, up to ``reach`` m away."""
    if by == "index":
        return _by_index(geo, source, kind, chosen)
    if by == "uv":
        return _by_uv(geo, source, kind, chosen)
    places = centers_of(geo, kind)[chosen]
    if not source.topology.point_count:
        found = np.zeros(len(chosen), bool)
        nothing = np.full(len(chosen), -1)
        return Lookup(found, np.full(len(chosen), NOTHING), True, lambda on, name: source.find(on, name).take(nothing))
    sample = sample_points(source, places, reach) if by == "point" else sample_closest(source, places, reach)

    def attribute(on: Kind, name: str) -> Attribute:
        if on == "whole":
            return source.find(on, name).take(np.zeros(len(chosen), np.int64))
        if on in sample.maps:
            return sample.attribute(on, name, corner=by == "corner")
        if not source.topology.count(on):
            return source.find(on, name).take(np.full(len(chosen), -1))
        index, _ = NearestPoints(centers_of(source, on), source).nearest(places, reach)
        return source.find(on, name).take(index)

    return Lookup(sample.found, sample.distance, True, attribute)


def _by_index(geo: Geo, source: Geo, kind: Kind, chosen: AnyArray) -> Lookup:
    told: set[Kind] = set()
    count = geo.topology.count(kind)

    def attribute(on: Kind, name: str) -> Attribute:
        there = source.topology.count(on)
        if on == "whole":
            return source.find(on, name).take(np.zeros(len(chosen), np.int64))
        if on not in told:
            told.add(on)
            if there != count:
                warn(
                    f"The counts differ: {count:,} {PLURAL[kind]} here and {there:,} {PLURAL[on]} on the source, "
                    "so equal numbers may not mean equal elements."
                )
            elif on == kind and _order_differs(geo, source):
                warn("The faces join other points than on the source, so equal numbers may not mean equal elements.")
        return source.find(on, name).take(np.where(chosen < there, chosen, -1))

    found = np.ones(len(chosen), bool)
    if source.topology.count(kind) < count:
        found = chosen < source.topology.count(kind)
    return Lookup(found, np.zeros(len(chosen)), False, attribute)


def _order_differs(geo: Geo, source: Geo) -> bool:
    a, b = geo.topology, source.topology
    return a is not b and not (
        np.array_equal(a.corner_point, b.corner_point) and np.array_equal(a.face_start, b.face_start)
    )


def _by_uv(geo: Geo, source: Geo, kind: Kind, chosen: AnyArray) -> Lookup:
    flat = _uv_sheet(source, "source")
    if not flat.topology.face_count:
        raise GeometryError("the source has no faces, so it has no places in uv; transfer by the nearest place instead")
    start, index = incident(geo, "corner", kind)
    own = _uv_of(geo, "receiver")
    rows = Weights.means(start, index).apply(own)[chosen]
    if kind == "point":
        first = np.zeros(geo.topology.point_count, np.int64)
        used = np.diff(start) > 0
        first[used] = index[start[:-1][used]]
        rows = own[first][chosen] if len(own) else rows
    sample = sample_closest(flat, np.concatenate([rows, np.zeros((len(rows), 1))], axis=1))
    corner_point = source.topology.corner_point

    def attribute(on: Kind, name: str) -> Attribute:
        if on == "whole":
            return source.find(on, name).take(np.zeros(len(chosen), np.int64))
        if on not in ("point", "corner", "face"):
            raise GeometryError(f"through uv only points, corners and faces can be read, not {PLURAL[on]}")
        corners = sample.maps["point"]
        entry = {"corner": corners, "face": sample.maps["face"], "point": _through(corners, corner_point)}[on]
        return entry.attribute(name, source.find(on, name))

    outside = int((sample.distance > 1e-6).sum())
    if outside:
        warn(f"{outside:,} {PLURAL[kind]} lie outside of the source's uv; they take the nearest place in uv.")
    return Lookup(sample.found, np.zeros(len(chosen)), False, attribute)


def _through(corners: SourceMap, corner_point: AnyArray) -> SourceMap:
    weights = corners.weights
    assert isinstance(weights, Weights)
    return SourceMap(corner_point[corners.index], Weights(weights.start, corner_point[weights.column], weights.value))


def _uv_of(geo: Geo, what: str) -> Floats:
    kind: Kind
    for kind in ("corner", "point"):
        if geo.has(kind, "uv") and geo.find(kind, "uv").type in ("vec2", "vec3"):
            values = geo.attribute(kind, "uv")[:, :2]
            return np.ascontiguousarray(values if kind == "corner" else values[geo.topology.corner_point])
    raise GeometryError(f"the {what} has no uv (vec2 on corners or points); make it, or transfer by the nearest place")


def _uv_sheet(source: Geo, what: str) -> Geo:
    """The source laid out in its uv: one point per corner."""
    uv = _uv_of(source, what)
    shape = source.topology
    flat = Topology(shape.corner_count, shape.face_start, np.arange(shape.corner_count))
    return Geo.of(np.concatenate([uv, np.zeros((len(uv), 1))], axis=1), flat)
