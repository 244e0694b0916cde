"""Passwords, hashed by Argon2id with the parameters that argon2-cffi recommends (RFC 9106, low memory)."""

from __future__ import annotations

import threading
from functools import cache

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from argon2.profiles import RFC_9106_LOW_MEMORY

from reticula.store.errors import StoreError

__all__ = ["fits", "hashed"]

LEAST, MOST = 10, 200
_hasher = PasswordHasher.from_parameters(RFC_9106_LOW_MEMORY)
_turns = threading.BoundedSemaphore(2)
"""Each one takes 64 MB for a moment."""


@cache
def _nobody() -> str:
    return _hasher.hash("nobody has this password")


def hashed(password: str) -> str:
    """Return the hash to keep. Raises StoreError for one that is too short or too long."""
    if not LEAST <= len(password) <= MOST:
        raise StoreError(f"A password has {LEAST} to {MOST} letters.")
    with _turns:
        return _hasher.hash(password.encode("utf-8", "surrogatepass"))


def fits(password: str, kept: str | None) -> bool:
    """Return whether a password is the one that was kept; takes as long where there is no such person (None)."""
    with _turns:
        try:
            given = password[: MOST + 1].encode("utf-8", "surrogatepass")
            return _hasher.verify(kept or _nobody(), given) and bool(kept)
        except (VerificationError, InvalidHashError):
            return False
