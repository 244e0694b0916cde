"""Results kept between evaluations, within a memory budget."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field

import numpy as np

from reticula.core.diagnostics import Note
from reticula.core.geometry import Geo

__all__ = ["Cache", "Entry"]

GIGABYTE = 1024**3


@dataclass
class Entry:
    """A result (one geometry per output), what was noted while it was made, and how long that took in seconds."""

    outputs: tuple[Geo, ...]
    notes: tuple[Note, ...]
    seconds: float
    arrays: dict[int, int] = field(default_factory=dict)
    used: int = 0


class Cache:
    """Results by key. When the budget is exceeded, those go first that are cheapest to make again per byte freed.

    Arrays that several results share are counted once.
    """

    def __init__(self, budget: int = 2 * GIGABYTE) -> None:
        self.budget = budget
        self.bytes = 0
        self._entries: dict[str, Entry] = {}
        self._owners: Counter[int] = Counter()
        self._clock = 0

    def __contains__(self, key: str) -> bool:
        return key in self._entries

    def __len__(self) -> int:
        return len(self._entries)

    def get(self, key: str) -> Entry | None:
        """Return the entry of a key, or None."""
        entry = self._entries.get(key)
        if entry:
            self._clock += 1
            entry.used = self._clock
        return entry

    def put(self, key: str, entry: Entry) -> None:
        """Keep an entry, giving up others if needed."""
        if key in self._entries:
            self._drop(key)
        entry.arrays = {key: size for geo in entry.outputs for key, size in _arrays(geo).items()}
        for array, size in entry.arrays.items():
            if not self._owners[array]:
                self.bytes += size
            self._owners[array] += 1
        self._clock += 1
        entry.used = self._clock
        self._entries[key] = entry
        while self.bytes > self.budget and len(self._entries) > 1:
            self._drop(min((k for k in self._entries if k != key), key=self._worth))

    def _worth(self, key: str) -> tuple[float, int]:
        entry = self._entries[key]
        freed = sum(size for array, size in entry.arrays.items() if self._owners[array] == 1)
        return (entry.seconds / (freed or 1), entry.used) if freed else (float("inf"), entry.used)

    def _drop(self, key: str) -> None:
        for array, size in self._entries.pop(key).arrays.items():
            self._owners[array] -= 1
            if not self._owners[array]:
                del self._owners[array]
                self.bytes -= size


def _arrays(geo: Geo) -> dict[int, int]:
    shape = geo.topology
    held: list[np.ndarray | None] = [shape.face_start, shape.corner_point, shape.curve_start, shape.curve_point]
    for named in geo.attributes.values():
        for attribute in named.values():
            held += [attribute.values, attribute.start]
    found: dict[int, int] = {}
    for prototype in geo.prototypes:
        found |= _arrays(prototype)
    for array in held:
        if array is not None:
            base = array if array.base is None else array.base
            found[id(base)] = int(getattr(base, "nbytes", array.nbytes))
    return found
