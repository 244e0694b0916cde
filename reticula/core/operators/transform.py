"""Move, turn and scale."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, frozen
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo
from reticula.core.geometry.kinds import Kind
from reticula.core.geometry.measure import unit
from reticula.core.geometry.reversing import turned_over
from reticula.core.notes import note
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import Vector, Where

__all__ = ["transform"]

SPEED = "velocity"
"""The well-known attribute that turns and scales with the points, in m/s."""


def _turn_matrix(degrees: list[float]) -> Floats:
    x, y, z = np.radians(degrees)
    about_x = np.array([[1, 0, 0], [0, np.cos(x), -np.sin(x)], [0, np.sin(x), np.cos(x)]])
    about_y = np.array([[np.cos(y), 0, np.sin(y)], [0, 1, 0], [-np.sin(y), 0, np.cos(y)]])
    about_z = np.array([[np.cos(z), -np.sin(z), 0], [np.sin(z), np.cos(z), 0], [0, 0, 1]])
    return about_z @ about_y @ about_x


def _quaternion(turn: Floats) -> Floats:
    from scipy.spatial.transform import Rotation

    return np.asarray(Rotation.from_matrix(turn).as_quat())


def _quaternion_product(a: Floats, b: Floats) -> Floats:
    """Product of one quaternion with many ``(N, 4)``, both x, y, z, w."""
    vector = a[3] * b[:, :3] + b[:, 3:] * a[:3] + np.cross(a[:3], b[:, :3])
    return np.concatenate([vector, (a[3] * b[:, 3] - b[:, :3] @ a[:3])[:, None]], axis=1)


def _replace(geo: Geo, kind: Kind, name: str, moved: AnyArray, where: Flags) -> Geo:
    old = geo.find(kind, name)
    values = np.where(where[:, None], moved, old.values)
    return geo.with_attribute(kind, name, Attribute(old.type, frozen(values), None, old.default))


@operator(
    "transform",
    family="shape",
    keywords=("move", "translate", "rotate", "turn", "scale", "size", "place"),
    carries=(
        "Carries all. Stored normals turn with the surface, rotations and velocities with the points; "
        "a mirrored mesh has its faces turned over so that they still face outwards."
    ),
    parameters=(
        Where.each("point", "points to move; empty means all"),
        Vector("move", [0.0, 0.0, 0.0], "added last", unit="m", soft=(-2, 2)),
        Vector("turn", [0.0, 0.0, 0.0], "angles about x, then y, then z", unit="°", soft=(-180, 180), step=1),
        Vector("scale", [1.0, 1.0, 1.0], "factors along x, y and z, applied first", soft=(0, 3)),
        Vector("around", [0.0, 0.0, 0.0], "place that stays while turning and scaling", unit="m", soft=(-2, 2)),
    ),
)
def transform(
    geo: Geo, *, where: Flags, move: list[float], turn: list[float], scale: list[float], around: list[float]
) -> Geo:
    """Scale, turn and move points, in this order."""
    if 0.0 in scale:
        raise ParameterError("scale", "a factor of 0 would flatten the shape and lose its normals; use e.g. 0.001")
    rotation = _turn_matrix(turn)
    linear = rotation @ np.diag(scale)
    pivot = np.array(around)
    moved = (geo.positions - pivot) @ linear.T + pivot + np.array(move)
    made = geo.with_positions(np.where(where[:, None], moved, geo.positions))
    for kind, mask in (("point", where), ("corner", where[geo.topology.corner_point])):
        if made.has(kind, "normal") and made.find(kind, "normal").type == "vec3":  # type: ignore[arg-type]
            turned = unit(made.attribute(kind, "normal") @ np.linalg.inv(linear))  # type: ignore[arg-type]
            made = _replace(made, kind, "normal", turned, mask)  # type: ignore[arg-type]
    if made.has("point", SPEED) and made.find("point", SPEED).type == "vec3":
        made = _replace(made, "point", SPEED, made.attribute("point", SPEED) @ linear.T, where)
    if made.has("point", "rotation") and made.find("point", "rotation").type == "vec4":
        turned = _quaternion_product(_quaternion(rotation), made.attribute("point", "rotation"))
        made = _replace(made, "point", "rotation", turned, where)
    if made.topology.instance_count and where.all():
        matrix = np.eye(4)
        matrix[:3, :3], matrix[:3, 3] = linear, pivot + np.array(move) - linear @ pivot
        made = made.with_attribute("instance", "transform", matrix @ made.attribute("instance", "transform"), "mat4")
    if np.linalg.det(linear) < 0 and where.all() and geo.topology.face_count:
        note("The shape is mirrored; its faces were turned over so that they face outwards.")
        made = turned_over(made, with_normals=False)
    return made
