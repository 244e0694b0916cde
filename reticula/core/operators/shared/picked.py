"""Parameters that are set by hand in the view: picked elements and lists of places."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from reticula.core.operators.declaration.parameters import Blend, Parameter
from reticula.core.operators.declaration.parameters.conditions import Condition, each_of, is_number, listed

__all__ = ["IDENTITY", "MOST_PICKED", "Picked", "Places"]

IDENTITY = re.compile(r"[0-9a-fA-F]{1,16}\Z")
"""The stable name of an element, as hexadecimal text."""
PICKED = re.compile(r"[0-9a-fA-F]{1,16}(\+|:[0-9a-fA-F]{1,16}:[0-9a-fA-F]{1,16})?\Z")
MOST_PICKED = 100_000


@dataclass(frozen=True)
class Places(Parameter):
    """A list of places, m ``(N, 3)``."""

    least: int = 0
    widget: ClassVar[str] = "places"
    python: ClassVar[str] = "ArrayLike"

    @property
    def conditions(self) -> Sequence[Condition]:
        return (listed("places", self.least, MOST_PICKED, each_of(3, (is_number,))),)

    @property
    def blend(self) -> Blend:
        return "real"


@dataclass(frozen=True)
class Picked(Parameter):
    """Elements picked by hand, of the kind that the sibling ``kind`` names: their identities as hexadecimal text.

    A ``+`` after a name means the element with all that it is split into: nothing was, at the time it was picked. An
    edge has the names of its ends behind its own, ``name:end:end``.
    """

    on: str = "kind"
    of: str = "geo"
    widget: ClassVar[str] = "picked"
    python: ClassVar[str] = "Sequence[str]"

    def check_plain(self, value: Any) -> list[str]:
        if isinstance(value, (str, bytes)) or not isinstance(value, (list, tuple)) or len(value) > MOST_PICKED:
            self.fail(f"takes a list of up to {MOST_PICKED:,} element names")
        for name in value:
            if not isinstance(name, str) or not PICKED.match(name):
                self.fail(f"{name!r} is not the name of an element (up to 16 hexadecimal digits)")
        return list(dict.fromkeys(name.lower().lstrip("0") or "0" for name in value))

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "on": self.on, "of": self.of}
