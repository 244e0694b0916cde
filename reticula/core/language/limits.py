"""Every limit on a formula or script, in one place."""

from __future__ import annotations

__all__ = [
    "BLOCK",
    "DEEPEST",
    "LONGEST",
    "MOST_CALLS_DEEP",
    "MOST_GIVEN",
    "MOST_ITEMS",
    "MOST_LISTED",
    "MOST_MADE",
    "MOST_NODES",
    "MOST_PRINTED",
    "MOST_SECONDS",
    "MOST_VARIANTS",
]


LONGEST = 20_000
"""Letters of a text."""
DEEPEST = 60
"""Levels of brackets, blocks and operators in a text."""
MOST_NODES = 5_000
"""Parts (names, numbers, operators, statements) of a text."""
MOST_VARIANTS = 200
"""Functions of a script, counted once for each combination of types they are called with."""
MOST_CALLS_DEEP = 64
"""Calls within calls while a script runs."""
MOST_SECONDS = 20.0
"""Time that one script may run."""
MOST_ITEMS = 1_000_000
"""Items of one list."""
MOST_LISTED = 50_000_000
"""Items of one list over all elements that are worked on at once."""
MOST_MADE = 5_000_000
"""Points, curves and faces that one script may make or remove."""
MOST_GIVEN = 30_000_000
"""Values that one script may give to other elements, and points of the curves and faces that it makes."""
MOST_PRINTED = 200
"""Lines that one script may print."""
BLOCK = 65_536
"""Elements that the vector back end works on at once when a script has loops or lists."""
