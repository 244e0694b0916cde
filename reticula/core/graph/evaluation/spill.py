"""Results on disk: those that were dear to make and have no room in memory any more, read back as mapped files."""

from __future__ import annotations

import contextlib
import pickle
import shutil
from collections import OrderedDict
from pathlib import Path
from typing import Any

from reticula.core.graph.evaluation.array_files import ArrayFile, read_arrays

__all__ = ["SpillFiles"]

ROOM = 1024**3
"""Bytes of the disk that are left free."""


class SpillFiles:
    """A folder of results by key, within ``budget`` bytes; those that were not read for the longest time go first.

    The folder is emptied when it is opened. Nothing is lost when the disk is full: what has no room is not kept.
    """

    def __init__(self, folder: Path, budget: int) -> None:
        self.folder, self.budget = folder, budget
        self._sizes: OrderedDict[str, int] = OrderedDict()
        self._bytes = 0
        shutil.rmtree(folder, ignore_errors=True)
        folder.mkdir(parents=True, exist_ok=True)

    def __contains__(self, key: str) -> bool:
        return key in self._sizes

    def __len__(self) -> int:
        return len(self._sizes)

    def put(self, key: str, thing: Any) -> bool:
        """Write something; return whether it is kept."""
        file = ArrayFile.of(thing)
        size = file.size
        if size > self.budget or shutil.disk_usage(self.folder).free < size + ROOM:
            return False
        self.drop(key)
        while self._bytes + size > self.budget:
            self.drop(next(iter(self._sizes)))
        try:
            file.write(self._path(key))
        except OSError:
            self._path(key).unlink(missing_ok=True)
            return False
        self._sizes[key] = size
        self._bytes += size
        return True

    def get(self, key: str) -> Any:
        """Return what was written; its arrays are the file itself, mapped and read-only. None if it is not there, or
        damaged.
        """
        if key not in self._sizes:
            return None
        try:
            found = read_arrays(self._path(key))
        except (OSError, ValueError, EOFError, pickle.UnpicklingError):
            self.drop(key)
            return None
        self._sizes.move_to_end(key)
        return found

    def drop(self, key: str) -> None:
        """Delete a file; arrays that are mapped stay readable until nobody has them any more."""
        if key in self._sizes:
            self._bytes -= self._sizes.pop(key)
            with contextlib.suppress(OSError):
                self._path(key).unlink()

    def _path(self, key: str) -> Path:
        return self.folder / key
