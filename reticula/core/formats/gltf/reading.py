"""What stands in a glTF document, as one geometry: shapes that are placed once as mesh, others as instances."""

from __future__ import annotations

import zlib
from collections import Counter
from collections.abc import Mapping
from typing import Any

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError, GeometryError
from reticula.core.formats import ply
from reticula.core.formats.gltf.accessors import view_bytes
from reticula.core.formats.gltf.container import Document, open_document
from reticula.core.formats.gltf.placements import Placement, placements_of
from reticula.core.formats.gltf.primitives import Block, mesh_of, read_blocks
from reticula.core.geometry import Attribute, Geo
from reticula.core.geometry.edit.affine import apply_affine
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.instances import with_instances

__all__ = ["OURS", "check_of", "read"]

OURS = "reticula"
"""The entry of ``extras`` that holds what only we read."""
PASSED_OVER = {"animations": "motion", "skins": "skins", "cameras": "cameras", "images": "pictures"}


def read(data: bytes, parts: Mapping[str, bytes] | None = None) -> Geo:
    """Read a GLB or glTF; ``parts`` are the files beside it, by name.

    Shapes that are placed once become mesh, with the names of their objects on faces where there are several; those
    that are placed more often, or that we wrote as instances, become instances. Raises FormatError for what is broken.
    """
    document = open_document(data, parts or {})
    placed = placements_of(document)
    shapes: dict[int, Geo] = {}
    edited = 0
    for place in placed:
        if place.mesh not in shapes:
            blocks = read_blocks(document, place.mesh)
            kept = _kept(document, place.mesh, blocks)
            edited += kept is None and _ours(document.entry("meshes", place.mesh)) is not None
            shapes[place.mesh] = mesh_of(document, blocks) if kept is None else kept
    if edited:
        note("What only Reticula keeps in a glTF was left out: another program has changed the file since.")
    used = Counter(one.mesh for one in placed)
    alone: list[Placement] = []
    several: list[Placement] = []
    for one in placed:
        (alone if used[one.mesh] == 1 and one.count == 1 and not one.instance else several).append(one)
    whole = _merged([(one.name, _moved(shapes[one.mesh], one.matrices[0])) for one in alone])
    passed = [word for name, word in PASSED_OVER.items() if document.json.get(name)]
    if passed:
        note(f"Passed over: {', '.join(passed)}.")
    if not placed:
        raise FormatError("there is no shape in any scene of this file")
    return _with_instances(whole, several, shapes) if several else whole


def _ours(told: Mapping[str, Any]) -> Mapping[str, Any] | None:
    extras = told.get("extras")
    found = extras.get(OURS) if isinstance(extras, dict) else None
    return found if isinstance(found, dict) else None


def check_of(blocks: list[Block]) -> int:
    """Return the checksum (CRC-32) of the places and vertex numbers of a mesh: whether it is still what we wrote."""
    found = 0
    for block in blocks:
        found = zlib.crc32(np.ascontiguousarray(block.places, "<f4").tobytes(), found)
        for part in block.parts:
            found = zlib.crc32(np.ascontiguousarray(part.vertex, "<u4").tobytes(), found)
    return found


def _kept(document: Document, mesh: int, blocks: list[Block]) -> Geo | None:
    """Return the whole shape as we wrote it beside the mesh; None if there is none, or the mesh was changed since."""
    told = _ours(document.entry("meshes", mesh))
    if told is None or told.get("check") != check_of(blocks):
        return None
    try:
        return ply.read(view_bytes(document, told.get("shape"))[0])
    except FormatError:
        return None


def _moved(geo: Geo, matrix: Floats) -> Geo:
    if np.array_equal(matrix, np.eye(4)):
        return geo
    try:
        return apply_affine(geo, matrix)
    except np.linalg.LinAlgError:
        raise FormatError("an object is squeezed flat by its place; scale it by more than 0") from None


def _merged(named: list[tuple[str, Geo]]) -> Geo:
    if len(named) < 2:
        return named[0][1] if named else Geo.empty()
    made = []
    for name, geo in named:
        faces = geo.topology.face_count
        made.append(geo if geo.has("face", "object") else geo.with_attribute("face", "object", np.full(faces, name)))
    try:
        return concatenate(made)
    except GeometryError as error:
        raise FormatError(f"the objects of the file do not go together: {error}") from None


def _with_instances(whole: Geo, placed: list[Placement], shapes: Mapping[int, Geo]) -> Geo:
    used = sorted({one.mesh for one in placed})
    number = {mesh: i for i, mesh in enumerate(used)}
    shape = np.concatenate([np.full(one.count, number[one.mesh], np.int64) for one in placed])
    placed_as = {
        "shape": Attribute.of(shape, "integer"),
        "transform": Attribute.of(np.concatenate([one.matrices for one in placed]), "mat4"),
    }
    named = {**placed_as, **_instance_values(placed)}
    return with_instances(whole, named, [shapes[mesh] for mesh in used])


def _instance_values(placed: list[Placement]) -> dict[str, Attribute]:
    """Values of instances: those that every placement has in one type."""
    found: dict[str, Attribute] = {}
    for name, first in placed[0].values.items():
        given = [one.values.get(name) for one in placed]
        alike = [one for one in given if one is not None and one.type == first.type]
        if len(alike) == len(placed):
            found[name] = Attribute.concatenate(alike)
    lost = {name for one in placed for name in one.values} - set(found)
    if lost:
        note(f"Values that only some instances have were left out: {', '.join(sorted(lost))}.")
    return found
