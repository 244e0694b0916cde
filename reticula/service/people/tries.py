"""How often one may try to come in: after some failures a name, or an address, has to wait, longer each time."""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass

__all__ = ["Tries"]

FREE = 5
"""Failures of one name that cost nothing."""
FREE_OF_ADDRESS = 20
FIRST_PAUSE, LONGEST_PAUSE = 15.0, 900.0
FORGET = 3600.0
MOST_KEPT = 20_000


@dataclass
class _Record:
    failures: int = 0
    last: float = 0.0


class Tries:
    """Counts failures by name and by address while the process lives."""

    def __init__(self) -> None:
        self._records: dict[tuple[str, str], _Record] = {}
        self._lock = threading.Lock()

    def pause(self, name: str, address: str) -> float:
        """Return for how many seconds this name or address has to wait before it may try; an empty name never has."""
        with self._lock:
            of_name = self._left(("name", name), FREE) if name else 0.0
            return max(of_name, self._left(("address", address), FREE_OF_ADDRESS))

    def failed(self, name: str, address: str) -> None:
        with self._lock:
            if len(self._records) > MOST_KEPT:
                self._forget()
            for key in (("name", name), ("address", address)):
                record = self._records.setdefault(key, _Record())
                record.failures += 1
                record.last = time.monotonic()

    def succeeded(self, name: str) -> None:
        with self._lock:
            self._records.pop(("name", name), None)

    def _left(self, key: tuple[str, str], free: int) -> float:
        record = self._records.get(key)
        if record is None or record.failures < free:
            return 0.0
        since = time.monotonic() - record.last
        if since > FORGET:
            del self._records[key]
            return 0.0
        return max(min(FIRST_PAUSE * 2.0 ** (record.failures - free), LONGEST_PAUSE) - since, 0.0)

    def _forget(self) -> None:
        limit = time.monotonic() - FORGET
        self._records = {key: record for key, record in self._records.items() if record.last > limit}
