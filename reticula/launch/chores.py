"""What a supervisor sees to: each chore is tried again for ever, with pauses of its own, and holds up no other one."""

from __future__ import annotations

import http.client
import time
from collections.abc import Callable
from dataclasses import dataclass

__all__ = ["FAILURES", "PAUSES", "Chore"]

PAUSES = (0.5, 1.0, 2.0, 4.0, 8.0, 15.0, 30.0)
"""Seconds until something is tried again; the last one goes on for ever."""
STEADY = 60.0
"""After so many seconds without trouble the first pause is taken again, as it is once the thing was done."""
FAILURES = (RuntimeError, OSError, ValueError, http.client.HTTPException)
"""What goes over by itself, or when somebody makes room."""


@dataclass
class Chore:
    """Something that is done whenever it is ``needed``; ``tell(what, error, seconds)`` says why it is tried later."""

    what: str
    needed: Callable[[], bool]
    do: Callable[[], None]
    tell: Callable[[str, Exception, float], None]
    again: Callable[[str], None] = lambda what: None
    """Told when it is needed although it was done before."""
    troubles: int = 0
    last_trouble: float = -STEADY
    not_before: float = 0.0
    was_done: bool = False

    def see_to_it(self) -> bool:
        """Do it if it is needed and its pause is over; return whether there is nothing left to do."""
        if not self.needed():
            self.was_done = True
            return True
        now = time.monotonic()
        if now < self.not_before:
            return False
        if self.was_done:
            self.again(self.what)
            self.was_done = False
        try:
            self.do()
        except FAILURES as error:
            self._put_off(error)
            return False
        self.was_done = not self.needed()
        if self.was_done:
            self.troubles = 0
        return self.was_done

    def _put_off(self, error: Exception) -> None:
        now = time.monotonic()
        self.troubles = self.troubles + 1 if now - self.last_trouble < STEADY else 1
        seconds = PAUSES[min(self.troubles, len(PAUSES)) - 1]
        self.last_trouble, self.not_before = now, now + seconds
        self.tell(self.what, error, seconds)
