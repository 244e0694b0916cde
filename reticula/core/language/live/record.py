"""What was seen while a text ran on one element: values by their place in the text, loops by their rounds."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any, Literal

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language.parse import Place

__all__ = ["Block", "Live", "Loop", "LoopKind", "Mark", "Reading", "Seen"]

LoopKind = Literal["for", "while", "call", "items"]
KEPT_ROUNDS = 100
"""Rounds of a loop that are kept from its beginning, and as many from its end."""


@dataclass(frozen=True)
class Seen:
    """A value: as people read it, as plain data (None where it is no plain value), and the word for its type."""

    text: str
    value: Any
    type: str


@dataclass(frozen=True)
class Mark:
    """What a question found, to be drawn: from where it was asked, to each place found, m; ``found`` is no for a miss,
    whose end is where it looked last.
    """

    question: str
    place: Place
    begin: tuple[float, ...]
    ends: tuple[tuple[float, ...], ...]
    found: bool


@dataclass(frozen=True)
class Reading:
    """A value of an element that the text read: of the input ``owner`` (none: of what it runs on)."""

    owner: str
    kind: Kind
    name: str
    element: int


@dataclass
class Loop:
    """What is done again and again: a loop, the calls of a function, or the items of a list; ``total`` counts all
    rounds, of many only the first and the last ones are kept.
    """

    what: LoopKind
    name: str
    total: int = 0
    first: list[tuple[int, Block]] = field(default_factory=list)
    last: deque[tuple[int, Block]] = field(default_factory=lambda: deque(maxlen=KEPT_ROUNDS))

    def begin_round(self) -> Block:
        """Return where the next round is noted."""
        made = Block()
        into = self.first if self.total < KEPT_ROUNDS else self.last
        into.append((self.total, made))
        self.total += 1
        return made

    @property
    def rounds(self) -> list[tuple[int, Block]]:
        """The rounds that are kept, with their numbers, counted from 0."""
        return [*self.first, *self.last]


@dataclass
class Block:
    """What was seen in some statements that ran once: parts of expressions, what each line gave, loops, marks."""

    seen: dict[Place, Seen] = field(default_factory=dict)
    lines: dict[int, str] = field(default_factory=dict)
    loops: dict[Place, Loop] = field(default_factory=dict)
    marks: list[Mark] = field(default_factory=list)

    def loop(self, place: Place, what: LoopKind, name: str) -> Loop:
        """Return the loop that stands at a place, a new one the first time."""
        if place not in self.loops:
            self.loops[place] = Loop(what, name)
        return self.loops[place]

    def every(self) -> Iterator[Block]:
        """Yield the block and all blocks inside of its loops."""
        yield self
        for loop in self.loops.values():
            for _, inside in loop.rounds:
                yield from inside.every()

    def describe(self) -> dict[str, Any]:
        """Return it as plain data."""
        return {
            "seen": [[*place, one.text, one.type] for place, one in self.seen.items()],
            "lines": [[line, text] for line, text in sorted(self.lines.items())],
            "loops": [
                {
                    "place": list(place),
                    "what": loop.what,
                    "name": loop.name,
                    "total": loop.total,
                    "rounds": [{"number": number, "block": inside.describe()} for number, inside in loop.rounds],
                }
                for place, loop in self.loops.items()
            ],
            "marks": [
                {
                    "question": mark.question,
                    "place": list(mark.place),
                    "begin": list(mark.begin),
                    "ends": [list(end) for end in mark.ends],
                    "found": mark.found,
                }
                for mark in self.marks
            ],
        }


@dataclass
class Live:
    """A whole run on one element. ``error`` has what stopped it, as its details; ``cut`` says that not all was noted,
    ``result`` is the value of a formula.
    """

    block: Block
    readings: list[Reading] = field(default_factory=list)
    error: dict[str, Any] | None = None
    cut: bool = False
    result: Seen | None = None
