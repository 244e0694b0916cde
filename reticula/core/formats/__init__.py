"""Open formats of meshes, points and tables. A file's ending says which; each is one module, ``read`` and ``write``."""

from __future__ import annotations

import importlib
import os
import pkgutil
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.formats.apart import read_apart
from reticula.core.formats.format import EVERYTHING, Format
from reticula.core.formats.shared.beside import FilesBeside
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.mesh.file_access import file_access

__all__ = ["FORMATS", "MOST_BYTES", "Format", "format_of", "read_bytes", "read_file", "write_bytes", "write_file"]

MOST_BYTES = 2_000_000_000


FORMATS: dict[str, Format] = {}
"""All formats by their ending, those that keep everything first, those of points alone last. Every module of this
package that declares one as ``FORMAT``, or several as ``FORMATS``, is found by itself; none needs to be listed."""

for _module in pkgutil.iter_modules(__path__, f"{__name__}."):
    _made = importlib.import_module(_module.name)
    for _found in (getattr(_made, "FORMAT", None), *getattr(_made, "FORMATS", ())):
        if isinstance(_found, Format):
            FORMATS[_found.ending] = _found
FORMATS = dict(sorted(FORMATS.items(), key=lambda entry: (entry[1].keeps != EVERYTHING, not entry[1].faces, entry[0])))


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
    if chosen.tolerance:
        return chosen.read(data, error=error)
    return chosen.read(data, parts or {}) if chosen.parts else chosen.read(data)


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
    format_of(str(path))
    size = os.path.getsize(path)
    if size > MOST_BYTES:
        raise FormatError(f"the file has {size:,} bytes; {MOST_BYTES:,} is the most")
    return read_bytes(str(path), Path(path).read_bytes(), FilesBeside(Path(path).parent), error=error)


def write_file(geo: Geo, path: str | Path, **options: Any) -> None:
    """Write a mesh file, whole or not at all."""
    data = write_bytes(geo, str(path), **options)
    part = Path(f"{path}.part")
    part.write_bytes(data)
    part.replace(path)


file_access.read, file_access.write = read_file, write_file
