"""What can go wrong while reading or writing the store."""

from __future__ import annotations

from typing import Any

__all__ = ["NameTaken", "NotFound", "Stale", "StoreError"]


class StoreError(Exception):
    """Base; the message is written for the person at the screen."""


class NotFound(StoreError):
    """What was asked for does not exist (any more)."""


class NameTaken(StoreError):
    """The name is in use in this project."""


class Stale(StoreError):
    """An edit was made against a revision that is not the newest; ``current`` is the graph as it is now."""

    def __init__(self, current: dict[str, Any]) -> None:
        super().__init__("The graph was changed elsewhere in the meantime; this is its current state.")
        self.current = current
