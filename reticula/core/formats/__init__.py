"""Open formats of meshes, points and tables. A file's ending says which; each is one module, ``read`` and ``write``."""

from __future__ import annotations

import importlib
import mmap
import os
import pkgutil
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from reticula.core.arrays import as_readonly
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError, GeometryError
from reticula.core.formats.apart import read_apart
from reticula.core.formats.format import EVERYTHING, Format
from reticula.core.formats.shared.beside import FilesBeside
from reticula.core.formats.shared.told import content_of
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.mesh.file_access import file_access

__all__ = [
    "FORMATS",
    "MOST_BYTES",
    "WRITTEN",
    "Format",
    "format_of",
    "read_bytes",
    "read_file",
    "write_bytes",
    "write_file",
]

MOST_BYTES = 2_000_000_000
MOST_MAPPED = 200_000_000_000
LOADED = 256_000_000
"""Larger files are mapped, if their format can be read so, and not loaded."""
STUMBLES = (
    ArithmeticError,
    AttributeError,
    GeometryError,
    LookupError,
    MemoryError,
    RecursionError,
    TypeError,
    ValueError,
)
"""What Python raises when a reader meets what it did not expect."""


FORMATS: dict[str, Format] = {}
"""All formats by their ending, those that keep everything first, those of points alone last. Every module of this
package that declares one as ``FORMAT``, or several as ``FORMATS``, is found by itself; none needs to be listed."""

for _module in pkgutil.iter_modules(__path__, f"{__name__}."):
    _made = importlib.import_module(_module.name)
    for _found in (getattr(_made, "FORMAT", None), *getattr(_made, "FORMATS", ())):
        if isinstance(_found, Format):
            FORMATS[_found.ending] = _found
FORMATS = dict(sorted(FORMATS.items(), key=lambda entry: (entry[1].keeps != EVERYTHING, not entry[1].faces, entry[0])))


WRITTEN = {ending: chosen for ending, chosen in FORMATS.items() if chosen.writes}
"""Those of them that are written; the others are only read."""


def format_of(name: str) -> Format:
    """Return the format that a file name's ending stands for; raise FormatError with those that exist."""
    ending = Path(name).suffix.lower().lstrip(".")
    if ending not in FORMATS:
        raise FormatError(f"'{name}' does not end in a known format; there are {', '.join('.' + e for e in FORMATS)}")
    return FORMATS[ending]


def read_bytes(name: str, data: bytes, parts: Mapping[str, bytes] | None = None, *, error: float = 0.0) -> Geo:
    """Read a mesh from the content of a file called ``name``; raise FormatError with the line or byte.

    ``parts`` are the files beside it that it may name, such as the buffers of a glTF. ``error`` says how far lines may
    be from the bows of a drawing, in m; 0 leaves that to the format.
    """
    chosen = format_of(name)
    if not data:
        raise FormatError("the file is empty")
    if chosen.apart:
        return read_apart(chosen.ending, data)
    more: dict[str, Any] = {"error": error} if chosen.tolerance else {}
    try:
        return chosen.read(data, parts or {}) if chosen.parts else chosen.read(data, **more)
    except STUMBLES as problem:
        # Readers find what is wrong themselves; this is for the damage that nobody has thought of.
        raise FormatError(f"the file is damaged: {type(problem).__name__}, {problem}") from problem


def write_bytes(geo: Geo, name: str, **options: Any) -> bytes:
    """Return the content of a file called ``name`` that holds ``geo`` as it stands in the world.

    What the format cannot hold is noted.
    """
    chosen = format_of(name)
    for option, value in options.items():
        if value not in chosen.options.get(option, ()):
            raise FormatError(f"{chosen.name} has no option {option}={value}")
    if geo.topology.instance_count and not chosen.instances:
        note(f"{geo.topology.instance_count:,} instances were turned into mesh; {chosen.name} holds none.")
        geo = flatten(geo)
    return chosen.write(geo if chosen.places else to_world(geo), **options)


def read_file(path: str | Path, *, error: float = 0.0) -> Geo:
    """Read a mesh file, and what it names beside it in its own folder; see :func:`read_bytes`."""
    chosen = format_of(str(path))
    size = os.path.getsize(path)
    most = MOST_MAPPED if chosen.mapped else MOST_BYTES
    if size > most:
        raise FormatError(f"the file has {size:,} bytes; {most:,} is the most")
    if chosen.mapped and size > LOADED:
        return _read_mapped(str(path), error)
    return read_bytes(str(path), content_of(Path(path), size), FilesBeside(Path(path).parent), error=error)


def _read_mapped(path: str, error: float) -> Geo:
    """Read a large file piece by piece: its bytes come from the disk as the reader goes along, and go again."""
    with open(path, "rb") as file:
        mapped: Any = mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ)
        mapped.madvise(mmap.MADV_SEQUENTIAL)
    geo = read_bytes(path, mapped, error=error)
    # Nothing of the result may lie in the file: somebody may change that.
    held = np.frombuffer(mapped, np.uint8)
    for kind, named in geo.attributes.items():
        for name, found in named.items():
            if np.may_share_memory(found.values, held):
                geo = geo.with_attribute(kind, name, replace(found, values=as_readonly(np.array(found.values))))
    return geo


def write_file(geo: Geo, path: str | Path, **options: Any) -> None:
    """Write a mesh file, whole or not at all."""
    data = write_bytes(geo, str(path), **options)
    part = Path(f"{path}.part")
    part.write_bytes(data)
    part.replace(path)


file_access.read, file_access.write = read_file, write_file
