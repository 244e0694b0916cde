"""Whether database and depot answer: asked in the background, so that nobody waits for it for long."""

from __future__ import annotations

import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from dataclasses import dataclass

__all__ = ["Pulse", "Seen", "depot_answers"]

EVERY = 2.0
FRESH = 1.0
"""Seconds for which whoever asks waits for an answer of this moment."""


@dataclass(frozen=True)
class Seen:
    """What answered when it was asked last; ``depot`` is None if there is none."""

    database: bool
    depot: bool | None


class Pulse:
    """Asks ``database`` and ``depot`` (None: there is none) in a thread each, for as long as the process lives.

    Questions of many askers at one moment are one.
    """

    def __init__(self, database: Callable[[], bool], depot: Callable[[], bool] | None) -> None:
        self._database = _Asked("database", database)
        self._depot = None if depot is None else _Asked("depot", depot)

    def seen(self) -> Seen:
        """Return what answers now; what does not answer within a second does not."""
        parts = [part for part in (self._database, self._depot) if part is not None]
        asked = [part.ask_now() for part in parts]
        limit = time.monotonic() + FRESH
        found = [part.answer(number, limit) for part, number in zip(parts, asked, strict=True)]
        return Seen(found[0], found[1] if self._depot is not None else None)


class _Asked:
    """One part that is asked in a thread of its own."""

    def __init__(self, name: str, ask: Callable[[], bool]) -> None:
        self._ask = ask
        self._more = threading.Condition()
        self._begun = self._ended = 0
        self._wanted = True
        self._answered = False
        threading.Thread(target=self._go_on, name=f"pulse-{name}", daemon=True).start()

    def ask_now(self) -> int:
        """Have it asked; return the number of the question whose answer is of this moment."""
        with self._more:
            self._wanted = True
            self._more.notify_all()
            return self._begun + 1

    def answer(self, number: int, limit: float) -> bool:
        with self._more:
            known = self._more.wait_for(lambda: self._ended >= number, max(limit - time.monotonic(), 0.0))
            return known and self._answered

    def _go_on(self) -> None:
        while True:
            with self._more:
                self._more.wait_for(lambda: self._wanted, EVERY)
                self._wanted = False
                self._begun += 1
            try:
                answered = self._ask()
            except Exception:
                answered = False
            with self._more:
                self._answered, self._ended = answered, self._begun
                self._more.notify_all()


def depot_answers(address: str) -> bool:
    """Return whether a depot lists what it has, within a few seconds."""
    try:
        with urllib.request.urlopen(f"{address}/packages", timeout=3.0) as answer:
            return bool(answer.status == 200)
    except (OSError, ValueError):
        return False
