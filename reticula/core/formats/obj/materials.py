"""Materials of an OBJ: which face has which, and their colours from the files beside it.

After "MTL material format (Lightwave, OBJ)", 1995: ``newmtl``, ``Kd`` (diffuse colour), ``d`` and ``Tr`` (opacity, and
its opposite). Lines that begin with ``#mtl`` stand for such a file, so that an OBJ may bring its materials along.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from reticula.core.arrays import Ints
from reticula.core.diagnostics import note
from reticula.core.formats.shared.text_lines import Lines
from reticula.core.geometry import Geo

__all__ = ["INSIDE", "MATERIAL", "read_materials", "with_materials"]

MATERIAL = "material"
"""The face attribute that keeps the names after ``usemtl``."""
INSIDE = b"#mtl "
MOST_LINES = 1_000_000


def with_materials(geo: Geo, lines: Lines, face_lines: Ints, data: bytes, parts: Mapping[str, bytes]) -> Geo:
    """Return the geometry with the materials of its faces, and their colours if those are known."""
    at = lines.starting_with(b"usemtl")
    if not len(at) or not len(face_lines):
        return geo
    names = ["", *(lines.text(line)[len("usemtl") :].strip() for line in at.tolist())]
    used = np.searchsorted(at, face_lines)
    geo = geo.with_attribute("face", MATERIAL, np.array(names)[used])
    known: dict[str, list[float]] = {}
    if INSIDE in data:
        inside = [line[len(INSIDE) :] for line in data.splitlines() if line.startswith(INSIDE)]
        known |= read_materials(b"\n".join(inside))
    else:
        missing = []
        for name in _libraries(lines):
            if name in parts:
                known |= read_materials(parts[name])
            else:
                missing.append(name)
        if missing:
            note(f"Materials have names and no colours: {', '.join(missing[:5])} did not come with the file.")
    if not known or geo.has("point", "color"):
        return geo
    colors = np.array([known.get(name, [1.0, 1.0, 1.0, 1.0]) for name in names])
    return geo.with_attribute("face", "color", colors[used])


def _libraries(lines: Lines) -> list[str]:
    """Return the names of the files of materials; one with blanks in it is a line of its own."""
    return [lines.text(line)[len("mtllib") :].strip() for line in lines.starting_with(b"mtllib").tolist()]


def read_materials(text: bytes) -> dict[str, list[float]]:
    """Return the colours of materials by name: red, green, blue and opacity. What is no number is passed over."""
    made: dict[str, list[float]] = {}
    current: list[float] = []
    for line in text.decode("utf-8", "replace").splitlines()[:MOST_LINES]:
        word, _, rest = line.strip().partition(" ")
        if word == "newmtl":
            current = made.setdefault(rest.strip(), [1.0, 1.0, 1.0, 1.0])
        elif current and word in ("Kd", "d", "Tr"):
            numbers = _numbers(rest.replace("-halo", ""))
            if word == "Kd" and numbers:
                current[:3] = (numbers + numbers[:1] * 2)[:3]
            elif numbers:
                current[3] = numbers[0] if word == "d" else 1.0 - numbers[0]
    return made


def _numbers(text: str) -> list[float]:
    try:
        found = [float(word) for word in text.split()]
    except ValueError:
        return []
    return [min(max(one, 0.0), 1.0) for one in found] if all(np.isfinite(found)) else []
