"""What still works and will go: said to whoever uses it, for two minor releases (``docs/stability.md``)."""

from __future__ import annotations

import warnings
from dataclasses import dataclass

__all__ = ["Deprecation"]


@dataclass(frozen=True)
class Deprecation:
    """Something public that goes: its name, what to use instead, and the release that has it no more."""

    what: str
    instead: str
    goes_in: str

    @property
    def text(self) -> str:
        """All of it in a sentence."""
        return f"{self.what} is deprecated: use {self.instead} instead; it goes in {self.goes_in}"

    def tell(self, stacklevel: int = 3) -> None:
        """Warn: on the card where an operator runs in a graph, else by a DeprecationWarning of Python."""
        from reticula.core.context import Note, current  # geometry comes along: only who is warned waits for it

        gathered = current().notes
        if gathered is None:
            warnings.warn(self.text, DeprecationWarning, stacklevel=stacklevel)
        else:
            gathered.append(Note("warning", self.text))
