"""Arrays on their way to the browser: files named by a hash of their content, so that none is sent twice."""

from __future__ import annotations

import hashlib
import os
import time
from pathlib import Path
from typing import Any, Protocol

import numpy as np

from reticula.contract.answers import BufferRef
from reticula.core.spans import span

__all__ = ["BufferFiles", "Buffers", "MemoryBuffers", "reference_of"]

GRACE = 600.0


class Buffers(Protocol):
    """Where arrays for a picture are put."""

    def keep(self, array: np.ndarray[Any, Any]) -> BufferRef:
        """Keep an array and return how to fetch it: digest, dtype and shape."""
        ...


def reference_of(array: np.ndarray[Any, Any]) -> BufferRef:
    """Return how a contiguous array is fetched, wherever it is kept: digest, dtype and shape."""
    digest = hashlib.blake2b(array.data, digest_size=16, key=array.dtype.str.encode()).hexdigest()
    return {"digest": digest, "dtype": array.dtype.str.lstrip("<|"), "shape": list(array.shape)}


class MemoryBuffers:
    """Raw little-endian arrays by their digest, kept where no service hands them out."""

    def __init__(self) -> None:
        self.kept: dict[str, bytes] = {}

    def keep(self, array: np.ndarray[Any, Any]) -> BufferRef:
        """Keep an array and return how to find it."""
        made = reference_of(np.ascontiguousarray(array))
        self.kept[made["digest"]] = array.tobytes()
        return made


class BufferFiles:
    """A folder of raw little-endian arrays. Old ones are deleted when the folder grows past ``budget`` bytes."""

    def __init__(self, folder: Path, budget: int = 4 * 1024**3) -> None:
        self.folder = folder
        self.budget = budget
        folder.mkdir(parents=True, exist_ok=True)

    def path(self, digest: str) -> Path:
        """Return the file of a digest; raise ValueError if it is none."""
        if len(digest) != 32 or not set(digest) <= set("0123456789abcdef"):
            raise ValueError("not a digest")
        return self.folder / digest

    def keep(self, array: np.ndarray[Any, Any]) -> BufferRef:
        """Keep an array and return how to fetch it: digest, dtype and shape."""
        with span("buffers"):
            return self._keep(np.ascontiguousarray(array))

    def _keep(self, array: np.ndarray[Any, Any]) -> BufferRef:
        made = reference_of(array)
        path = self.path(made["digest"])
        if path.exists():
            os.utime(path)
        else:
            part = path.with_suffix(f".{os.getpid()}")
            part.write_bytes(array.data)
            part.replace(path)
        return made

    def size(self) -> int:
        """Return how many bytes are kept."""
        return sum(entry.stat().st_size for entry in os.scandir(self.folder) if entry.is_file())

    def tidy(self) -> None:
        """Delete the oldest files over the budget, but none that was used in the last ten minutes."""
        files = sorted((entry.stat().st_mtime, entry.stat().st_size, entry.path) for entry in os.scandir(self.folder))
        total = sum(size for _, size, _ in files)
        for used, size, path in files:
            if total <= self.budget or time.time() - used < GRACE:
                return
            Path(path).unlink(missing_ok=True)
            total -= size
