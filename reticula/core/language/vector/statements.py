"""Statements on whole arrays: every block runs on the elements that reach it, all at once."""

from __future__ import annotations

from typing import assert_never

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.geometry.mesh.attribute_types import well_known_default
from reticula.core.language import ir
from reticula.core.language.effects import NOBODY, REMOVABLE, Log, add_name
from reticula.core.language.limits import MOST_CALLS_DEEP, MOST_PRINTED
from reticula.core.language.scope import Scope
from reticula.core.language.types import (
    IDENTITY,
    TEXT,
    Type,
    is_list,
    item_of,
    kind_of,
    width_of,
)
from reticula.core.language.vector.clock import Clock
from reticula.core.language.vector.expressions import ExpressionRunner
from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.told import told
from reticula.core.language.vector.values import Value, blank, dtype_of, overlaid, together
from reticula.core.spatial.sampling import Sample

__all__ = ["ProgramRunner"]

NOTHING = np.zeros(0, np.int64)


class Own:
    """An attribute of the element itself while the program runs: values of the block, and which were written."""

    def __init__(self, values: Value, count: int) -> None:
        self.values = values
        self.written = np.zeros(count, bool)


class ProgramRunner(ExpressionRunner):
    """Runs a program for some elements. ``own`` and ``log`` hold what it did."""

    def __init__(
        self,
        program: ir.Program,
        scope: Scope,
        elements: AnyArray | None = None,
        *,
        log: Log | None = None,
        clock: Clock | None = None,
        printed: list[str] | None = None,
    ) -> None:
        super().__init__(scope, elements)
        self.program = program
        self.log = log if log is not None else Log(program.adds)
        self.clock = clock
        self.printed = printed
        self.depth = 0
        self.written = program.writes
        self.loops: list[tuple[list[AnyArray], list[AnyArray]]] = []
        self.own_values: dict[str, Own] = {
            name: Own(self._before(name, type), self.count) for name, type in program.writes.items()
        }

    def child(self, elements: AnyArray) -> ExpressionRunner:
        made = type(self).__new__(type(self))
        made.__dict__.update(self.__dict__)
        made.elements, made.rows, made.count, made.frame, made.answers = elements, None, len(elements), {}, {}
        made.own_values = {}
        if self.own_values:
            first = self.numbers()
            at = np.searchsorted(first, elements) if len(first) else elements
            for name, held in self.own_values.items():
                now = self.chosen(held.values)
                made.own_values[name] = Own(now.take(at) if isinstance(now, Lists) else now[at], 0)
        return made

    def _before(self, name: str, type: Type) -> Value:
        """The values that an attribute has before the script, or what a new one begins with."""
        kind = self.scope.kind
        numbers = self.numbers()
        if self.scope.geo.has(kind, name):
            found = self.scope.geo.find(kind, name)
            if found.start is not None:
                return Lists.ragged(found.start, found.values).take(numbers).spread(self.count)
            return found.values[numbers].astype(dtype_of(type)) if type is not TEXT else found.values[numbers]
        if is_list(type):
            item = item_of(type)
            return Lists(np.zeros(self.count, np.int64), cells=np.zeros((self.count, 0), dtype_of(item)))
        start = blank(type, self.count)
        known = well_known_default(name, str(type))
        if known is not None:
            start[...] = known
        return start

    def go(self) -> None:
        """Run all statements."""
        with np.errstate(all="ignore"):
            self.block(self.program.body, np.arange(self.count))

    # ---- reading what was written

    def on_read(self, expression: ir.Read) -> Value:
        held = self.own_values.get(expression.name) if expression.kind == self.scope.kind else None
        if held is None or expression.type is IDENTITY:
            return super().on_read(expression)
        return self.chosen(held.values)

    def of_new(self, kind: str, name: str, handles: AnyArray, type: Type) -> AnyArray:
        if kind == "point" and name == "position":
            return self.log.positions()[-1 - handles]
        out = blank(type, len(handles))
        known = well_known_default(name, str(type))
        if known is not None:
            out[...] = known
        return out

    # ---- blocks: rows go in, those that reach the end come out

    def block(self, statements: tuple[ir.Statement, ...], rows: AnyArray) -> AnyArray:
        for statement in statements:
            if not len(rows):
                return rows
            if self.clock is not None:
                self.clock.look()
            self.rows = None if len(rows) == self.count else rows
            rows = self.step(statement, rows)
        return rows

    def step(self, statement: ir.Statement, rows: AnyArray) -> AnyArray:
        match statement:
            case ir.Assign():
                return self.do_assign(statement, rows)
            case ir.SetItem():
                return self.do_setitem(statement, rows)
            case ir.Append():
                return self.do_append(statement, rows)
            case ir.Write():
                return self.do_write(statement, rows)
            case ir.Add():
                return self.do_add(statement, rows)
            case ir.Remove():
                return self.do_remove(statement, rows)
            case ir.Print():
                return self.do_print(statement, rows)
            case ir.Do():
                return self.do_do(statement, rows)
            case ir.If():
                return self.do_if(statement, rows)
            case ir.For():
                return self.do_for(statement, rows)
            case ir.While():
                return self.do_while(statement, rows)
            case ir.Break():
                return self.do_break(statement, rows)
            case ir.Continue():
                return self.do_continue(statement, rows)
            case ir.Return():
                return self.do_return(statement, rows)
            case _:
                assert_never(statement)

    def look_at(self, rows: AnyArray) -> None:
        self.rows = None if len(rows) == self.count else rows

    def do_assign(self, statement: ir.Assign, rows: AnyArray) -> AnyArray:
        self.put(statement.name, self.run(statement.value))
        return rows

    def put(self, name: str, value: Value) -> None:
        """Give a name a value where it is worked on now. A list that has a name already is copied before it changes."""
        if isinstance(value, Lists):
            value.owned = False
        if self.rows is None:
            self.frame[name] = value
            return
        before = self.frame.get(name)
        if isinstance(value, Lists):
            if before is None:
                before = Lists(
                    np.zeros(self.count, np.int64),
                    cells=np.zeros((self.count, 0, *value.sample.shape[1:]), value.sample.dtype),
                )
            self.frame[name] = before.put(self.rows, self.count, value)
        elif isinstance(value, Sample):
            parts = [(np.arange(self.count), before)] if before is not None else []
            self.frame[name] = Sample.merged(self.count, [*parts, (self.rows, value)])
        else:
            self.frame[name] = overlaid(before, self.rows, self.count, value)

    def do_append(self, statement: ir.Append, rows: AnyArray) -> AnyArray:
        value = self.run(statement.value)
        self.frame[statement.name] = self.frame[statement.name].appended(self.rows, self.count, value)
        return rows

    def do_setitem(self, statement: ir.SetItem, rows: AnyArray) -> AnyArray:
        value = self.run(statement.value)
        held = self.chosen(self.frame[statement.name])
        index = self.run(statement.index)
        number = self.item_numbers(held, index, statement.index)
        self.frame[statement.name] = self.frame[statement.name].replaced(self.rows, self.count, number, value)
        return rows

    def do_write(self, statement: ir.Write, rows: AnyArray) -> AnyArray:
        held = self.own_values[statement.name]
        value = self.run(statement.value)
        if isinstance(value, Lists):
            value.owned = False
            held.values = held.values.put(rows, self.count, value)
        else:
            held.values = overlaid(held.values, rows, self.count, value)
        held.written[rows] = True
        return rows

    def do_add(self, statement: ir.Add, rows: AnyArray) -> AnyArray:
        target = self.run(statement.element)
        value = self.run(statement.value)
        kind = kind_of(statement.element.type)
        key = (kind, statement.name, statement.sums)
        count = len(rows)
        width = width_of(statement.value.type)
        flat = value.reshape(len(value), width) if value.dtype.kind != "U" else value[:, None]
        self.log.note(
            add_name(key),
            self.numbers(),
            np.broadcast_to(target, (count,)).astype(np.int64),
            np.broadcast_to(flat, (count, width)),
        )
        return rows

    def do_remove(self, statement: ir.Remove, rows: AnyArray) -> AnyArray:
        handles = np.broadcast_to(self.run(statement.element), (len(rows),))
        kind = REMOVABLE.index(kind_of(statement.element.type))
        self.log.note("remove", self.numbers(), np.full(len(rows), kind), handles.astype(np.int64))
        return rows

    def do_do(self, statement: ir.Do, rows: AnyArray) -> AnyArray:
        self.run(statement.value)
        return rows

    def do_print(self, statement: ir.Print, rows: AnyArray) -> AnyArray:
        if self.printed is not None and len(self.printed) < MOST_PRINTED:
            values = [self.run(part) for part in statement.values]
            for row in range(min(len(rows), MOST_PRINTED - len(self.printed))):
                self.printed.append(
                    " ".join(told(v, row, p.type) for v, p in zip(values, statement.values, strict=True))
                )
        return rows

    # ---- flow

    def do_if(self, statement: ir.If, rows: AnyArray) -> AnyArray:
        test = self.run(statement.test)
        if len(test) == 1 and len(rows) != 1:
            return self.block(statement.body if test[0] else statement.otherwise, rows)
        yes, no = rows[test], rows[~test]
        first = self.block(statement.body, yes) if len(yes) else yes
        second = self.block(statement.otherwise, no) if len(no) else no
        return together(first, second)

    def do_while(self, statement: ir.While, rows: AnyArray) -> AnyArray:
        left: list[AnyArray] = []
        broken: list[AnyArray] = []
        active = rows
        while len(active):
            if self.clock is not None:
                self.clock.look()
            self.look_at(active)
            test = self.run(statement.test)
            if len(test) == 1 and len(active) != 1:
                test = np.broadcast_to(test, (len(active),))
            left.append(active[~test])
            active = active[test]
            active = self.round(statement, active, broken)
        return together(*left, *broken)

    def round(self, loop: ir.For | ir.While, rows: AnyArray, broken: list[AnyArray]) -> AnyArray:
        """One round of a loop; returns the rows that go on to the next one."""
        if not len(rows):
            return rows
        continued: list[AnyArray] = []
        self.loops.append((broken, continued))
        ended = self.block(loop.body, rows)
        self.loops.pop()
        return together(ended, *continued)

    def do_for(self, statement: ir.For, rows: AnyArray) -> AnyArray:
        if isinstance(statement.items, ir.Span):
            begin, step, length = self.span(statement.items)

            def item(at: AnyArray, number: int) -> AnyArray:
                return begin[at] + number * step[at]

        else:
            items = self.run(statement.items)
            items.owned = False
            length, item = items.length, items.nth
        broken: list[AnyArray] = []
        left: list[AnyArray] = []
        active, number = rows, 0
        uniform = len(length) == 1
        while len(active):
            at = np.zeros(1, np.int64) if uniform else np.searchsorted(rows, active)
            more = length[at] > number
            if uniform and not more[0]:
                break
            if not uniform:
                left.append(active[~more])
                active, at = active[more], at[more]
                if not len(active):
                    break
            if self.clock is not None:
                self.clock.look()
            self.look_at(active)
            self.put(statement.name, item(at, number))
            active = self.round(statement, active, broken)
            number += 1
        return together(active, *left, *broken)

    def do_break(self, statement: ir.Break, rows: AnyArray) -> AnyArray:
        self.loops[-1][0].append(rows)
        return NOTHING

    def do_continue(self, statement: ir.Continue, rows: AnyArray) -> AnyArray:
        self.loops[-1][1].append(rows)
        return NOTHING

    def do_return(self, statement: ir.Return, rows: AnyArray) -> AnyArray:
        if statement.value is not None:
            self.put("return", self.run(statement.value))
        return NOTHING

    def on_call(self, expression: ir.Call) -> Value:
        routine = self.program.routines[expression.routine]
        arguments = [self.run(argument) for argument in expression.arguments]
        if self.depth >= MOST_CALLS_DEEP:
            self.fail(f"functions call each other more than {MOST_CALLS_DEEP} deep; use a loop", expression)
        outer = self.frame, self.loops, self.rows
        rows = np.arange(self.count) if self.rows is None else self.rows
        self.frame, self.loops = {}, []
        for name, value in zip(routine.parameters, arguments, strict=True):
            self.put(name, value)
        self.depth += 1
        self.call(routine, expression, rows)
        self.depth -= 1
        result = self.frame.get("return")
        self.frame, self.loops, self.rows = outer
        if result is None:
            return np.zeros(1)
        return self.chosen(result)

    def call(self, routine: ir.Routine, expression: ir.Call, rows: AnyArray) -> None:
        """Run the statements of a function, whose parameters have their values."""
        self.block(routine.body, rows)

    # ---- making

    def on_makepoint(self, expression: ir.MakePoint) -> Value:
        position = self.run(expression.position)
        like = np.array([NOBODY]) if expression.like is None else self.run(expression.like)
        if expression.like is None and self.scope.kind == "point":
            like = self.numbers()
        count = self.size
        handles = self.log.number("point", count)
        spread: Floats = np.array(np.broadcast_to(position, (count, 3)), np.float64)
        if not np.isfinite(spread).all():
            self.fail(
                "a point cannot be made at a place that is not a finite number; guard the division or root", expression
            )
        self.log.note("point", self.numbers(), spread, np.broadcast_to(like, (count,)).astype(np.int64))
        return handles

    def on_makechain(self, expression: ir.MakeChain) -> Value:
        kind = kind_of(expression.type)
        points = self.run(expression.points).spread(self.size)
        least = 3 if kind == "face" else 2
        if (points.length < least).any():
            at = int(np.flatnonzero(points.length < least)[0])
            self.fail(
                f"a {kind} needs at least {least} points, and this list has {int(points.length[at])}", expression, at
            )
        closed = np.zeros(1, bool) if expression.closed is None else self.run(expression.closed)
        handles = self.log.number(kind, self.size)
        self.log.note(kind, self.numbers(), points.length, np.broadcast_to(closed, (self.size,)))
        self.log.note(f"{kind} points", points.content[1].astype(np.int64))
        return handles
