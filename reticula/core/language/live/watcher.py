"""A run of a program on one element that notes every value on the way.

It is the vector back end, which runs on whatever elements it is given: what is noted is what the program works out.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from reticula.core.arrays import AnyArray, Ints
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language import ir
from reticula.core.language.effects import Log
from reticula.core.language.live.record import Block, LoopKind, Mark, Reading
from reticula.core.language.live.told_lines import told_line
from reticula.core.language.live.words import seen_of
from reticula.core.language.parse import Place
from reticula.core.language.scope import Scope
from reticula.core.language.types import Type, kind_of, owner_of
from reticula.core.language.vector.clock import Clock
from reticula.core.language.vector.expressions import ExpressionRunner
from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.statements import ProgramRunner
from reticula.core.language.vector.values import Value
from reticula.core.spatial.sampling import Sample

__all__ = ["Watcher"]

MOST_SEEN = 20_000
"""Values that are noted in one run."""
MOST_ENDS = 200
"""Places found by one question that are drawn."""
MOST_READINGS = 200
MOST_MARKS = 400
NOWHERE = np.zeros((0, 3))
CONVERSIONS = ("number", "vec2", "vec3", "vec4")


class Notes:
    """What one run has noted besides blocks, and how much more it may."""

    def __init__(self) -> None:
        self.left = MOST_SEEN
        self.marks = MOST_MARKS
        self.readings: dict[Reading, None] = {}

    def read(self, owner: str, kind: Kind, name: str, elements: AnyArray) -> None:
        """Note that values of elements were read."""
        for element in elements[:8].tolist():
            if element >= 0 and len(self.readings) < MOST_READINGS:
                self.readings[Reading(owner, kind, name, element)] = None


class Watcher(ProgramRunner):
    """Runs a program on one element. ``into`` has a block per row: more than one inside of lists that are made."""

    def __init__(self, program: ir.Program, scope: Scope, element: int, clock: Clock) -> None:
        self.notes = Notes()
        self.whole = Block()
        self.into = [self.whole]
        self.names = program.locals
        super().__init__(program, scope, np.array([element]), log=Log(program.adds), clock=clock)

    def current(self) -> Ints:
        """The rows that are worked on now."""
        return np.arange(self.count) if self.rows is None else self.rows

    def blocks(self) -> Iterator[tuple[int, Block]]:
        """The number of each row among those that are worked on, and where it is noted."""
        for number, row in enumerate(self.current().tolist()):
            yield number, self.into[row]

    # ---- values

    def visit(self, expression: ir.Expression) -> Value:
        value = super().visit(expression)
        for number, block in self.blocks():
            if self.notes.left <= 0:
                break
            if expression.place not in block.seen or not _is_conversion(expression):
                block.seen[expression.place] = seen_of(value, number, expression.type)
                self.notes.left -= 1
        return value

    def on_read(self, expression: ir.Read) -> Value:
        if expression.kind == self.scope.kind:
            self.notes.read("", expression.kind, expression.name, self.numbers())
        elif expression.kind == "whole":
            self.notes.read("", "whole", expression.name, np.zeros(1, np.int64))
        return super().on_read(expression)

    def read_of(self, type: Type, name: str, handles: AnyArray, wanted: Type) -> Value:
        self.notes.read(owner_of(type), kind_of(type), name, handles)
        return super().read_of(type, name, handles, wanted)

    def field_of(self, expression: ir.PlaceField, place: Value) -> Value:
        owner = owner_of(expression.where.type)
        if expression.kind == "face":
            self.notes.read(owner, "face", expression.name, place.face)
        elif expression.kind == "point":
            self.notes.read(owner, "point", expression.name, place.index)
        return super().field_of(expression, place)

    # ---- questions

    def on_query(self, expression: ir.Query) -> Value:
        self.answers.clear()
        return super().on_query(expression)

    def ask(self, expression: ir.Query, arguments: list[Value]) -> Value:
        answer = super().ask(expression, arguments)
        if arguments and arguments[0].shape[1:] == (3,) and isinstance(answer, (Sample, Lists)):
            for number, block in self.blocks():
                if self.notes.marks > 0:
                    self.notes.marks -= 1
                    given = [argument[number if len(argument) > 1 else 0] for argument in arguments]
                    block.marks.append(self._mark(expression, given, answer, number if len(answer) > 1 else 0))
        return answer

    def _mark(self, expression: ir.Query, given: list[AnyArray], answer: Sample | Lists, row: int) -> Mark:
        if isinstance(answer, Sample):
            found = bool(answer.found[row])
            ends = answer.position[row][None] if found else self._missed(expression, given)
        else:
            points = answer.take(np.array([row])).content[1][:MOST_ENDS]
            found, ends = bool(len(points)), self.scope.of(expression.input).geo.positions[points]
        told = tuple((float(x), float(y), float(z)) for x, y, z in ends.tolist())
        return Mark(expression.question.name, expression.place, tuple(given[0].tolist()), told, found)

    def _missed(self, expression: ir.Query, given: list[AnyArray]) -> AnyArray:
        """Where a ray that hit nothing ends in the picture: at its reach, or past the shape; others end nowhere."""
        long = float(np.linalg.norm(given[1])) if expression.question.name == "ray" else 0.0
        if not long or not math.isfinite(long):
            return NOWHERE
        reach = float(given[2]) if len(given) > 2 else math.inf
        far = min(reach, float(self.scope.values("whole", "extent")[0]))
        return np.asarray(given[0] + given[1] / long * far)[None]

    # ---- lines and rounds

    def step(self, statement: ir.Statement, rows: AnyArray) -> AnyArray:
        ended = super().step(statement, rows)
        for row in rows.tolist():
            told = told_line(statement, self.into[row])
            if told:
                self.into[row].lines[statement.place[0]] = told
        return ended

    def do_print(self, statement: ir.Print, rows: AnyArray) -> AnyArray:
        for value in statement.values:
            self.run(value)
        return rows

    def round(self, loop: ir.For | ir.While, rows: AnyArray, broken: list[AnyArray]) -> AnyArray:
        outer = self.into
        if isinstance(loop, ir.For):
            self._enter(rows, loop.place, "for", _written(loop.name))
        else:
            self._enter(rows, loop.place, "while", "")
        for row in rows.tolist() if len(rows) else ():
            inner = self.into[row]
            if isinstance(loop, ir.For):
                item = seen_of(self.frame[loop.name], row, self.names[loop.name])
                inner.lines[loop.place[0]] = f"{_written(loop.name)} = {item.text}"
            else:
                inner.seen |= {at: one for at, one in outer[row].seen.items() if _inside(at, loop.test.place)}
                inner.lines[loop.place[0]] = "yes"
        try:
            return super().round(loop, rows, broken)
        finally:
            self.into = outer

    def call(self, routine: ir.Routine, expression: ir.Call, rows: AnyArray) -> None:
        outer, names = self.into, self.names
        self._enter(rows, routine.body[0].place if routine.body else expression.place, "call", _written(routine.name))
        self.names = routine.locals
        try:
            super().call(routine, expression, rows)
        finally:
            self.into, self.names = outer, names

    def _enter(self, rows: AnyArray, place: Place, what: LoopKind, name: str) -> None:
        """Note what follows, for some rows, in a new round of what stands at a place."""
        self.into = list(self.into)
        for row in rows.tolist():
            self.into[row] = self.into[row].loop(place, what, name).begin_round()

    def spawn(
        self, expression: ir.Comprehension, part: ir.Expression, rows: AnyArray, values: AnyArray
    ) -> ExpressionRunner:
        inner = super().spawn(expression, part, rows, values)
        assert isinstance(inner, Watcher)
        here = [block for _, block in self.blocks()]
        name = _written(expression.name)
        inner.into = [here[row].loop(part.place, "items", name).begin_round() for row in rows.tolist()]
        return inner


def _is_conversion(expression: ir.Expression) -> bool:
    """Whether an expression is a conversion that nobody wrote: it stands where what it converts stands."""
    if not isinstance(expression, ir.Apply) or expression.function.name not in CONVERSIONS:
        return False
    return expression.arguments[0].place == expression.place


def _written(name: str) -> str:
    """Return a name as the text has it: the type checker numbers variants of it."""
    return name.partition(" ")[0]


def _inside(place: Place, outer: Place) -> bool:
    return place[0] == outer[0] and outer[1] <= place[1] and place[1] + place[2] <= outer[1] + outer[2]
