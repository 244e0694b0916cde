"""How far the reading of a large file is, for whoever wants to know: ``using(on_read=...)``."""

from __future__ import annotations

from pathlib import Path

from reticula.core.context import current

__all__ = ["content_of", "told"]

PIECE = 16_000_000
LOADING = 0.3
"""The share of the work that loading stands for."""


def told(share: float) -> None:
    """Tell which share of a file is read, 0 to 1."""
    listener = current().on_read
    if listener is not None:
        listener(share)


def content_of(path: Path, size: int) -> bytes:
    """Return the content of a file, telling after each piece how far it is."""
    if size <= PIECE:
        return path.read_bytes()
    made = bytearray()
    with path.open("rb") as file:
        while piece := file.read(PIECE):
            made += piece
            told(LOADING * min(len(made) / size, 1.0))
    return bytes(made)
