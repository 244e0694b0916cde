"""Instances: placed copies of shapes, kept as one matrix each until they are turned into mesh."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, as_readonly
from reticula.core.errors import LimitError
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.identity import hash_in_order
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.geometry.mesh.lineage import Names
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import parallel_kernel, prange

__all__ = ["PLACEMENT", "flatten", "with_instances", "without_instances"]

PLACEMENT = ("shape", "transform")
"""The instance attributes that say which shape stands where."""

MOST_CORNERS = 400_000_000


@parallel_kernel
def _placed(positions: Floats, matrix: Floats) -> Floats:
    count = len(positions)
    out = np.empty((len(matrix) * count, 3))
    for i in prange(len(matrix)):
        m = matrix[i]
        for p in range(count):
            x, y, z = positions[p, 0], positions[p, 1], positions[p, 2]
            for k in range(3):
                out[i * count + p, k] = m[k, 0] * x + m[k, 1] * y + m[k, 2] * z + m[k, 3]
    return out


@parallel_kernel
def _repeated(values: Indices, times: int, step: int) -> Indices:
    out = np.empty(len(values) * times, np.int32)
    for i in prange(times):
        for k in range(len(values)):
            out[i * len(values) + k] = values[k] + i * step
    return out


@parallel_kernel
def _turned(directions: Floats, matrix: Floats) -> Floats:
    """Directions under the inverse transpose of each matrix, unit length."""
    count = len(directions)
    out = np.zeros((len(matrix) * count, 3))
    for i in prange(len(matrix)):
        a = matrix[i, :3, :3]
        cofactor = np.empty((3, 3))
        for r in range(3):
            for c in range(3):
                r1, r2, c1, c2 = (r + 1) % 3, (r + 2) % 3, (c + 1) % 3, (c + 2) % 3
                cofactor[r, c] = a[r1, c1] * a[r2, c2] - a[r1, c2] * a[r2, c1]
        sign = 1.0 if a[0, 0] * cofactor[0, 0] + a[0, 1] * cofactor[0, 1] + a[0, 2] * cofactor[0, 2] >= 0 else -1.0
        for p in range(count):
            x = y = z = 0.0
            for k in range(3):
                x += cofactor[0, k] * directions[p, k] * sign
                y += cofactor[1, k] * directions[p, k] * sign
                z += cofactor[2, k] * directions[p, k] * sign
            length = np.sqrt(x * x + y * y + z * z)
            if length > 0.0:
                out[i * count + p, 0] = x / length
                out[i * count + p, 1] = y / length
                out[i * count + p, 2] = z / length
    return out


def flatten(geo: Geo, onto: Kind = "point") -> Geo:
    """Return the geometry with its instances turned into points, faces and curves, shapes within shapes included.

    The instance attributes other than ``shape`` and ``transform`` pass to the new elements of the kind ``onto``.
    Mirrored copies have their faces turned over. Raises LimitError before more is made than a geometry can hold.
    """
    if not geo.topology.instance_count:
        return geo
    which = geo.find("instance", "shape").values
    matrix = geo.find("instance", "transform").values
    shapes = [flatten(prototype, onto) for prototype in geo.prototypes]
    corners = np.array([shape.topology.corner_count for shape in shapes], np.int64)
    points = np.array([shape.topology.point_count for shape in shapes], np.int64)
    asked = int(np.maximum(corners, points)[which].sum())
    if asked > MOST_CORNERS:
        raise LimitError(
            f"the instances would become {asked:,} corners; {MOST_CORNERS:,} is the most. Place fewer of them."
        )
    parts = [without_instances(geo)]
    for number, shape in enumerate(shapes):
        for mirrored in (False, True):
            chosen = np.flatnonzero((which == number) & ((np.linalg.det(matrix[:, :3, :3]) < 0) == mirrored))
            if len(chosen):
                parts.append(_copies(geo, flipped(shape, with_normals=False) if mirrored else shape, chosen, onto))
    return concatenate(parts[1:] if not parts[0].topology.point_count else parts)


def with_instances(geo: Geo, named: Mapping[str, Attribute], prototypes: Sequence[Geo]) -> Geo:
    """Return a geometry with these instances in place of its own: their attributes, ``shape`` and ``transform`` among
    them, and the shapes that they place.
    """
    attributes = {**geo.attributes, "instance": named}
    return Geo(_counting(geo, len(named["transform"])), attributes, identity=_own_names(geo), prototypes=prototypes)


def without_instances(geo: Geo) -> Geo:
    """Return a geometry's own points, faces and curves alone."""
    attributes: dict[Kind, Mapping[str, Attribute]] = {k: v for k, v in geo.attributes.items() if k != "instance"}
    return Geo(_counting(geo, 0), attributes, identity=_own_names(geo))


def _counting(geo: Geo, instances: int) -> Topology:
    """Return the points, faces and curves of a geometry beside so many instances."""
    shape = geo.topology
    faces = (shape.face_start, shape.corner_point)
    return Topology(
        shape.point_count, *faces, shape.curve_start, shape.curve_point, shape.curve_closed, instance_count=instances
    )


def _own_names(geo: Geo) -> dict[Kind, Names]:
    return {kind: names for kind, names in geo.own_identity.items() if kind != "instance"}


def _copies(geo: Geo, shape: Geo, chosen: AnyArray, onto: Kind) -> Geo:
    """Return the copies of one shape, one after the other."""
    matrix = np.ascontiguousarray(geo.find("instance", "transform").values[chosen])
    old, times = shape.topology, len(chosen)
    topology = Topology(
        old.point_count * times,
        np.concatenate([[0], _repeated(old.face_start[1:], times, old.corner_count)]),
        _repeated(old.corner_point, times, old.point_count),
        np.concatenate([[0], _repeated(old.curve_start[1:], times, len(old.curve_point))]),
        _repeated(old.curve_point, times, old.point_count),
        np.tile(old.curve_closed, times),
    )
    attributes: dict[Kind, dict[str, Attribute]] = {"whole": dict(geo.attributes["whole"])}
    for kind in KINDS:
        if kind in ("whole", "instance"):
            continue
        attributes[kind] = {}
        index = None
        for name, found in shape.attributes[kind].items():
            if (kind, name) == ("point", "position"):
                made = Attribute("vec3", as_readonly(_placed(found.values, matrix)))
            elif name == "normal" and found.type == "vec3":
                made = Attribute("vec3", as_readonly(_turned(found.values, matrix)), None, found.default)
            else:
                if index is None:
                    one = np.arange(old.count(kind), dtype=np.int32)
                    index = _repeated(one, times, 0) if kind != "edge" else _edge_index(old, topology, times)
                made = found.take(index)
            attributes[kind][name] = made
    owner = np.repeat(chosen, topology.count(onto) // times)
    for name, found in geo.attributes["instance"].items():
        if name not in PLACEMENT:
            attributes[onto][name] = found.take(owner)
    own = geo.identity("instance")[chosen]
    identity = {}
    kinds: tuple[Kind, ...] = ("point", "face", "curve")
    for kind in kinds:
        one_each = shape.identity(kind)
        identity[kind] = hash_in_order(np.tile(one_each, times), np.repeat(own, len(one_each)))
    return Geo(topology, attributes, identity=identity)


def _edge_index(old: Topology, topology: Topology, times: int) -> Indices:
    """Edges are numbered by first appearance, so copies of edges follow each other as copies of corners do."""
    return np.tile(np.arange(old.edge_count, dtype=np.int32), times)[: topology.edge_count]
