"""Where time goes: named spans of work, as sums for a node and as a list for a whole run.

A span costs well under a microsecond where nobody records. Threads inherit what records through their context.
"""

from __future__ import annotations

import contextlib
import threading
import time
from collections.abc import Iterator, Sequence
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import Any

__all__ = ["Recording", "Span", "chrome_trace", "recording", "span"]


@dataclass(frozen=True)
class Span:
    """One piece of work: ``begin`` and ``seconds`` by the clock of :func:`time.perf_counter`."""

    name: str
    begin: float
    seconds: float
    thread: int


@dataclass
class Recording:
    """The spans that ended while this recorded, those inside others too."""

    spans: list[Span] = field(default_factory=list)
    outer: Recording | None = None

    def add(self, made: Span) -> None:
        self.spans.append(made)
        if self.outer is not None:
            self.outer.add(made)

    def sums(self) -> dict[str, float]:
        """Return the seconds by name, the longest first."""
        found: dict[str, float] = {}
        for one in self.spans:
            found[one.name] = found.get(one.name, 0.0) + one.seconds
        return dict(sorted(found.items(), key=lambda entry: -entry[1]))


_now: ContextVar[Recording | None] = ContextVar("recording", default=None)


@contextlib.contextmanager
def recording() -> Iterator[Recording]:
    """Record what is done inside; what records around this gets it as well."""
    made = Recording(outer=_now.get())
    token = _now.set(made)
    try:
        yield made
    finally:
        _now.reset(token)


@contextlib.contextmanager
def span(name: str) -> Iterator[None]:
    """Take the time of what is done inside, if somebody records."""
    found = _now.get()
    if found is None:
        yield
        return
    begin = time.perf_counter()
    try:
        yield
    finally:
        found.add(Span(name, begin, time.perf_counter() - begin, threading.get_ident()))


def chrome_trace(spans: Sequence[Span]) -> dict[str, Any]:
    """Return spans in the Trace Event Format (JSON object form, complete events), which browsers' profilers open."""
    start = min((one.begin for one in spans), default=0.0)
    events = [
        {
            "name": one.name,
            "ph": "X",
            "ts": (one.begin - start) * 1e6,
            "dur": one.seconds * 1e6,
            "pid": 1,
            "tid": one.thread,
        }
        for one in sorted(spans, key=lambda one: one.begin)
    ]
    return {"traceEvents": events, "displayTimeUnit": "ms"}
