"""Writes OBJ. Faces of several groups name them all; materials are named, what they look like is not told."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from reticula.core.arrays import Floats, Ints
from reticula.core.diagnostics import note
from reticula.core.formats.obj.materials import MATERIAL
from reticula.core.formats.shared.losses import losses
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.kinds import Kind

__all__ = ["write"]

OBJECT = "object"
"""The face attribute that keeps the names after ``o``."""


def write(geo: Geo) -> bytes:
    """Return an OBJ file. Faces of several groups name them all; attributes that OBJ cannot hold are noted."""
    shape = geo.topology
    vertex = geo.positions
    color = geo.attributes["point"].get("color")
    if color is not None and color.type == "vec4":
        vertex = np.concatenate([vertex, color.values[:, :3]], axis=1)
    parts = ["# Reticula\n", _rows("v", vertex)]
    columns = [shape.corner_point.astype(np.int64) + 1]
    for name, word, size in (("uv", "vt", "vec2"), ("normal", "vn", "vec3")):
        found = _on_corners(geo, name, size)
        if found is None:
            columns.append(np.zeros(0, np.int64))
            continue
        unique, index = np.unique(found, axis=0, return_inverse=True)
        parts.append(_rows(word, unique))
        columns.append(index.reshape(-1).astype(np.int64) + 1)
    words = _face_words(columns)
    parts.append(_face_lines(geo, words))
    for k in range(shape.curve_count):
        along = (shape.curve_point[shape.curve_start[k] : shape.curve_start[k + 1]] + 1).tolist()
        parts.append(f"l {' '.join(map(str, along + along[:1] * bool(shape.curve_closed[k])))}\n")
    _note_lost(geo)
    return "".join(parts).encode()


def _on_corners(geo: Geo, name: str, type: str) -> Floats | None:
    kind: Kind
    for kind in ("corner", "point"):
        found = geo.attributes[kind].get(name)
        if found is not None and found.type == type:
            return found.values if kind == "corner" else found.values[geo.topology.corner_point]
    return None


def _rows(word: str, values: Floats) -> str:
    if not len(values):
        return ""
    line = f"{word} " + " ".join(["%.17g"] * values.shape[1]) + "\n"
    return (line * len(values)) % tuple(values.reshape(-1).tolist())


def _face_words(columns: list[Ints]) -> list[str]:
    point, uv, normal = columns
    if len(uv) and len(normal):
        return [f"{a}/{b}/{c}" for a, b, c in zip(point.tolist(), uv.tolist(), normal.tolist(), strict=True)]
    if len(uv):
        return [f"{a}/{b}" for a, b in zip(point.tolist(), uv.tolist(), strict=True)]
    if len(normal):
        return [f"{a}//{b}" for a, b in zip(point.tolist(), normal.tolist(), strict=True)]
    return [str(a) for a in point.tolist()]


def _face_lines(geo: Geo, words: list[str]) -> str:
    start = geo.topology.face_start.tolist()
    names = geo.groups("face")
    lines = [f"f {' '.join(words[a:b])}\n" for a, b in pairwise(start)]
    for attribute, word, none in ((MATERIAL, "usemtl", "default"), (OBJECT, "o", "object")):
        own = geo.attributes["face"].get(attribute)
        if own is not None and own.type == "text" and lines:
            texts = [" ".join(text.split()) for text in own.values.tolist()]
            for face in np.flatnonzero(np.append(True, own.values[1:] != own.values[:-1])).tolist():
                if texts[face] or face:
                    lines[face] = f"{word} {texts[face] or none}\n{lines[face]}"
    if not names or not lines:
        return "".join(lines)
    member = np.stack([geo.group("face", name) for name in names], axis=1)
    change = np.flatnonzero(np.concatenate([[True], (member[1:] != member[:-1]).any(axis=1)]))
    for face in change.tolist():
        words_of = " ".join(names[n] for n in np.flatnonzero(member[face]))
        lines[face] = f"g {words_of or 'default'}\n{lines[face]}"
    return "".join(lines)


def _note_lost(geo: Geo) -> None:
    kept = {
        ("point", "color"),
        ("point", "normal"),
        ("point", "uv"),
        ("corner", "uv"),
        ("corner", "normal"),
    }
    kept |= {("face", name) for name in (*geo.groups("face"), OBJECT, MATERIAL)}
    lost = losses(geo, kept)
    if lost:
        note(f"OBJ cannot hold {', '.join(lost)}; write PLY to keep them.")
