"""A geometry as a glTF document: its mesh for every program, and beside it all that only we read."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import note
from reticula.core.finite import all_finite
from reticula.core.formats import ply
from reticula.core.formats.gltf.accessors import INDICES, Arrays
from reticula.core.formats.gltf.container import pack_glb, pack_text
from reticula.core.formats.gltf.placements import INSTANCING
from reticula.core.formats.gltf.primitives import LINES, POINTS, TRIANGLES, Block
from reticula.core.formats.gltf.reading import OURS, check_of
from reticula.core.formats.gltf.vertices import blocks_of
from reticula.core.formats.shared.placing import parts_of, without_shear
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.instances import flatten, without_instances

__all__ = ["document_of", "mesh_of_blocks", "packed", "write"]


def write(geo: Geo, values: str = "all", instances: str = "nodes", *, text: bool = False) -> bytes:
    """Return a GLB, or with ``text`` a glTF.

    ``values`` says whether all is kept for us beside the mesh (``all``) or not (``plain``); ``instances`` whether each
    copy is a node with its values (``nodes``), or all copies of a shape are rows of arrays (``arrays``, which needs
    EXT_mesh_gpu_instancing).
    """
    geo = without_shear(geo, "glTF")
    arrays = Arrays()
    meshes: list[dict[str, Any]] = []
    nodes: list[dict[str, Any]] = []
    own = without_instances(geo)
    number = _mesh(arrays, meshes, own, values)
    if number is not None:
        nodes.append({"mesh": number, "name": "shape"})
    if geo.topology.instance_count:
        _instances(arrays, meshes, nodes, geo, values, instances)
    told = document_of(nodes, meshes)
    if any("extensions" in node for node in nodes):
        told["extensionsUsed"] = [INSTANCING]
    return packed(told, arrays, text=text)


def document_of(nodes: list[dict[str, Any]], meshes: list[dict[str, Any]]) -> dict[str, Any]:
    """Return a document with nodes and meshes, and nothing of its arrays yet."""
    told: dict[str, Any] = {"asset": {"version": "2.0", "generator": "Reticula"}, "scene": 0}
    told["scenes"] = [{"nodes": list(range(len(nodes)))}] if nodes else [{}]
    if nodes:
        told["nodes"] = nodes
    if meshes:
        told["meshes"] = meshes
        told["materials"] = [
            {
                "name": "plain",
                "doubleSided": True,
                "pbrMetallicRoughness": {"metallicFactor": 0.0, "roughnessFactor": 0.8},
            }
        ]
    return told


def packed(told: dict[str, Any], arrays: Arrays, *, text: bool) -> bytes:
    """Return a document with its arrays as a file."""
    told |= arrays.listed()
    return pack_text(told, arrays.data) if text else pack_glb(told, arrays.data)


def _mesh(arrays: Arrays, meshes: list[dict[str, Any]], geo: Geo, values: str) -> int | None:
    """Add a mesh and return its number; None for a shape without elements."""
    blocks = blocks_of(geo)
    if not blocks:
        return None
    meshes.append(mesh_of_blocks(arrays, geo, blocks, values))
    return len(meshes) - 1


def mesh_of_blocks(arrays: Arrays, geo: Geo, blocks: list[Block], values: str) -> dict[str, Any]:
    """Return a mesh that draws blocks of vertices, with the whole shape beside it unless ``values`` are plain."""
    told: dict[str, Any] = {"primitives": [_primitive(arrays, block) for block in blocks]}
    if values == "all":
        told["extras"] = {OURS: {"shape": arrays.view(ply.write(geo)), "check": check_of(blocks)}}
    return told


def _primitive(arrays: Arrays, block: Block) -> dict[str, Any]:
    attributes = {"POSITION": arrays.add(block.places.astype(np.float32), bounds=True)}
    for name, values in block.values.items():
        attributes[name] = arrays.add(values)
    part = block.parts[0]
    told: dict[str, Any] = {"attributes": attributes, "mode": part.mode, "material": 0}
    told["indices"] = arrays.add(part.vertex.astype(np.uint32), INDICES)
    assert part.mode in (TRIANGLES, LINES, POINTS)
    return told


def _instances(
    arrays: Arrays, meshes: list[dict[str, Any]], nodes: list[dict[str, Any]], geo: Geo, values: str, how: str
) -> None:
    which = geo.attribute("instance", "shape")
    matrices = geo.attribute("instance", "transform")
    for shape, prototype in enumerate(geo.prototypes):
        chosen = np.flatnonzero(which == shape)
        if not len(chosen):
            continue
        flat = flatten(prototype)
        if prototype.topology.instance_count:
            note(f"The instances within shape {shape} were turned into mesh.")
        number = _mesh(arrays, meshes, flat, values)
        if number is None:
            note(f"Shape {shape} of the instances has no elements; its {len(chosen):,} copies were left out.")
        elif how == "arrays":
            nodes.append(_rows(arrays, geo, number, f"shape {shape}", chosen))
        else:
            nodes += _nodes(geo, number, f"shape {shape}", chosen, matrices)


def _nodes(geo: Geo, mesh: int, name: str, chosen: Any, matrices: Floats) -> list[dict[str, Any]]:
    named = {key: found for key, found in geo.attributes["instance"].items() if key not in ("shape", "transform")}
    odd = [key for key, one in named.items() if not all_finite(one.values)]
    if odd:
        note(f"Values of instances that are not all finite were left out: {', '.join(odd)}.")
    made = []
    for i in chosen.tolist():
        values = {key: [one.type, one.row(i)] for key, one in named.items() if key not in odd}
        node: dict[str, Any] = {"mesh": mesh, "name": name, "extras": {OURS: {"instance": values}}}
        if not np.array_equal(matrices[i], np.eye(4)):
            node["matrix"] = matrices[i].T.reshape(-1).tolist()
        made.append(node)
    return made


def _rows(arrays: Arrays, geo: Geo, mesh: int, name: str, chosen: Any) -> dict[str, Any]:
    move, turn, scale = parts_of(geo.attribute("instance", "transform")[chosen])
    attributes = {
        "TRANSLATION": arrays.add(move.astype(np.float32), None),
        "ROTATION": arrays.add(turn.astype(np.float32), None),
        "SCALE": arrays.add(scale.astype(np.float32), None),
    }
    lost = []
    for key, found in geo.attributes["instance"].items():
        if key in ("shape", "transform"):
            continue
        if found.start is not None or found.info.dtype is np.str_ or found.info.shape not in ((), (2,), (3,), (4,)):
            lost.append(key)
            continue
        rows = np.nan_to_num(found.values[chosen].astype(np.float32))
        attributes[f"_{key.upper() if key.islower() else key}"] = arrays.add(rows, None)
    if lost:
        note(f"Rows of instances hold numbers alone; left out: {', '.join(lost)}. Write them as nodes to keep these.")
    return {"mesh": mesh, "name": name, "extensions": {INSTANCING: {"attributes": attributes}}}
