"""Where time goes: named spans of work, as sums for a node, and one by one where somebody wants a trace."""

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
    """Seconds by name of the spans that ended here, those of recordings inside left out; ``trace`` has those, too."""

    sums: dict[str, float] = field(default_factory=dict)
    trace: list[Span] | None = None

    def add(self, made: Span) -> None:
        self.sums[made.name] = self.sums.get(made.name, 0.0) + made.seconds
        if self.trace is not None:
            self.trace.append(made)


_now: ContextVar[Recording | None] = ContextVar("recording", default=None)


@contextlib.contextmanager
def recording(*, traced: bool = False) -> Iterator[Recording]:
    """Record what is done inside; a trace that is kept around this, or begun here, gets every span."""
    outer = _now.get()
    made = Recording(trace=outer.trace if outer is not None and not traced else [] if traced else None)
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
