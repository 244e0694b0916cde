"""How long work learns that it is not wanted any more: whoever runs it opens :func:`cancellable`, and the work asks."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator
from contextvars import ContextVar

__all__ = ["cancellable", "should_stop"]

_asked: ContextVar[Callable[[], bool] | None] = ContextVar("stop", default=None)


@contextlib.contextmanager
def cancellable(should_stop: Callable[[], bool] | None) -> Iterator[None]:
    """Let work inside the block know through ``should_stop`` when to end."""
    token = _asked.set(should_stop)
    try:
        yield
    finally:
        _asked.reset(token)


def should_stop() -> Callable[[], bool] | None:
    """Return the question to ask now and then, or None if nobody can stop the work."""
    return _asked.get()
