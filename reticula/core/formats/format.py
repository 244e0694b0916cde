"""What a file format is."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from reticula.core.geometry import Geo

__all__ = ["EVERYTHING", "Format"]

EVERYTHING = "everything"


@dataclass(frozen=True)
class Format:
    """How to read and write one format.

    ``ending`` is that of its files, ``keeps`` what it holds of a geometry; ``options`` are those of its writer, each
    with its words, the usual one first. One without ``faces`` holds points alone.
    """

    ending: str
    name: str
    read: Callable[[bytes], Geo]
    write: Callable[..., bytes]
    keeps: str
    options: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    faces: bool = True
