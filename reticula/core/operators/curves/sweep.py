"""Sweep: a profile along curves."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import Flags, Floats, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Attribute, Geo, carry, edges_along, kept
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.planar.boundary_loops import loop_normals
from reticula.core.geometry.planar.region_fill import project_to_plane
from reticula.core.geometry.remesh.sweep import Tubes, sweep_profile
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import (
    GroupName,
    Handle,
    Integer,
    PerElement,
    Selection,
    Toggle,
    Vector,
)
from reticula.core.operators.shared.profiles.response_curve import Response, ResponseCurve

__all__ = ["add_tubes", "sweep"]


@operator(
    "sweep",
    family="curves",
    inputs=(
        Input("geo", "curves to follow"),
        Input("profile", "a curve to move along; nothing makes a circle", many=True, own_space=True),
    ),
    keywords=("tube", "pipe", "loft", "extrude along", "rope", "profile", "rail"),
    brings={"points in one place": None},
    sections={
        "profile": ("taper", "twist", "up"),
        "ends": ("caps", "keep_curves"),
        "names of groups": ("side_group", "cap_group"),
    },
    carries=(
        "Carries all. Points of tubes copy the curve point they stand around; faces receive the "
        "attributes of their curve. Makes "
        "the corner attribute uv: once around, and metres along."
    ),
    example="""
        way = curve_through(
            places=[[-0.6, 0, 0], [-0.2, 0.35, 0.25], [0.2, 0, -0.25], [0.6, 0.35, 0]],
            between="smooth",
            segments=24,
        )
        sweep(way, radius=0.07, taper=[[0, 0.4], [0.5, 1], [1, 0.4]], sides=20)
    """,
    related=("struts", "frames", "extrude"),
    parameters=(
        Selection.each("curve", "curves to follow; empty means all"),
        PerElement(
            "radius",
            {"formula": "0.03 * extent"},
            "of a circle, or factor for a profile, at each point",
            unit="m",
            on="point",
            soft=(0.0, 0.5),
            low=0.0,
        ),
        ResponseCurve(
            "taper", [[0.0, 1.0], [1.0, 1.0]], "factor for the radius from the beginning to the end of each curve"
        ),
        Integer("sides", 12, "faces around a circle", soft=(3, 48), low=3, high=10_000),
        PerElement("twist", 0.0, "turns the profile about the curve", unit="°", on="point", soft=(-180, 180), step=1),
        Vector(
            "up",
            [0.0, 1.0, 0.0],
            "where the profile's x axis points at first, as far as it can",
            soft=(-1, 1),
            handle=Handle("direction"),
        ),
        Toggle("caps", True, "close the ends of open curves with a face"),
        Toggle("keep_curves", False, "keep the curves"),
        GroupName("side_group", "side", "face group that receives the sides", kind="face"),
        GroupName("cap_group", "cap", "face group that receives the ends", kind="face"),
    ),
)
def sweep(
    geo: Geo,
    profile: Sequence[Geo],
    *,
    where: Flags,
    radius: Floats,
    taper: Response,
    sides: int,
    twist: Floats,
    up: list[float],
    caps: bool,
    keep_curves: bool,
    side_group: str,
    cap_group: str,
) -> Geo:
    """Move a circle or a profile along curves.

    Frames do not twist (Wang et al. 2008). At bends the profile is stretched across the bend so that the tube keeps its
    thickness, up to four times. A profile lies flat in its own plane; its middle follows the curve.
    """
    shape = geo.topology
    if not where.any():
        warn("There is no curve to follow.")
    outline, ring = _profile(profile, sides)
    chosen = np.flatnonzero(where)
    picked = subset(geo, np.zeros(shape.face_count, bool), where, shape.used_points, loose=False)
    source = picked.sources["point"].index
    along = picked.topology
    fraction = _fractions(picked)
    tubes = sweep_profile(
        picked.positions,
        along.curve_start,
        along.curve_point,
        along.curve_closed,
        outline,
        ring,
        radius[source][along.curve_point] * taper(fraction),
        np.radians(twist[source][along.curve_point]),
        np.array(up),
        caps,
    )
    base = geo if keep_curves else subset(geo, curves=~where)
    point_source = np.repeat(source[along.curve_point], len(outline))
    made = add_tubes(geo, base, tubes, point_source, chosen[tubes.curve], side_group, cap_group)
    note(f"{len(chosen):,} tubes of {len(tubes.sizes):,} faces.")
    return made


def _profile(profile: Sequence[Geo], sides: int) -> tuple[Floats, bool]:
    """Places ``(S, 2)`` of the profile around its middle, counter-clockwise, and whether it is closed."""
    if not profile:
        angle = np.arange(sides) * (2 * np.pi / sides)
        return np.stack([np.cos(angle), np.sin(angle)], axis=1), True
    geo = profile[0]
    shape = geo.topology
    if not shape.curve_count:
        raise GeometryError("the profile has no curve; give a curve such as a circle or rectangle")
    if len(profile) > 1 or shape.curve_count > 1:
        warn("Only the first curve of the profile is used.")
    point = shape.curve_point[: shape.curve_start[1]]
    places = geo.positions[point] - geo.positions[point].mean(axis=0)
    normal = loop_normals(places, np.array([0, len(point)], np.int32), np.arange(len(point), dtype=np.int32))[0]
    if np.linalg.norm(normal) < 1e-12 * np.ptp(places, axis=0).max(initial=0.0) ** 2:
        normal = np.eye(3)[int(np.ptp(places, axis=0).argmin())]
    axis = int(np.abs(normal).argmax())
    normal = normal * np.sign(normal[axis])
    if axis == 1:
        flat = np.stack([places[:, 0], -places[:, 2]], axis=1)
    else:
        flat, _ = project_to_plane(places, normal)
        if axis == 2:
            flat = places[:, :2]
    closed = bool(shape.curve_closed[0])
    turn = np.sum(flat[:, 0] * np.roll(flat[:, 1], -1) - flat[:, 1] * np.roll(flat[:, 0], -1))
    return np.ascontiguousarray(flat[::-1] if closed and turn < 0 else flat), closed


def _fractions(geo: Geo) -> Floats:
    """How far along its curve each curve point lies ``(Q,)``, 0 to 1."""
    shape = geo.topology
    if not len(shape.curve_point):
        return np.zeros(0)
    place = geo.positions[shape.curve_point]
    step = np.zeros(len(place))
    step[1:] = np.linalg.norm(np.diff(place, axis=0), axis=1)
    step[shape.curve_start[:-1]] = 0.0
    far = np.cumsum(step)
    owner = np.repeat(np.arange(shape.curve_count), np.diff(shape.curve_start))
    far -= far[shape.curve_start[:-1]][owner]
    closing = np.where(
        shape.curve_closed,
        np.linalg.norm(place[shape.curve_start[:-1]] - place[shape.curve_start[1:] - 1], axis=1),
        0.0,
    )
    total = far[shape.curve_start[1:] - 1] + closing
    return far / np.maximum(total[owner], 1e-300)


def add_tubes(
    geo: Geo,
    base: Geo,
    tubes: Tubes,
    point_source: np.ndarray,
    curve_source: np.ndarray,
    side_group: str,
    cap_group: str,
) -> Geo:
    """Return ``base`` with tubes added; their values come from points ``(T,)`` and curves ``(F,)`` of ``geo``."""
    shape = base.topology
    own = base.sources["point"].index if "point" in base.sources else np.arange(shape.point_count)
    topology = shape.with_faces(
        shape.point_count + len(tubes.positions),
        np.concatenate([shape.face_start, shape.face_start[-1] + np.cumsum(tubes.sizes)]),
        np.concatenate([shape.corner_point, shape.point_count + tubes.point]),
    )
    fresh, corners = len(tubes.sizes), len(tubes.point)
    made = carry(
        base,
        topology,
        {
            "point": kept(np.concatenate([np.arange(shape.point_count), np.full(len(tubes.positions), -1)])),
            "face": kept(np.concatenate([np.arange(shape.face_count), np.full(fresh, -1)])),
            "corner": kept(np.concatenate([np.arange(shape.corner_count), np.full(corners, -1)])),
            "edge": edges_along(topology, lambda: np.concatenate([shape.corner_edge, np.full(corners, -1)])),
        },
        positions=np.concatenate([base.positions, tubes.positions]),
    )
    every = np.concatenate([own, point_source])
    for name, found in geo.attributes["point"].items():
        if name != "position":
            made = made.with_attribute("point", name, found.take(every))
    for name, found in geo.attributes["curve"].items():
        index = np.concatenate([np.full(shape.face_count, -1), curve_source])
        old = made.attributes["face"].get(name)
        if old is not None and old.type == found.type and old.start is None:
            values = np.concatenate([old.values[: shape.face_count], found.take(curve_source).values])
            made = made.with_attribute("face", name, Attribute(old.type, as_readonly(values), None, old.default))
        elif old is None:
            made = made.with_attribute("face", name, found.take(index))
    uv = (
        np.concatenate([made.attribute("corner", "uv")[: shape.corner_count], tubes.uv])
        if made.has("corner", "uv")
        else np.concatenate([np.zeros((shape.corner_count, 2)), tubes.uv])
    )
    made = made.with_attribute("corner", "uv", uv)
    for name, mask in ((side_group, ~tubes.cap), (cap_group, tubes.cap)):
        before = (
            made.group("face", name)[: shape.face_count]
            if made.has("face", name) and made.find("face", name).type == "flag"
            else np.zeros(shape.face_count, bool)
        )
        made = made.with_attribute("face", name, np.concatenate([before, mask]))
    return made
