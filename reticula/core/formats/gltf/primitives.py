"""The primitives of a glTF mesh: blocks of vertices, and the triangles, lines and points between them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, Ints, starts_from_sizes
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.formats.gltf.accessors import numbers_of
from reticula.core.formats.gltf.container import Document
from reticula.core.formats.shared.joined_points import JoinedPoints, joined_points
from reticula.core.formats.shared.places import check_places
from reticula.core.geometry import Geo, Topology
from reticula.core.geometry.mesh.edge_chains import edge_chains
from reticula.core.language.reserved import readable_name
from reticula.core.rows import unit

__all__ = ["Block", "Part", "mesh_of", "name_of", "read_blocks"]

POINTS, LINES, LOOP, STRIP, TRIANGLES, TRIANGLE_STRIP, TRIANGLE_FAN = range(7)


@dataclass(frozen=True)
class Part:
    """What one primitive draws: its mode, the vertices it names in order, and its material."""

    mode: int
    vertex: Ints
    material: int | None


@dataclass
class Block:
    """Vertices that primitives share: ``places (V, 3)``, further values by name, and what is drawn between them. Of a
    geometry that is written, ``point (V,)`` says which of its points each vertex is.
    """

    places: Floats
    values: dict[str, AnyArray]
    parts: list[Part] = field(default_factory=list)
    point: Ints = field(default_factory=lambda: np.zeros(0, np.int64))


def read_blocks(document: Document, mesh: int) -> list[Block]:
    """Return the vertices of a mesh with its primitives; raise FormatError for what does not fit together."""
    primitives = document.entry("meshes", mesh).get("primitives")
    if not isinstance(primitives, list) or not all(isinstance(one, dict) for one in primitives):
        raise FormatError(f"mesh {mesh} has no list of primitives")
    blocks: dict[tuple[tuple[str, Any], ...], Block] = {}
    for told in primitives:
        named = told.get("attributes")
        if not isinstance(named, dict) or "POSITION" not in named:
            raise FormatError(f"a primitive of mesh {mesh} has no places (POSITION)")
        key = tuple(sorted((str(name), str(index)) for name, index in named.items()))
        if key not in blocks:
            blocks[key] = _block(document, named)
        block = blocks[key]
        count = len(block.places)
        if "indices" in told:
            stored = numbers_of(document, told["indices"])
            if stored.ndim != 1 or stored.dtype.kind != "u":
                raise FormatError(f"the vertex numbers of mesh {mesh} are no whole numbers")
            vertex = stored.astype(np.int64)
            if len(vertex) and vertex.max() >= count:
                raise FormatError(f"mesh {mesh} uses vertex {vertex.max():,}; there are {count:,}")
        else:
            vertex = np.arange(count)
        mode, material = told.get("mode", TRIANGLES), told.get("material")
        if mode not in range(7):
            raise FormatError(f"a primitive of mesh {mesh} is of mode {mode!r}; glTF has 0 to 6")
        block.parts.append(Part(mode, vertex, material if isinstance(material, int) else None))
    return list(blocks.values())


def _block(document: Document, named: Mapping[str, Any]) -> Block:
    arrays = {str(name): numbers_of(document, index) for name, index in named.items()}
    places = arrays.pop("POSITION").astype(np.float64)
    if places.ndim != 2 or places.shape[1] != 3:
        raise FormatError("places (POSITION) have three numbers each")
    check_places(places)
    values: dict[str, AnyArray] = {}
    for semantic, found in arrays.items():
        if len(found) != len(places):
            raise FormatError(f"'{semantic}' has {len(found):,} values for {len(places):,} vertices")
        name = name_of(semantic)
        if name is not None:
            values[name] = _told(name, semantic, found)
    return Block(places, values)


def name_of(semantic: str) -> str | None:
    """Return what a value of vertices is called here; None for what belongs to skins."""
    word, _, number = semantic.partition("_")
    if semantic.startswith("_"):
        plain = semantic[1:]
        return readable_name(plain.lower() if plain.isupper() else plain)
    known = {"NORMAL": "normal", "TANGENT": "tangent", "TEXCOORD": "uv", "COLOR": "color"}.get(word)
    if known is None or not number or number == "0":
        return known
    return f"{known}_{int(number) + 1}" if number.isdigit() and len(number) < 4 else None


def _told(name: str, semantic: str, found: AnyArray) -> AnyArray:
    values = found.astype(np.int64 if found.dtype.kind in "iu" else np.float64)
    if semantic.startswith("TEXCOORD") and values.ndim == 2 and values.shape[1] == 2:
        return np.stack([values[:, 0], 1.0 - values[:, 1]], axis=1)
    if semantic.startswith("COLOR") and values.ndim == 2:
        whole = values if found.dtype.kind == "f" else found / np.iinfo(found.dtype).max
        return whole if whole.shape[1] == 4 else np.concatenate([whole, np.ones((len(whole), 1))], axis=1)
    return unit(values.astype(np.float64)) if name == "normal" and values.ndim == 2 and values.shape[1] == 3 else values


def _triangles(part: Part) -> Ints:
    """Return the triangles of a part ``(T, 3)``."""
    vertex = part.vertex
    if part.mode == TRIANGLES:
        return vertex[: len(vertex) // 3 * 3].reshape(-1, 3)
    if part.mode == TRIANGLE_FAN and len(vertex) > 2:
        return np.stack([np.full(len(vertex) - 2, vertex[0]), vertex[1:-1], vertex[2:]], axis=1)
    if part.mode == TRIANGLE_STRIP and len(vertex) > 2:
        made = np.stack([vertex[:-2], vertex[1:-1], vertex[2:]], axis=1)
        made[1::2] = made[1::2][:, [1, 0, 2]]
        return made
    return np.zeros((0, 3), np.int64)


def mesh_of(document: Document, blocks: list[Block]) -> Geo:
    """Return the shape of a mesh: vertices at equal places joined, values that differ there moved to corners."""
    places = np.concatenate([block.places for block in blocks] or [np.zeros((0, 3))])
    offsets = np.cumsum([0, *(len(block.places) for block in blocks)])
    drawn = [(part, at) for block, at in zip(blocks, offsets, strict=False) for part in block.parts]
    triangle = [_triangles(part) + at for part, at in drawn]
    materials = [-1 if part.material is None else part.material for part, _ in drawn]
    owner = np.repeat(materials, [len(one) for one in triangle])
    corners = np.concatenate(triangle or [np.zeros((0, 3), np.int64)])
    joined = joined_points(places)
    faces = joined.point[corners]
    whole = (faces[:, 0] != faces[:, 1]) & (faces[:, 1] != faces[:, 2]) & (faces[:, 2] != faces[:, 0])
    if not whole.all():
        note(f"Left out {int((~whole).sum()):,} triangles whose corners coincide.")
        faces, corners, owner = faces[whole], corners[whole], owner[whole]
    curve_start, curve_point, closed = _curves(drawn, joined.point, len(joined.first))
    loose = [joined.point[part.vertex + at] for part, at in drawn if part.mode == POINTS]
    used = np.zeros(len(joined.first), bool)
    for some in (faces.reshape(-1), curve_point, *loose):
        used[some] = True
    number = (np.cumsum(used) - 1).astype(np.int32)
    start = np.arange(len(faces) + 1) * 3
    curves = (curve_start, number[curve_point], closed)
    geo = Geo.of(places[joined.first[used]], Topology(int(used.sum()), start, number[faces.reshape(-1)], *curves))
    if len(joined.first) < len(places):
        joins = len(places) - len(joined.first)
        note(f"{joins:,} vertices at equal places were joined; what differs there is on corners.")
    return _materials(document, _valued(geo, blocks, joined, used, corners.reshape(-1)), owner)


def _valued(geo: Geo, blocks: list[Block], joined: JoinedPoints, used: AnyArray, vertex: Ints) -> Geo:
    """Put values on points where each has one, else on corners, whose vertices are ``vertex (C,)``."""
    lost = []
    for name in sorted({name for block in blocks for name in block.values}):
        given = [block.values.get(name) for block in blocks]
        known = next(one for one in given if one is not None)
        if any(one is not None and one.shape[1:] != known.shape[1:] for one in given):
            lost.append(name)
            continue
        sizes = [len(block.places) for block in blocks]
        there = np.repeat([one is not None for one in given], sizes)
        empty = known[:0]
        values = np.concatenate(
            [
                np.zeros((size, *empty.shape[1:]), known.dtype) if one is None else one
                for one, size in zip(given, sizes, strict=True)
            ]
        )
        on_points = None if name.startswith("uv") and len(vertex) else joined.of_points(values, there)
        if on_points is not None:
            geo = geo.with_attribute("point", name, on_points[used])
        elif len(vertex):
            geo = geo.with_attribute("corner", name, values[vertex])
        else:
            geo = geo.with_attribute("point", name, values[joined.first[used]])
    if lost:
        note(f"Values that are of several forms in one mesh were left out: {', '.join(lost)}.")
    return geo


def _curves(drawn: list[tuple[Part, Any]], point: Indices, count: int) -> tuple[AnyArray, AnyArray, AnyArray]:
    """Return the curves of all parts: their starts, points and whether they are closed; loose lines put end to end."""
    runs: list[tuple[AnyArray, bool]] = []
    pairs = []
    for part, at in drawn:
        along = point[part.vertex + at]
        if part.mode == LINES:
            ends = along[: len(along) // 2 * 2].reshape(-1, 2)
            pairs.append(ends[ends[:, 0] != ends[:, 1]])
        elif part.mode in (STRIP, LOOP):
            clean = along[np.append(True, along[1:] != along[:-1])] if len(along) else along
            if part.mode == LOOP and len(clean) > 2 and clean[0] == clean[-1]:
                clean = clean[:-1]
            if len(clean) >= 2:
                runs.append((clean, part.mode == LOOP and len(clean) > 2))
    start = starts_from_sizes(np.array([len(run) for run, _ in runs], np.int64))
    along = np.concatenate([run for run, _ in runs] or [np.zeros(0, np.int32)])
    closed = np.array([flag for _, flag in runs], bool)
    loose = np.concatenate(pairs) if pairs else np.zeros((0, 2), np.int32)
    if not len(loose):
        return start, along, closed
    _, first = np.unique(np.sort(loose.astype(np.int64), axis=1) @ [count, 1], return_index=True)
    lines = edge_chains(loose[np.sort(first)].astype(np.int32), count)
    return (
        np.concatenate([start, start[-1] + lines.start[1:]]),
        np.concatenate([along, lines.point]),
        np.concatenate([closed, lines.closed]),
    )


def _materials(document: Document, geo: Geo, owner: Ints) -> Geo:
    """Put the names and colours of materials on faces, where the file has some."""
    told = document.listed("materials")
    if not told or not geo.topology.face_count or (owner < 0).all():
        return geo
    names = np.array([str(one.get("name", "")) for one in told] + [""])
    colors = np.ones((len(told) + 1, 4))
    for row, one in enumerate(told):
        base = one.get("pbrMetallicRoughness", {})
        factor = base.get("baseColorFactor", (1, 1, 1, 1)) if isinstance(base, dict) else (1, 1, 1, 1)
        if isinstance(factor, list) and len(factor) == 4 and all(isinstance(part, int | float) for part in factor):
            colors[row] = factor
    owner = np.where((owner >= 0) & (owner < len(told)), owner, len(told))
    used = names[owner]
    if len(np.unique(used)) > 1:
        geo = geo.with_attribute("face", "material", used)
    tinted = colors[owner]
    if not (tinted == 1.0).all() and not geo.has("point", "color") and not geo.has("corner", "color"):
        geo = geo.with_attribute("face", "color", tinted)
    return geo
