"""A proof sheet that somebody else wrote, as evaluators read it: one zip file of a description and small pictures."""

from __future__ import annotations

import json
import re
import zipfile
import zlib
from pathlib import Path
from typing import Any

from reticula.core.errors import FormatError
from reticula.core.formats.shared.zip_parts import read_part
from reticula.core.graph.structure.extent import check_depth
from reticula.workers.drawn import DRAWN

__all__ = ["ABOUT", "PICTURES", "unpack_sheet"]

ABOUT = "sheet.json"
PICTURES = "pictures/"
MOST_FILES = 10_001
MOST_JSON = 64 * 1024**2
MOST_PICTURE = 16 * 1024**2
"""Bytes of one picture, unpacked; those of ours have less than one MB."""
MOST_BYTES = 2 * 1024**3
NAME = re.compile(rf"{re.escape(PICTURES)}([0-9a-f]{{32}}{re.escape(DRAWN)})\Z")


def unpack_sheet(path: Path, folder: Path) -> dict[str, Any]:
    """Return what a file of a proof sheet says, and write its pictures into a folder under their names.

    Raises FormatError if it is malformed, too large, or holds what no sheet has.
    """
    try:
        with zipfile.ZipFile(path) as archive:
            return _unpacked(archive, folder)
    except (
        zipfile.BadZipFile,
        NotImplementedError,
        EOFError,
        OSError,
        RuntimeError,  # RecursionError, too
        ValueError,
        zlib.error,
    ) as error:
        raise FormatError(f"this is not a whole proof sheet: {error or type(error).__name__}") from None


def _unpacked(archive: zipfile.ZipFile, folder: Path) -> dict[str, Any]:
    names = archive.namelist()
    if ABOUT not in names:
        raise FormatError(f"there is no {ABOUT} in it, so this is not a proof sheet")
    if len(names) > MOST_FILES or len(set(names)) < len(names):
        raise FormatError(f"a proof sheet holds up to {MOST_FILES:,} files, each once")
    about = json.loads(read_part(archive, ABOUT, MOST_JSON))
    if not isinstance(about, dict):
        raise FormatError(f"{ABOUT} says nothing of a proof sheet")
    check_depth(about, ABOUT)
    json.dumps(about, ensure_ascii=False, allow_nan=False).encode()  # else no database and no page takes it
    folder.mkdir(exist_ok=True)
    total = 0
    for name in names:
        if name == ABOUT:
            continue
        found = NAME.match(name)
        if found is None:
            raise FormatError(f"'{name[:80]}' is in it, which no proof sheet has")
        data = read_part(archive, name, MOST_PICTURE)
        _check_picture(data, name)
        total += len(data)
        if total > MOST_BYTES:
            raise FormatError(f"the proof sheet has more than {MOST_BYTES:,} bytes of pictures")
        folder.joinpath(found[1]).write_bytes(data)
    return about


def _check_picture(data: bytes, name: str) -> None:
    """Refuse what :func:`reticula.workers.drawn.drawn_file` does not write, and what a page could not take."""
    inflating = zlib.decompressobj()
    plain = inflating.decompress(data, MOST_PICTURE)
    if not inflating.eof or inflating.unused_data:
        raise FormatError(f"'{name}' is not one whole picture of at most {MOST_PICTURE:,} bytes")
    line, _, rest = plain.partition(b"\n")
    told = json.loads(line)
    arrays = told.get("arrays") if isinstance(told, dict) and isinstance(told.get("look"), dict) else None
    if not isinstance(arrays, list) or sum(map(_size, arrays)) != len(rest):
        raise FormatError(f"'{name}' is no picture of a variant")


def _size(told: object) -> int:
    """Return the bytes of an array, as its digest and they are told."""
    if isinstance(told, list) and len(told) == 2 and type(told[1]) is int and told[1] >= 0:
        return told[1]
    raise FormatError("a picture of a variant says nothing of its arrays")
