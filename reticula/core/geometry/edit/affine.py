"""Moves geometry by an affine map, with all that turns with it: normals, rotations, velocities and instances."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.rows import rows_at, unit

__all__ = ["affine_matrix", "apply_affine", "rotation_matrix"]

SPEED = "velocity"
"""The well-known attribute that turns and scales with the points, in m/s."""


def rotation_matrix(degrees: AnyArray | list[float]) -> Floats:
    """Return the rotation ``(3, 3)`` about x, then y, then z."""
    x, y, z = np.radians(degrees)
    about_x = np.array([[1, 0, 0], [0, np.cos(x), -np.sin(x)], [0, np.sin(x), np.cos(x)]])
    about_y = np.array([[np.cos(y), 0, np.sin(y)], [0, 1, 0], [-np.sin(y), 0, np.cos(y)]])
    about_z = np.array([[np.cos(z), -np.sin(z), 0], [np.sin(z), np.cos(z), 0], [0, 0, 1]])
    return about_z @ about_y @ about_x


def affine_matrix(
    move: list[float], turn: list[float], scale: list[float], around: list[float] | None = None
) -> Floats:
    """Return the matrix ``(4, 4)`` that scales, turns (degrees) and moves (m), in this order, about a place."""
    pivot = np.zeros(3) if around is None else np.array(around)
    matrix = np.eye(4)
    matrix[:3, :3] = rotation_matrix(turn) @ np.diag(scale)
    matrix[:3, 3] = pivot + np.array(move) - matrix[:3, :3] @ pivot
    return matrix


def apply_affine(geo: Geo, matrix: Floats, where: Flags | None = None) -> Geo:
    """Return the geometry with its points (those in ``where (P,)``) moved by ``matrix (4, 4)``, which can be inverted.

    Stored normals turn with the surface (those of faces whose points all move), rotations and velocities with the
    points, instances move along if all points do. Faces of a mesh that is mirrored as a whole are turned over, so that
    they still face outwards.
    """
    linear, offset = matrix[:3, :3], matrix[:3, 3]
    every = where is None or bool(where.all())
    mask = np.ones(geo.topology.point_count, bool) if where is None else where
    places = geo.positions @ linear.T + offset
    made = geo.with_positions(places if every else np.where(mask[:, None], places, geo.positions))
    kinds: tuple[Kind, ...] = ("point", "corner", "face")
    for kind in kinds:
        if made.has(kind, "normal") and made.find(kind, "normal").type == "vec3":
            turned = unit(made.attribute(kind, "normal") @ np.linalg.inv(linear))
            made = _replace(made, kind, "normal", turned, _all_moved(geo.topology, kind, mask))
    if made.has("point", SPEED) and made.find("point", SPEED).type == "vec3":
        made = _replace(made, "point", SPEED, made.attribute("point", SPEED) @ linear.T, mask)
    if made.has("point", "rotation") and made.find("point", "rotation").type == "vec4":
        rotated = _quaternion_product(_quaternion(linear), made.attribute("point", "rotation"))
        made = _replace(made, "point", "rotation", rotated, mask)
    if made.topology.instance_count and every:
        made = made.with_attribute("instance", "transform", matrix @ made.attribute("instance", "transform"), "mat4")
    if np.linalg.det(linear) < 0 and every and geo.topology.face_count:
        made = flipped(made, with_normals=False)
    return made


def _all_moved(shape: Topology, kind: Kind, points: Flags) -> Flags:
    """Which points, corners or faces have marked ``points (P,)`` only."""
    if kind == "point":
        return points
    corners = rows_at(points, shape.corner_point)
    if kind == "corner":
        return corners
    faces = np.ones(shape.face_count, bool)
    np.logical_and.at(faces, shape.corner_face, corners)
    return faces


def _quaternion(linear: Floats) -> Floats:
    """The turn in a linear map as x, y, z, w: the rotation nearest to it."""
    from scipy.spatial.transform import Rotation

    u, _, v = np.linalg.svd(linear)
    turn = u @ np.diag([1.0, 1.0, np.sign(np.linalg.det(u @ v))]) @ v
    return np.asarray(Rotation.from_matrix(turn).as_quat())


def _quaternion_product(a: Floats, b: Floats) -> Floats:
    """Product of one quaternion with many ``(N, 4)``, both x, y, z, w."""
    vector = a[3] * b[:, :3] + b[:, 3:] * a[:3] + np.cross(a[:3], b[:, :3])
    return np.concatenate([vector, (a[3] * b[:, 3] - b[:, :3] @ a[:3])[:, None]], axis=1)


def _replace(geo: Geo, kind: Kind, name: str, values: AnyArray, where: Flags) -> Geo:
    old = geo.find(kind, name)
    mixed = np.where(where[:, None], values, old.values)
    return geo.with_attribute(kind, name, Attribute(old.type, as_readonly(mixed), None, old.default))
