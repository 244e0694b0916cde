"""What a file format is."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field

from reticula.core.geometry import Geo

__all__ = ["ENCODING", "EVERYTHING", "Format"]

EVERYTHING = "everything"
ENCODING = {"encoding": "binary: smaller and faster; ascii: can be read and mended by hand"}


@dataclass(frozen=True)
class Format:
    """How to read and write one format.

    ``ending`` is that of its files, ``keeps`` what it holds of a geometry; ``options`` are those of its writer, each
    with its words, the usual one first, and ``about`` says what each is for. One without ``faces`` holds points alone.
    One with ``instances`` is given them as they are, one with ``places`` a shape in its own space. One with ``parts``
    may name files beside it, which ``read`` takes as a second argument, by name. The reader of one with ``tolerance``
    is told as ``error`` how far lines may be from the bows of the file, in m. ``library`` names what does the work, if
    it is not ours; a damaged file may upset one that is read ``apart``. Without ``writes`` it is only read. ``frames``
    writes a shape for each frame into one file, at so many frames per second. The reader of one that is ``mapped``
    takes any buffer for bytes, so that large files are never loaded.
    """

    ending: str
    name: str
    read: Callable[..., Geo]
    write: Callable[..., bytes]
    keeps: str
    options: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    about: Mapping[str, str] = field(default_factory=dict)
    faces: bool = True
    instances: bool = False
    parts: bool = False
    tolerance: bool = False
    places: bool = False
    apart: bool = False
    library: str = ""
    writes: bool = True
    mapped: bool = False
    frames: Callable[[Iterable[tuple[float, Geo]], float], bytes] | None = None
