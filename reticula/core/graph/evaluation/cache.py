"""Results kept between evaluations, within a memory budget."""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable
from dataclasses import dataclass, field, replace

from reticula.core.diagnostics import Note
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.held_memory import growth, held_arrays
from reticula.core.graph.evaluation.spill import SpillFiles

__all__ = ["Cache", "Entry"]

GIGABYTE = 1024**3
READ = 200e6
"""Bytes that are taken to be written and read in a second: results that are made faster are not kept on disk."""

OBJECTS = 6 * 1024
"""Bytes that the Python objects of a result take besides its arrays (measured: 6 to 7 kB for a box)."""
MANY, ROOM = 256, 0.9
"""Of more results than this so many are given up at once that they fill this share of the budget."""


@dataclass
class Entry:
    """A result (one geometry per output), what was noted while it was made, and how long that took in seconds, also by
    parts of the work.
    """

    outputs: tuple[Geo, ...]
    notes: tuple[Note, ...]
    seconds: float
    parts: dict[str, float] = field(default_factory=dict)
    arrays: dict[int, int] = field(default_factory=dict)
    counted: Hashable = None
    used: int = 0


class Cache:
    """Results by key. When the budget is exceeded, those go first that are cheapest to make again per byte freed.

    Arrays that several results share are counted once; what hangs on a result (adjacency, normals, trees) counts, too.
    With ``spill`` those that are read faster than made go to disk instead.
    """

    def __init__(self, budget: int = 2 * GIGABYTE, spill: SpillFiles | None = None) -> None:
        self.budget, self.spill = budget, spill
        self.bytes = 0
        self._entries: dict[str, Entry] = {}
        self._owners: Counter[int] = Counter()
        self._clock = 0
        self._touched: set[str] = set()

    def __contains__(self, key: str) -> bool:
        return key in self._entries or (self.spill is not None and key in self.spill)

    def __len__(self) -> int:
        return len(self._entries)

    def get(self, key: str) -> Entry | None:
        """Return the entry of a key, or None."""
        entry = self._entries.get(key)
        if entry is None and self.spill is not None:
            found: Entry | None = self.spill.get(key)
            if found is not None:
                self.put(key, found)
                return found
        if entry:
            self._clock += 1
            entry.used = self._clock
            self._touched.add(key)
        return entry

    def put(self, key: str, entry: Entry) -> None:
        """Keep an entry, giving up others if needed."""
        if key in self._entries:
            self._uncount(self._entries.pop(key))
        self._clock += 1
        entry.used = self._clock
        self._entries[key] = entry
        self._count(entry)
        self._touched.add(key)
        self._give_up(key)

    def settle(self) -> None:
        """Count again what was used since: adjacency, normals and trees are worked out when first needed, and kept."""
        for key in self._touched:
            entry = self._entries.get(key)
            if entry is not None and entry.counted != _growth(entry):
                self._uncount(entry)
                self._count(entry)
        self._touched.clear()
        self._give_up("")

    def _give_up(self, newest: str) -> None:
        """Give up what is worth least, but never the ``newest``; of many some more, so that this is done rarely."""
        while self.bytes > self.budget and len(self._entries) > 1:
            others = (key for key in self._entries if key != newest)
            if len(self._entries) <= MANY:
                self._drop(min(others, key=self._worth))
                continue
            for key in sorted(others, key=self._worth):
                if self.bytes <= self.budget * ROOM:
                    break
                self._drop(key)

    def _count(self, entry: Entry) -> None:
        entry.counted = _growth(entry)
        entry.arrays = {key: size for geo in entry.outputs for key, size in held_arrays(geo).items()}
        self.bytes += OBJECTS
        for array, size in entry.arrays.items():
            if not self._owners[array]:
                self.bytes += size
            self._owners[array] += 1

    def _uncount(self, entry: Entry) -> None:
        self.bytes -= OBJECTS
        for array, size in entry.arrays.items():
            self._owners[array] -= 1
            if not self._owners[array]:
                del self._owners[array]
                self.bytes -= size

    def _worth(self, key: str) -> tuple[float, int]:
        entry = self._entries[key]
        freed = sum(size for array, size in entry.arrays.items() if self._owners[array] == 1)
        return (entry.seconds / (freed or 1), entry.used) if freed else (float("inf"), entry.used)

    def _drop(self, key: str) -> None:
        entry = self._entries.pop(key)
        self._uncount(entry)
        if self.spill is not None and key not in self.spill and entry.seconds * READ > sum(entry.arrays.values()):
            self.spill.put(key, replace(entry, arrays={}, counted=None))


def _growth(entry: Entry) -> Hashable:
    return tuple(map(growth, entry.outputs))
