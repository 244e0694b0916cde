"""Where the shapes of a glTF stand: its tree of nodes, worked out to one matrix for each placed copy."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.errors import FormatError, GeometryError
from reticula.core.finite import all_finite
from reticula.core.formats.gltf.accessors import numbers_of
from reticula.core.formats.gltf.container import Document
from reticula.core.geometry import TYPES, Attribute
from reticula.core.language.reserved import readable_name

__all__ = ["INSTANCING", "Placement", "placements_of"]

INSTANCING = "EXT_mesh_gpu_instancing"
MOST = 10_000_000
"""Placed copies in one file."""


@dataclass(frozen=True, eq=False)
class Placement:
    """Copies of one mesh: ``matrices (N, 4, 4)`` into the world, and their values ``(N, ...)`` by name."""

    mesh: int
    name: str
    matrices: Floats
    values: Mapping[str, Attribute] = field(default_factory=dict)
    instance: bool = False
    """It is an instance however often its mesh is placed."""

    @property
    def count(self) -> int:
        return len(self.matrices)


def placements_of(document: Document) -> list[Placement]:
    """Return what the scene of a document shows, in the order of its nodes; all nodes if it has no scene."""
    nodes = document.listed("nodes")
    waiting = [(root, np.eye(4)) for root in reversed(_roots(document, nodes))]
    seen: set[int] = set()
    found: list[Placement] = []
    while waiting:
        number, above = waiting.pop()
        told = document.entry("nodes", number)
        if number in seen:
            raise FormatError(f"node {number} hangs below two others, or below itself")
        seen.add(number)
        matrix = above @ _local(told, number)
        if "mesh" in told:
            document.entry("meshes", told["mesh"])
            found.append(_placement(document, told, matrix))
        children = told.get("children", [])
        if not isinstance(children, list):
            raise FormatError(f"the children of node {number} are no list")
        waiting += [(child, matrix) for child in reversed(children)]
    if sum(one.count for one in found) > MOST:
        raise FormatError(f"the file places {sum(one.count for one in found):,} copies; {MOST:,} are the most")
    return found


def _roots(document: Document, nodes: list[Mapping[str, Any]]) -> list[Any]:
    if document.json.get("scenes"):
        scene = document.entry("scenes", document.json.get("scene", 0))
        roots = scene.get("nodes", [])
        if not isinstance(roots, list):
            raise FormatError("the nodes of the scene are no list")
        return roots
    below = {child for node in nodes for child in node.get("children", []) if isinstance(child, int)}
    return [number for number in range(len(nodes)) if number not in below]


def _local(told: Mapping[str, Any], number: int) -> Floats:
    try:
        if "matrix" in told:
            matrix = np.array(told["matrix"], np.float64).reshape(4, 4).T
        else:
            move, turn, scale = (
                np.array(told.get(word, usual), np.float64).reshape(1, -1)
                for word, usual in (("translation", (0, 0, 0)), ("rotation", (0, 0, 0, 1)), ("scale", (1, 1, 1)))
            )
            matrix = _matrices(move, turn, scale)[0]
    except (TypeError, ValueError):
        raise FormatError(f"the place of node {number} holds something else than numbers") from None
    if not all_finite(matrix):
        raise FormatError(f"the place of node {number} holds a number that is not finite")
    return matrix


def _matrices(move: Floats, turn: Floats, scale: Floats) -> Floats:
    """Return the matrices ``(N, 4, 4)`` of moves ``(N, 3)``, unit quaternions ``(N, 4)`` and scales ``(N, 3)``."""
    if move.shape[1] != 3 or turn.shape[1] != 4 or scale.shape[1] != 3:
        raise ValueError("a place has 3 numbers, a turn 4, a scale 3")
    length = np.linalg.norm(turn, axis=1, keepdims=True)
    x, y, z, w = (turn / np.where(length > 0, length, 1.0)).T
    made = np.zeros((len(move), 4, 4))
    rotation = np.array(
        [
            [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
            [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
            [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
        ]
    )
    made[:, :3, :3] = rotation.transpose(2, 0, 1) * scale[:, None, :]
    made[:, :3, 3] = move
    made[:, 3, 3] = 1.0
    return made


def _placement(document: Document, told: Mapping[str, Any], matrix: Floats) -> Placement:
    name = str(told.get("name") or document.entry("meshes", told["mesh"]).get("name") or f"mesh {told['mesh']}")
    extensions = told.get("extensions", {})
    if isinstance(extensions, dict) and INSTANCING in extensions:
        matrices, values = _many(document, extensions[INSTANCING])
        return Placement(told["mesh"], name, matrix @ matrices, values, True)
    extras = told.get("extras")
    ours = extras.get("reticula") if isinstance(extras, dict) else None
    if not isinstance(ours, dict) or not isinstance(ours.get("instance"), dict):
        return Placement(told["mesh"], name, matrix[None])
    try:
        values = {
            str(key): Attribute.of(_row(value, str(type)), str(type))
            for key, (type, value) in ours["instance"].items()
            if type in TYPES and key not in ("shape", "transform")
        }
    except (GeometryError, TypeError, ValueError):
        values = {}
    return Placement(told["mesh"], name, matrix[None], values, True)


def _row(value: Any, type: str) -> Any:
    return [value] if TYPES[type].is_list else np.array([value], np.str_ if type == "text" else None)


def _many(document: Document, told: Any) -> tuple[Floats, dict[str, Attribute]]:
    given = told.get("attributes") if isinstance(told, dict) else None
    if not isinstance(given, dict) or not given:
        raise FormatError(f"{INSTANCING} names no values")
    arrays = {str(name): numbers_of(document, index) for name, index in given.items()}
    counts = {len(values) for values in arrays.values()}
    if len(counts) != 1:
        raise FormatError(f"the values of {INSTANCING} are of different numbers of copies")
    count = counts.pop()
    try:
        matrices = _matrices(
            *(
                np.asarray(arrays.pop(word, np.tile(np.array(usual, np.float64), (count, 1))), np.float64)
                for word, usual in (("TRANSLATION", (0, 0, 0)), ("ROTATION", (0, 0, 0, 1)), ("SCALE", (1, 1, 1)))
            )
        )
    except (ValueError, IndexError):
        raise FormatError(f"the places of {INSTANCING} are no moves, turns and scales") from None
    if not all_finite(matrices):
        raise FormatError(f"a place of {INSTANCING} is not finite")
    values = {}
    for name, found in arrays.items():
        plain = readable_name(name.lstrip("_").lower() if name.isupper() else name.lstrip("_"))
        if plain not in ("shape", "transform"):
            values[plain] = Attribute.of(_widened(found))
    return matrices, values


def _widened(values: AnyArray) -> AnyArray:
    return values.astype(np.float64 if values.dtype.kind == "f" else np.int64)
