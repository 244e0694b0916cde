"""Things with many arrays as files: written as they lie in memory, read back as the file itself, mapped."""

from __future__ import annotations

import mmap
import pickle
from dataclasses import dataclass
from pathlib import Path
from typing import Any

__all__ = ["ArrayFile", "read_arrays"]

ALIGNED = 64
"""Arrays begin at multiples of this many bytes."""


@dataclass(frozen=True)
class ArrayFile:
    """A file that is about to be written: what describes the thing, then its arrays as they are."""

    head: bytes
    raws: list[memoryview]

    @classmethod
    def of(cls, thing: Any) -> ArrayFile:
        """Describe a thing that can be pickled; its arrays are not copied."""
        buffers: list[pickle.PickleBuffer] = []
        described = pickle.dumps(thing, protocol=5, buffer_callback=buffers.append)
        raws = [buffer.raw() for buffer in buffers]
        return cls(pickle.dumps((described, [raw.nbytes for raw in raws])), raws)

    @property
    def size(self) -> int:
        """Bytes of the file."""
        return max(_padded(8 + len(self.head)) + sum(_padded(raw.nbytes) for raw in self.raws), 1)

    def write(self, path: Path) -> None:
        """Write the file; raise OSError if that fails."""
        with path.open("wb") as file:
            file.write(len(self.head).to_bytes(8) + self.head)
            for raw in self.raws:
                file.seek(_padded(file.tell()))
                file.write(raw)
            file.truncate(self.size)


def read_arrays(path: Path) -> Any:
    """Return what was written by ourselves; its arrays are the file itself, mapped and read-only.

    Raises OSError, ValueError, EOFError or UnpicklingError if the file is not there or damaged. What is read is
    trusted: only files that nobody else writes may be given.
    """
    with path.open("rb") as file:
        mapped = memoryview(mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ))
    begin = 8 + int.from_bytes(mapped[:8])
    described, sizes = pickle.loads(mapped[8:begin])
    buffers = []
    for size in sizes:
        begin = _padded(begin)
        buffers.append(mapped[begin : begin + size])
        begin += size
    return pickle.loads(described, buffers=buffers)


def _padded(size: int) -> int:
    return -(-size // ALIGNED) * ALIGNED
