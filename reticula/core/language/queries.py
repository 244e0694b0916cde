"""Questions that a formula can put to a geometry by its name: what they take, what they give, and the answers."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.spatial.points import points_of
from reticula.core.spatial.sampling import sample_closest, sample_points, sample_ray
from reticula.core.spatial.winding import winding_numbers

__all__ = ["ASKED", "METHODS", "QUERY_FIELDS", "Method", "ask"]

ASKED: Mapping[str, Kind] = {
    "points": "point",
    "edges": "edge",
    "corners": "corner",
    "faces": "face",
    "curves": "curve",
    "instances": "instance",
}
"""All elements of a kind of an input, e.g. ``mean(source.points.cover)``."""


@dataclass(frozen=True)
class Method:
    """One question: how it is written, the types it takes (the first ``least`` are needed) and the type it gives."""

    usage: str
    summary: str
    wanted: tuple[str, ...]
    least: int
    type: str


METHODS: Mapping[str, Method] = {
    "closest": Method("closest(p, reach)", "closest place on the surface", ("vec3", "number"), 1, "place"),
    "nearest": Method("nearest(p, reach)", "nearest point", ("vec3", "number"), 1, "place"),
    "ray": Method(
        "ray(origin, direction, reach)", "first place that a ray hits", ("vec3", "vec3", "number"), 2, "place"
    ),
    "near": Method(
        "near(p, radius, most)", "points within a radius, nearest first", ("vec3", "number", "integer"), 2, "integer"
    ),
    "inside": Method("inside(p)", "whether a place is inside, also of a mesh with holes", ("vec3",), 1, "flag"),
    "winding": Method("winding(p)", "winding number: 1 inside, 0 outside", ("vec3",), 1, "number"),
}
_PLACE = {"position": "vec3", "normal": "vec3", "distance": "number", "found": "flag"}
QUERY_FIELDS: Mapping[str, Mapping[str, str]] = {
    "closest": {**_PLACE, "face": "integer"},
    "ray": {**_PLACE, "face": "integer"},
    "nearest": {**_PLACE, "index": "integer"},
    "near": {},
}
"""What can be read of a place besides attributes. Where nothing is found, the distance is -1 and vectors are 0."""


def ask(how: str, geo: Geo, arguments: Sequence[AnyArray]) -> Any:
    """Return the answer to a question: a Sample, starts and point numbers, or values; all with one row per query."""
    rows = max(len(argument) for argument in arguments)
    spread = [np.broadcast_to(argument, (rows, *argument.shape[1:])) for argument in arguments]
    match how:
        case "closest":
            return _within(sample_closest(geo, spread[0], _largest(spread, 1)), spread, 1)
        case "nearest":
            return _within(sample_points(geo, spread[0], _largest(spread, 1)), spread, 1)
        case "ray":
            return _within(sample_ray(geo, spread[0], spread[1], _largest(spread, 2)), spread, 2)
        case "near":
            start, item, _ = points_of(geo).near(spread[0], spread[1], spread[2] if len(spread) > 2 else None)
            return start, item
        case "inside":
            return winding_numbers(geo, _rows(spread[0])) > 0.5
        case "winding":
            return winding_numbers(geo, _rows(spread[0]))
    raise AssertionError(how)


def _rows(values: AnyArray) -> Floats:
    return np.ascontiguousarray(values, np.float64)


def _largest(spread: Sequence[AnyArray], at: int) -> float:
    return float(spread[at].max(initial=0.0)) if len(spread) > at else math.inf


def _within(sample: Any, spread: Sequence[AnyArray], at: int) -> Any:
    """Take back what lies beyond a reach that differs from query to query."""
    if len(spread) <= at or not (sample.distance > spread[at]).any():
        return sample
    return sample.only(sample.distance <= spread[at])
