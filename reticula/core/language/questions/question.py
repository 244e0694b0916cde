"""What a question to a geometry is: how it is written, what it takes and gives, and how both back ends answer it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, Literal

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.language.questions.writer import QuestionWriter
from reticula.core.language.types import ElementOf, ListOf, PlaceOf, Type
from reticula.core.spans import span
from reticula.core.spatial.sampling import Sample

if TYPE_CHECKING:
    from reticula.core.language.questions.place_fields import PlaceField

__all__ = ["PLACE", "POINTS", "QUESTIONS", "Asked", "Question", "largest", "question", "within"]

PLACE: Literal["place"] = "place"
POINTS: Literal["points"] = "points"


@dataclass(frozen=True)
class Asked:
    """A question in a program, for generated code.

    ``owner`` is the geometry that is asked, ``on`` what its places lie on (faces, curves or points), ``arguments`` the
    components of each value that is given, ``place`` gives the number that errors name the place in the source by.
    """

    owner: str
    on: str
    arguments: list[list[str]]
    place: Callable[[], int]

    @property
    def at(self) -> str:
        """The first value, a position, as a tuple."""
        return f"({', '.join(self.arguments[0])})"

    def optional(self, number: int, otherwise: str) -> str:
        """A number that may be left out."""
        return self.arguments[number][0] if len(self.arguments) > number else otherwise


@dataclass(frozen=True, eq=False)
class Question:
    """One question.

    Attributes
    ----------
    usage, summary : str
        How it is written, and what it asks.
    example : str
        A formula that holds on a box of 1 m around the origin, with a grey picture of two by two pixels that are 0.5,
        1, 0 and 0.25.
    wanted : tuple of Type
        Types of the values that it takes; the first ``least`` are needed, the last may be given by the name ``named``.
    gives : Type, PLACE or POINTS
        A value, a place, or a list of points.
    fields : tuple of PlaceField
        What can be read of the place besides attributes.
    run : callable
        The answer on whole arrays: takes the geometry and arrays of one row per asker ``(N, ...)``.
    code : callable
        Writes the answer into generated code; returns its components, or a list.
    count : callable, optional
        Writes only how many there are.
    where : callable
        What its places on a geometry lie on.
    lacks : callable
        What a geometry lacks that cannot be asked this, in words that follow its name; nothing if it can be asked.
    """

    usage: str
    summary: str
    example: str
    wanted: tuple[Type, ...]
    least: int
    gives: Type | Literal["place", "points"]
    run: Callable[[Geo, Sequence[AnyArray]], Any]
    code: Callable[[QuestionWriter, Asked], Any]
    fields: tuple[PlaceField, ...] = ()
    named: str = ""
    count: Callable[[QuestionWriter, Asked], str] | None = None
    where: Callable[[Geo], str] = field(default=lambda geo: "points")
    lacks: Callable[[Geo], str] = field(default=lambda geo: "")

    @property
    def name(self) -> str:
        return self.usage.partition("(")[0]

    @property
    def told_type(self) -> str:
        """The type of the answer as editors show it."""
        return {"place": "place", "points": "list of points"}.get(str(self.gives), str(self.gives))

    def field(self, name: str) -> PlaceField | None:
        """Return what can be read of its places by a name, or None."""
        return next((one for one in self.fields if one.name == name), None)

    def type_on(self, owner: str) -> Type:
        """Return the type of the answer of the input ``owner``."""
        if self.gives == "place":
            return PlaceOf(owner, self.name)
        return ListOf(ElementOf("point", owner)) if self.gives == "points" else self.gives

    def ask(self, geo: Geo, arguments: Sequence[AnyArray]) -> Any:
        """Return the answer: a Sample, starts and point numbers, or values; all with one row per asker."""
        rows = max(len(argument) for argument in arguments)
        with span("query"):
            return self.run(geo, [np.broadcast_to(argument, (rows, *argument.shape[1:])) for argument in arguments])


QUESTIONS: dict[str, Question] = {}


def question(asked: Question) -> Question:
    """Add a question to the table."""
    QUESTIONS[asked.name] = asked
    return asked


def largest(given: Sequence[AnyArray], number: int) -> float:
    """The largest of a value that may be left out, infinity without one."""
    return float(given[number].max(initial=0.0)) if len(given) > number else math.inf


def within(sample: Sample, given: Sequence[AnyArray], number: int) -> Sample:
    """Take back what lies beyond a reach that differs from asker to asker."""
    if len(given) <= number or not (sample.distance > given[number]).any():
        return sample
    return sample.only(sample.distance <= given[number])
