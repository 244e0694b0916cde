"""Vertices of a glTF for a geometry: of its faces, curves and loose points, with the values that vertices can hold."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.equal_rows import unique_rows
from reticula.core.formats.gltf.primitives import LINES, POINTS, TRIANGLES, Block, Part
from reticula.core.geometry import Attribute, Geo, triangles

__all__ = ["blocks_of"]

LARGEST = float(np.finfo(np.float32).max)
WIDTHS = ((), (2,), (3,), (4,), (3, 3), (4, 4))
"""Shapes of values that a vertex can hold."""


def blocks_of(geo: Geo) -> list[Block]:
    """Return the vertices of faces, curves and loose points, those of each apart, with their values by semantic."""
    shape = geo.topology
    made = []
    if shape.face_count:
        made.append(_faces(geo))
    named = {name: found for name, found in geo.attributes["point"].items() if name != "position"}
    if shape.curve_count:
        points, vertex = np.unique(shape.curve_segments[0].astype(np.int64), return_inverse=True)
        made.append(
            Block(geo.positions[points], _values(named, points), [Part(LINES, vertex.reshape(-1), None)], points)
        )
    loose = np.flatnonzero(~shape.used_points)
    if len(loose):
        vertex = np.arange(len(loose))
        made.append(Block(geo.positions[loose], _values(named, loose), [Part(POINTS, vertex, None)], loose))
    return made


def _faces(geo: Geo) -> Block:
    """Return the vertices of faces: one for each point, or for each different set of values at its corners."""
    shape = geo.topology
    corner = triangles(geo).corner
    own = {name: found for name, found in geo.attributes["corner"].items() if _fits(found)}
    if geo.has("face", "color") and not geo.has("corner", "color") and not geo.has("point", "color"):
        colors = geo.find("face", "color")
        own["color"] = Attribute(colors.type, colors.values[shape.corner_face])
    point = shape.corner_point.astype(np.int64)
    columns = [point[:, None]]
    for found in own.values():
        rows = _stored(found.values).reshape(len(point), -1)
        columns.append(rows.view(np.int32).astype(np.int64))
    first, vertex = unique_rows(np.concatenate(columns, axis=1))
    named = {name: found for name, found in geo.attributes["point"].items() if name not in own and name != "position"}
    values = {**_values(named, point[first]), **_values(own, first)}
    used = point[first]
    return Block(geo.positions[used], values, [Part(TRIANGLES, vertex[corner.reshape(-1)], None)], used)


def _fits(found: Attribute) -> bool:
    return found.start is None and found.info.dtype is not np.str_ and found.info.shape in WIDTHS


def _stored(values: AnyArray) -> AnyArray:
    """Return values as a vertex holds them: finite numbers of 32 bits."""
    with np.errstate(over="ignore"):
        plain = np.nan_to_num(values.astype(np.float64), posinf=LARGEST, neginf=-LARGEST)
    return np.ascontiguousarray(np.clip(plain, -LARGEST, LARGEST).astype(np.float32))


def _values(named: dict[str, Attribute], index: AnyArray) -> dict[str, AnyArray]:
    """Return the values at ``index (V,)`` by what glTF calls them."""
    made: dict[str, AnyArray] = {}
    for name, found in named.items():
        if not _fits(found):
            continue
        values = _stored(found.values[index])
        if name == "normal" and found.type == "vec3":
            length = np.linalg.norm(values, axis=1, keepdims=True)
            made["NORMAL"] = np.where(length > 0, values / np.where(length > 0, length, 1), (0, 1, 0)).astype(
                np.float32
            )
        elif name == "uv" and found.type == "vec2":
            made["TEXCOORD_0"] = np.stack([values[:, 0], np.float32(1.0) - values[:, 1]], axis=1)
        elif name == "color" and found.type in ("vec3", "vec4"):
            made["COLOR_0"] = np.clip(values, 0.0, 1.0)
        else:
            made[f"_{name.upper() if name.islower() else name}"] = values
    return made
