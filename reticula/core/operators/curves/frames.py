"""Frames: directions along curves."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.curve_frames import curve_frames
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Handle, PerElement, Vector

__all__ = ["frames"]


@operator(
    "frames",
    family="curves",
    keywords=("tangent", "normal", "orient", "direction", "twist", "parallel transport"),
    carries="Carries all; adds or replaces the point attributes tangent, normal, binormal and rotation.",
    example="""
        way = curve_through(
            places=[[-0.6, 0, 0], [-0.2, 0.4, 0.3], [0.2, 0, -0.3], [0.6, 0.4, 0]],
            between="smooth",
            segments=16,
        )
        framed = frames(way, twist=180)
        plate = box(size=[0.16, 0.16, 0.02])
        placed = place_instances(framed, plate, normal="tangent", up="normal")
        flatten_instances(placed)
    """,
    related=("sweep", "resample", "place_instances"),
    parameters=(
        Vector(
            "up",
            [0.0, 1.0, 0.0],
            "where the first normal points, as far as it can",
            soft=(-1, 1),
            handle=Handle("direction"),
        ),
        PerElement("twist", 0.0, "turns the frame about the tangent", unit="°", on="point", soft=(-180, 180), step=1),
        AttributeName(
            "prefix", "", "put in front of the names tangent, normal, binormal and rotation", new=True, optional=True
        ),
    ),
)
def frames(geo: Geo, *, up: list[float], twist: Floats, prefix: str) -> Geo:
    """Give the points of curves a tangent, a normal and a binormal that do not twist along the way.

    Double reflection (Wang, Jüttler, Zheng & Liu, ACM TOG 27(1), 2008). ``rotation`` is the quaternion (x, y, z, w)
    that turns x to the normal, y to the binormal and z to the tangent. Points on no curve get zeros and no rotation.
    """
    from scipy.spatial.transform import Rotation

    shape = geo.topology
    tangent, normal, _ = curve_frames(
        geo.positions, shape.curve_start, shape.curve_point, shape.curve_closed, np.array(up)
    )
    angle = np.radians(twist[shape.curve_point])[:, None]
    side = np.cross(tangent, normal)
    normal = np.cos(angle) * normal + np.sin(angle) * side
    if len(np.unique(shape.curve_point)) < len(shape.curve_point):
        warn("Some points belong to several curves; they have the frame of the last one.")
    made = [np.zeros((shape.point_count, 3)) for _ in range(3)]
    rotation = np.tile([0.0, 0.0, 0.0, 1.0], (shape.point_count, 1))
    binormal = np.cross(tangent, normal)
    for values, found in zip(made, (tangent, normal, binormal), strict=True):
        values[shape.curve_point] = found
    if len(tangent):
        rotation[shape.curve_point] = Rotation.from_matrix(np.stack([normal, binormal, tangent], axis=2)).as_quat()
    for name, values in zip(("tangent", "normal", "binormal", "rotation"), [*made, rotation], strict=True):
        geo = geo.with_attribute("point", prefix + name, values)
    return geo
