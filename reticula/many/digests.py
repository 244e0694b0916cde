"""Names by content: equal ones mean equal bytes."""

from __future__ import annotations

import hashlib
from pathlib import Path

__all__ = ["digest_of_bytes", "digest_of_file"]


def digest_of_bytes(data: bytes) -> str:
    """Return 32 hexadecimal digits; equal ones mean equal bytes."""
    return hashlib.blake2b(data, digest_size=16).hexdigest()


def digest_of_file(path: str | Path) -> str:
    """Return the same of a file, without holding all of it."""
    hasher = hashlib.blake2b(digest_size=16)
    with Path(path).open("rb") as file:
        while part := file.read(1 << 20):
            hasher.update(part)
    return hasher.hexdigest()
