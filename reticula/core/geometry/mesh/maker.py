"""Who makes elements. It goes into the names of those that come from nothing, so that generators differ."""

from __future__ import annotations

import contextlib
import hashlib
from collections.abc import Iterator
from contextvars import ContextVar

__all__ = ["made_by", "maker"]

_maker: ContextVar[int] = ContextVar("maker", default=0)


def maker() -> int:
    """Return the number of whoever makes elements now: 0 outside of any operator, else below 2**62."""
    return _maker.get()


@contextlib.contextmanager
def made_by(name: str, seed: int = 0) -> Iterator[None]:
    """Let an operator, with its seed, name what is made from nothing inside the block."""
    digest = hashlib.blake2b(f"{name}/{seed}".encode(), digest_size=8).digest()
    token = _maker.set(int.from_bytes(digest, "little") >> 2)
    try:
        yield
    finally:
        _maker.reset(token)
