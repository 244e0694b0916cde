"""Answers to questions about how a result came about: what a text gives for an element, and why it has a value."""

from __future__ import annotations

from typing import Literal, NotRequired

from typing_extensions import TypedDict

from reticula.core.geometry.mesh.kinds import Kind

__all__ = ["LiveBlock", "LiveLook", "LookTrouble", "WhyLook", "WiresLook"]


class LookTrouble(TypedDict):
    code: str
    message: str
    plain: NotRequired[str]
    byte: NotRequired[int | None]
    node: NotRequired[str | None]
    parameter: NotRequired[str | None]
    line: NotRequired[int | None]
    column: NotRequired[int | None]
    length: NotRequired[int | None]
    cause: NotRequired[str | None]


class LiveMark(TypedDict):
    """What a question of a text found, in the world, m: from where it was asked to each place found."""

    question: str
    place: tuple[int, int, int]
    begin: list[float]
    ends: list[list[float]]
    found: bool


class LiveRound(TypedDict):
    number: int
    block: LiveBlock


class LiveLoop(TypedDict):
    """What is done again and again; of many rounds only the first and the last ones are here."""

    place: tuple[int, int, int]
    what: Literal["for", "while", "call", "items"]
    name: str
    total: int
    rounds: list[LiveRound]


class LiveBlock(TypedDict):
    """What was seen in statements that ran once: parts of expressions (line, column, length, value, type), what each
    line gave, loops, and what questions found.
    """

    seen: list[tuple[int, int, int, str, str]]
    lines: list[tuple[int, str]]
    loops: list[LiveLoop]
    marks: list[LiveMark]


class LiveLook(TypedDict):
    """What a text gave for an element; ``missing`` says why it did not run."""

    what: Literal["live"]
    kind: Kind
    element: int | None
    missing: str
    block: LiveBlock
    result: str
    error: LookTrouble | None
    cut: bool


class WiresLook(TypedDict):
    """The value on the wire of each value node, by node."""

    what: Literal["wires"]
    values: dict[str, str]


class WhyValue(TypedDict):
    """A value of an element of a result; it can be asked about in turn."""

    feed: str
    kind: Kind
    element: int
    name: str
    value: str
    unit: str


class WhyText(TypedDict):
    """A formula or script as it ran on an element: what each line gave, and which lines write the value."""

    parameter: str
    source: str
    kind: Kind
    element: int
    lines: list[tuple[int, str]]
    writes: list[int]
    result: str
    error: LookTrouble | None


class WhyLook(TypedDict):
    """Where a value comes from: results that carried it, the one whose node gave it, and what went in."""

    what: Literal["why"]
    name: str
    value: str
    unit: str
    carried: list[WhyValue]
    wrote: WhyValue
    operator: str
    how: str
    texts: list[WhyText]
    values: list[tuple[str, str]]
    causes: list[WhyValue]
