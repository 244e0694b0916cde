"""Parts of zip files that somebody else wrote."""

from __future__ import annotations

import zipfile

from reticula.core.errors import FormatError

__all__ = ["read_part"]


def read_part(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    """Return a part of an archive, unpacked; raise FormatError once it has more than ``most`` bytes, whatever the
    archive says of its size.
    """
    with archive.open(name) as part:
        found = part.read(most + 1)
    if len(found) > most:
        raise FormatError(f"'{name}' has more than {most:,} bytes; nothing so large belongs there")
    return found
