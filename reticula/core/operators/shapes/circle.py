"""Circles, arcs and regular polygons as curves."""

from __future__ import annotations

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Integer, Number, Toggle
from reticula.core.operators.shared.plane_curves import FACING, curves_of, place_in_plane

__all__ = ["arc", "circle", "regular_polygon"]

RADIUS = Number("radius", 0.5, "distance of the points from the middle", unit="m", soft=(0, 5), low=0.0)


def _round(radius: float, angles: np.ndarray) -> np.ndarray:
    return radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)


@operator(
    "circle",
    family="shapes",
    inputs=(),
    keywords=("ring", "round", "ellipse", "curve"),
    carries="makes no attributes",
    example="""
        circle(radius=0.5, segments=64)
    """,
    related=("disc", "arc", "regular_polygon", "sweep"),
    parameters=(RADIUS, Integer("segments", 48, "points along it", soft=(3, 200), low=3, high=1_000_000), FACING),
)
def circle(*, radius: float, segments: int, facing: str) -> Geo:
    """Closed curve of equally spaced points on a circle around the origin."""
    return curves_of(
        place_in_plane(_round(radius, np.arange(segments) * (2 * np.pi / segments)), facing), [segments], True
    )


@operator(
    "arc",
    family="shapes",
    inputs=(),
    keywords=("arch", "bow", "part of a circle", "curve"),
    carries="makes no attributes",
    example="""
        bow = arc(begin=20, end=250, segments=32)
        sweep(bow, radius=0.04)
    """,
    related=("circle", "curve_through", "sweep"),
    parameters=(
        RADIUS,
        Number("begin", 0.0, "angle of the first point", unit="°", soft=(-180, 180), step=1),
        Number("end", 180.0, "angle of the last point", unit="°", soft=(-180, 360), step=1),
        Integer("segments", 24, "parts along it", soft=(1, 100), low=1, high=1_000_000),
        Toggle("to_middle", False, "close it through the middle, as a slice"),
        FACING,
    ),
)
def arc(*, radius: float, begin: float, end: float, segments: int, to_middle: bool, facing: str) -> Geo:
    """Part of a circle around the origin, from one angle to another."""
    places = _round(radius, np.radians(np.linspace(begin, end, segments + 1)))
    if to_middle:
        places = np.concatenate([places, [[0.0, 0.0]]])
    return curves_of(place_in_plane(places, facing), [len(places)], to_middle)


@operator(
    "regular_polygon",
    family="shapes",
    inputs=(),
    keywords=("triangle", "hexagon", "pentagon", "star", "ngon", "curve"),
    carries="makes no attributes",
    example="""
        star = regular_polygon(sides=6, star=0.6)
        plate = fill(star, what="curve")
        extrude(plate, distance=0.1, keep_base=True)
    """,
    related=("circle", "fill", "offset_curve"),
    parameters=(
        Integer("sides", 6, "number of sides", soft=(3, 12), low=3, high=1_000_000),
        RADIUS,
        Number(
            "star",
            1.0,
            "distance of points between the corners, as a share of the radius; 1 makes none",
            soft=(0.1, 1.0),
            low=0.0,
        ),
        FACING,
    ),
)
def regular_polygon(*, sides: int, radius: float, star: float, facing: str) -> Geo:
    """Closed curve with equal sides, or a star with as many tips."""
    count = sides if star == 1.0 else 2 * sides
    places = _round(radius, np.pi / 2 + np.arange(count) * (2 * np.pi / count))
    if star != 1.0:
        places[1::2] *= star
    return curves_of(place_in_plane(places, facing), [count], True)
