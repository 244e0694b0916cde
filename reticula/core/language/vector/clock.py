"""When a run must end."""

from __future__ import annotations

import time
from collections.abc import Callable

from reticula.core.errors import LimitError, Stopped

__all__ = ["Clock"]


class Clock:
    """Says when a run must end: after ``seconds``, or when ``stop`` says so."""

    def __init__(self, seconds: float, stop: Callable[[], bool] | None = None) -> None:
        self.limit = seconds
        self.end = time.monotonic() + seconds
        self.stop = stop

    def look(self) -> None:
        """Raise LimitError or Stopped if the time has come."""
        if time.monotonic() > self.end:
            raise LimitError(
                f"the script ran for {self.limit:g} s, which is the most; a loop may never end, or "
                "run on fewer elements"
            )
        if self.stop is not None and self.stop():
            raise Stopped("the script was stopped")
