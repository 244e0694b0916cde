"""What ends at some time, and wakes those who wait for that."""

from __future__ import annotations

import threading
from collections.abc import Callable

__all__ = ["Ending"]


class Ending:
    """Base of what can be waited for without a thread. ``finished`` is set once it has ended, from whatever thread."""

    def __init__(self) -> None:
        self.finished = threading.Event()
        self._to_wake: list[Callable[[], None]] = []
        self._waking = threading.Lock()

    def when_ended(self, wake: Callable[[], None]) -> None:
        """Call ``wake`` once when it has ended; at once if it has."""
        with self._waking:
            if not self.finished.is_set():
                self._to_wake.append(wake)
                return
        wake()

    def wake_all(self) -> None:
        """It has ended: wake all who wait for that."""
        with self._waking:
            self.finished.set()
            to_wake, self._to_wake = self._to_wake, []
        for wake in to_wake:
            wake()

    def given_up(self) -> None:
        """Whoever waited for it does not any more."""
