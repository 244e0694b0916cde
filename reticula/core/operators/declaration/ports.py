"""Where geometries go into an operator, and where they come out."""

from __future__ import annotations

from dataclasses import dataclass

__all__ = ["Input", "Output"]


@dataclass(frozen=True)
class Input:
    """One geometry input. ``many`` takes any number of geometries, in order; one that is ``optional`` may be None.

    One with ``own_space`` is a template: it is not brought into the space of the first input, wherever it stands.
    """

    name: str = "geo"
    help: str = "geometry to work on"
    many: bool = False
    optional: bool = False
    own_space: bool = False

    @property
    def how_many(self) -> str:
        """How many geometries it takes, in words after its name; nothing if that is one."""
        return " (any number)" if self.many else " (may stay empty)" if self.optional else ""


@dataclass(frozen=True)
class Output:
    """One geometry that comes out."""

    name: str = "geo"
    help: str = "the result"
