"""Offset curve: a curve beside a curve."""

from __future__ import annotations

import numpy as np
import scipy
import shapely

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, carry, kept
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.planar.boundary_loops import loop_normals
from reticula.core.geometry.planar.region_fill import project_to_plane
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, Integer, Number, Selection, Toggle

__all__ = ["offset_curve"]


@operator(
    "offset_curve",
    family="curves",
    keywords=("parallel", "outline", "inset", "grow", "shrink", "contour", "margin"),
    carries="Carries all; new points copy the nearest point of their curve, new curves copy theirs.",
    example="""
        star = regular_polygon(sides=6, radius=0.5, star=0.6)
        outside = offset_curve(star, distance=0.08, corners="round")
        sweep(outside, radius=0.012)
    """,
    related=("round_borders", "resample", "fill"),
    parameters=(
        Selection.each("curve", "curves to follow; empty means all"),
        Number(
            "distance",
            {"formula": "0.05 * extent"},
            "how far; outwards or to the left, negative goes the other way",
            unit="m",
            soft=(-0.5, 0.5),
        ),
        Choice(
            "corners",
            "sharp",
            "how outer corners are made",
            options={"sharp": "sharp, up to four times the distance", "round": "round", "cut": "cut off"},
        ),
        Integer(
            "steps",
            8,
            "points along a round corner, per quarter",
            soft=(1, 16),
            low=1,
            high=200,
            shown_when=("corners", "round"),
        ),
        Toggle("keep_curves", True, "keep the curves that are followed"),
        GroupName("offset_group", "offset", "curve group that receives the new curves", kind="curve"),
    ),
)
def offset_curve(
    geo: Geo, *, where: Flags, distance: float, corners: str, steps: int, keep_curves: bool, offset_group: str
) -> Geo:
    """Make curves at a distance from curves, in their plane.

    Where a curve would cross itself the loops are taken out (GEOS buffers), so that one curve may become several or
    none. Closed curves grow outwards whichever way they run.
    """
    shape = geo.topology
    style = {"sharp": "mitre", "round": "round", "cut": "bevel"}[corners]
    places: list[Floats] = []
    closed: list[bool] = []
    sources: list[int] = []
    points: list[AnyArray] = []
    vanished = 0
    for k in np.flatnonzero(where):
        ring = shape.curve_point[shape.curve_start[k] : shape.curve_start[k + 1]]
        own = geo.positions[ring]
        normal = _plane(own)
        center = own.mean(axis=0)
        flat, axes = project_to_plane(own - center, normal)
        up = np.cross(axes[0], axes[1])
        start = center + float(((own - center) @ up).mean()) * up
        parts = _parts(flat, bool(shape.curve_closed[k]), distance, style, steps)
        vanished += not parts
        nearest = scipy.spatial.cKDTree(own - center)
        for part in parts:
            places.append(start + part @ axes)
            closed.append(bool(shape.curve_closed[k]))
            sources.append(int(k))
            points.append(ring[nearest.query(places[-1] - center)[1]])
    if vanished:
        warn(f"{vanished:,} curves are too narrow for this distance, and nothing is left of them.")
    base = geo if keep_curves else subset(geo, curves=~where)
    own_points = base.sources["point"].index if not keep_curves else np.arange(shape.point_count)
    own_curves = base.sources["curve"].index if not keep_curves else np.arange(shape.curve_count)
    if not places:
        return base.with_attribute("curve", offset_group, np.zeros(base.topology.curve_count, bool))
    old, sizes = base.topology, np.array([len(place) for place in places])
    topology = old.with_curves(
        old.point_count + int(sizes.sum()),
        np.concatenate([old.curve_start, old.curve_start[-1] + np.cumsum(sizes)]),
        np.concatenate([old.curve_point, old.point_count + np.arange(sizes.sum())]),
        np.concatenate([old.curve_closed, closed]),
    )
    topology = topology.with_faces(topology.point_count, old.face_start, old.corner_point)
    made = carry(
        base,
        topology,
        {
            "point": kept(np.concatenate([np.arange(old.point_count), np.full(int(sizes.sum()), -1)])),
            "curve": kept(np.concatenate([np.arange(old.curve_count), np.full(len(sizes), -1)])),
        },
        positions=np.concatenate([base.positions, *places]),
    )
    for name, found in geo.attributes["point"].items():
        if name != "position":
            made = made.with_attribute("point", name, found.take(np.concatenate([own_points, *points])))
    for name, found in geo.attributes["curve"].items():
        made = made.with_attribute("curve", name, found.take(np.concatenate([own_curves, sources])))
    note(f"{len(places):,} curves.")
    return made.with_attribute("curve", offset_group, np.arange(topology.curve_count) >= old.curve_count)


def _plane(places: Floats) -> Floats:
    normal = loop_normals(places, np.array([0, len(places)], np.int32), np.arange(len(places), dtype=np.int32))[0]
    size = float(np.ptp(places, axis=0).max(initial=0.0))
    if np.linalg.norm(normal) <= 1e-12 * size * size:
        way = places[-1] - places[0]
        normal = np.cross(way, np.eye(3)[int(np.abs(way).argmin())])
    if not normal.any():
        return np.array([0.0, 1.0, 0.0])
    return normal * np.sign(normal[int(np.abs(normal).argmax())])


def _parts(flat: Floats, closed: bool, distance: float, style: str, steps: int) -> list[Floats]:
    if closed and len(flat) >= 3:
        made = shapely.make_valid(shapely.Polygon(flat)).buffer(
            distance, quad_segs=steps, join_style=style, mitre_limit=4.0
        )
        rings = [
            shapely.get_coordinates(ring)[:-1]
            for part in shapely.get_parts(made)
            for ring in (part.exterior, *part.interiors)
        ]
        turn = np.sum(flat[:, 0] * np.roll(flat[:, 1], -1) - flat[:, 1] * np.roll(flat[:, 0], -1))
        return [_running(ring, bool(turn >= 0)) for ring in rings if len(ring) >= 3]
    if distance == 0.0:
        return [flat]
    line = shapely.LineString(flat)
    made = shapely.offset_curve(line, distance, quad_segs=steps, join_style=style, mitre_limit=4.0)
    return [
        shapely.get_coordinates(part) for part in shapely.get_parts(made) if len(shapely.get_coordinates(part)) >= 2
    ]


def _running(ring: Floats, counter_clockwise: bool) -> Floats:
    turn = np.sum(ring[:, 0] * np.roll(ring[:, 1], -1) - ring[:, 1] * np.roll(ring[:, 0], -1))
    return ring if (turn >= 0) == counter_clockwise else ring[::-1]
