"""Expressions on whole arrays. A value is an array with one row per element (or one for all), Lists, or a Sample."""

from __future__ import annotations

import contextlib
from collections.abc import Collection, Iterator
from typing import Any, NoReturn

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.errors import FormulaError
from reticula.core.geometry.measure.geodesics import geodesic_distances
from reticula.core.geometry.mesh.attribute_types import AttributeType
from reticula.core.language import ir
from reticula.core.language.functions import VECTORS
from reticula.core.language.functions.symbols import OVERFLOW
from reticula.core.language.ir.visitor import ExpressionVisitor
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.scope import SINGLE, Scope, adjacent
from reticula.core.language.typecheck import may_change
from reticula.core.language.types import IDENTITY, TEXT, PlaceOf, Type, is_list, item_of, kind_of, owner_of
from reticula.core.language.vector.lists import Lists, check_listed, check_longest
from reticula.core.language.vector.risk import Risk
from reticula.core.language.vector.values import Value, blank, dtype_of, locals_read, shape_of, take
from reticula.core.spatial.sampling import NOTHING, Sample

__all__ = ["ExpressionRunner"]


class ExpressionRunner(ExpressionVisitor[Value]):
    """Works out expressions for the elements ``elements`` of a scope (all, if None), or for those of them in
    ``rows``.
    """

    def __init__(self, scope: Scope, elements: AnyArray | None = None) -> None:
        self.scope = scope
        self.elements = elements
        self.count = scope.geo.topology.count(scope.kind) if elements is None else len(elements)
        self.rows: AnyArray | None = None
        self.frame: dict[str, Value] = {}
        self.answers: dict[ir.Query, Value] = {}
        self.risk = Risk()
        self.written: Collection[str] = ()

    @property
    def size(self) -> int:
        """How many elements are worked on now."""
        return self.count if self.rows is None else len(self.rows)

    def numbers(self) -> AnyArray:
        """The numbers of the elements that are worked on now."""
        every = np.arange(self.count) if self.elements is None else self.elements
        return every if self.rows is None else every[self.rows]

    @contextlib.contextmanager
    def only(self, positions: AnyArray) -> Iterator[None]:
        """Work on some of the current elements for a while."""
        before = self.rows
        self.rows = positions if before is None else before[positions]
        try:
            yield
        finally:
            self.rows = before

    def run(self, expression: ir.Expression) -> Value:
        return self.visit(expression)

    def chosen(self, values: Value) -> Value:
        """Rows of a value that has one per element of the block."""
        if self.rows is None or len(values) == 1:
            return values
        return take(values, self.rows)

    def own(self, values: AnyArray) -> AnyArray:
        """Rows of an attribute of the element kind that the program runs on."""
        total = self.scope.geo.topology.count(self.scope.kind)
        if len(values) != total or (self.elements is None and self.rows is None):
            return values
        return values[self.numbers()]

    # ---- single values

    def on_constant(self, expression: ir.Constant) -> Value:
        return np.array([expression.value])

    def on_external(self, expression: ir.External) -> Value:
        value = self.scope.given(expression.name)
        return np.array([value], dtype_of(expression.type) if expression.type is not TEXT else None)

    def on_local(self, expression: ir.Local) -> Value:
        return self.chosen(self.frame[expression.name])

    def on_here(self, expression: ir.Here) -> Value:
        return self.numbers()

    def on_read(self, expression: ir.Read) -> Value:
        scope, kind = self.scope, expression.kind
        if expression.type is IDENTITY:
            return self.own(scope.geo.identity(kind))
        if is_list(expression.type):
            found = scope.geo.find(kind, expression.name)
            assert found.start is not None
            lists = Lists.ragged(found.start, found.values)
            return lists if kind == "whole" and scope.kind != "whole" else lists.take(self.numbers())
        values = scope.values(kind, expression.name)
        return values if kind != scope.kind else self.own(values)

    def on_readat(self, expression: ir.ReadAt) -> Value:
        handles = self.run(expression.element)
        return self.read_of(expression.element.type, expression.name, handles, expression.type)

    def read_of(self, type: Type, name: str, handles: AnyArray, wanted: Type) -> Value:
        """Values of elements by number."""
        scope = self.scope.of(owner_of(type))
        kind: Any = kind_of(type)
        if is_list(wanted):
            found = scope.geo.find(kind, name)
            assert found.start is not None
            sizes = np.where(handles >= 0, np.diff(found.start)[np.maximum(handles, 0)] if len(found) else 0, 0)
            old = Lists.ragged(found.start, found.values).take(handles[handles >= 0])
            return Lists.ragged(np.concatenate([[0], np.cumsum(sizes)]), old.content[1])
        values = scope.values(kind, name)
        new = handles < 0
        if not new.any():
            return values if len(values) == 1 else values[handles]
        spread = np.zeros((len(handles), *values.shape[1:]), values.dtype)
        if (~new).any():
            spread[~new] = values[0] if len(values) == 1 else values[handles[~new]]
        spread[new] = self.of_new(kind, name, handles[new], wanted)
        return spread

    def of_new(self, kind: str, name: str, handles: AnyArray, type: Type) -> AnyArray:
        """Values of elements that the program has made."""
        raise NotImplementedError

    def on_readof(self, expression: ir.ReadOf) -> Value:
        scope = self.scope.of(expression.input)
        if is_list(expression.type):
            found = scope.geo.find("whole", expression.name)
            assert found.start is not None
            return Lists.ragged(found.start, found.values)
        return scope.values("whole", expression.name)

    def on_component(self, expression: ir.Component) -> Value:
        values = self.run(expression.vector)
        parts = expression.components
        return values[:, parts[0]] if len(parts) == 1 else values[:, list(parts)]

    def on_walk(self, expression: ir.Walk) -> Value:
        scope = self.scope
        whole = ExpressionRunner(scope)
        flags = np.broadcast_to(whole.run(expression.begin), (scope.geo.topology.point_count,))
        far = geodesic_distances(scope.geo, flags)
        return self.own(np.where(np.isfinite(far), far, NOTHING))

    def on_profile(self, expression: ir.Profile) -> Value:
        return self.scope.profiles[expression.name](self.run(expression.at))

    # ---- functions

    def on_apply(self, expression: ir.Apply) -> Value:
        function = expression.function
        if function.name == "if":
            return self.choose(expression)
        if function.name in ("and", "or") and self.risk.among(expression.arguments[1]):
            return self.shortcut(expression)
        values = [self.run(argument) for argument in expression.arguments]
        if expression.type in VECTORS and not function.name.startswith("vec"):
            values = [v if v.ndim >= 2 else v[:, None] for v in values]
        try:
            return function.run(*values)
        except ZeroDivisionError:
            self.fail("division by zero; guard it, e.g. a // max(b, 1)", expression)
        except OverflowError:
            self.fail(OVERFLOW, expression)

    def choose(self, expression: ir.Apply) -> Value:
        test = self.run(expression.arguments[0])
        yes, no = expression.arguments[1:]
        if len(test) == 1:
            return self.run(yes if test[0] else no)
        simple = isinstance(expression.type, AttributeType) and len(expression.type.shape) < 2
        if simple and not self.risk.among(yes) and not self.risk.among(no):
            return expression.function.run(test, self.run(yes), self.run(no))
        if test.all() or not test.any():
            return self.run(yes if test.all() else no)
        parts = [
            (where, self.on_positions(where, way))
            for where, way in ((np.flatnonzero(test), yes), (np.flatnonzero(~test), no))
        ]
        return self.merged(expression.type, parts)

    def on_positions(self, positions: AnyArray, expression: ir.Expression) -> Value:
        with self.only(positions):
            return self.run(expression)

    def merged(self, type: Type, parts: list[tuple[AnyArray, Value]]) -> Value:
        """Put together values for some elements and values for the others."""
        size = self.size
        first = parts[0][1]
        if isinstance(first, Lists):
            whole = Lists(
                np.zeros(size, np.int64), cells=np.zeros((size, 0, *first.sample.shape[1:]), first.sample.dtype)
            )
            for where, lists in parts:
                whole = whole.put(where, size, lists)
            return whole
        if isinstance(first, Sample):
            return Sample.merged(size, parts)
        out = np.zeros((size, *first.shape[1:]), np.result_type(*(values for _, values in parts)))
        for where, values in parts:
            out[where] = values
        return out

    def shortcut(self, expression: ir.Apply) -> Value:
        first, second = expression.arguments
        left = self.run(first)
        stops = left if expression.function.name == "or" else ~left
        if len(left) == 1:
            return left if stops[0] else self.run(second)
        rest = np.flatnonzero(~stops)
        out = left.copy()
        if len(rest):
            out[rest] = self.on_positions(rest, second)
        return out

    # ---- elements and lists

    def on_adjacent(self, expression: ir.Adjacent) -> Value:
        of = expression.element
        scope = self.scope.of(owner_of(of.type))
        kind: Any = kind_of(of.type)
        if isinstance(of, ir.Here) and self.rows is None and self.elements is None:
            handles = None
        else:
            handles = self.run(of)
            if (handles < 0).any():
                self.fail("an element that was just made has nothing around it yet; use a second script", expression)
        start, index = adjacent(scope.geo, kind, expression.word)
        if (kind, expression.word) in SINGLE:
            return index.astype(np.int64) if handles is None else index[start[handles]].astype(np.int64)
        lists = Lists.ragged(start, index.astype(np.int64))
        if handles is None:
            return lists
        if len(lists) == 1:
            return lists.take(np.zeros(len(handles), np.int64)) if len(handles) > 1 else lists
        return lists.take(handles)

    def on_all(self, expression: ir.All) -> Value:
        count = self.scope.of(expression.input).geo.topology.count(expression.kind)
        return Lists.ragged(np.array([0, count]), np.arange(count))

    def on_query(self, expression: ir.Query) -> Value:
        keep = self.rows is None and not may_change(expression, self.written)
        if keep and expression in self.answers:
            return self.answers[expression]
        answer = self.ask(expression, [self.run(argument) for argument in expression.arguments])
        if keep:
            self.answers[expression] = answer
        return answer

    def ask(self, expression: ir.Query, arguments: list[Value]) -> Value:
        """The answer to a question."""
        answer = expression.question.ask(self.scope.of(expression.input).geo, arguments)
        return Lists.ragged(answer[0], answer[1].astype(np.int64)) if isinstance(answer, tuple) else answer

    def on_placefield(self, expression: ir.PlaceField) -> Value:
        return self.field_of(expression, self.run(expression.where))

    def field_of(self, expression: ir.PlaceField, place: Value) -> Value:
        """What is read of a place."""
        if expression.kind:
            return place.attribute(expression.kind, expression.name).values
        assert isinstance(expression.where.type, PlaceOf)
        field = QUESTIONS[expression.where.type.how].field(expression.name)
        assert field is not None
        return field.read(place)

    def on_eachfield(self, expression: ir.EachField) -> Value:
        items = self.run(expression.items)
        _, handles = items.content
        type = item_of(expression.items.type)
        values = self.read_of(type, expression.name, handles, item_of(expression.type))
        return items.mapped(values[np.zeros(len(handles), np.int64)] if len(values) == 1 else values)

    def on_part(self, expression: ir.Part) -> Value:
        items = self.run(expression.items)
        _, values = items.content
        parts = expression.components
        return items.mapped(values[:, parts[0]] if len(parts) == 1 else values[:, list(parts)])

    def on_reduce(self, expression: ir.Reduce) -> Value:
        try:
            return self.run(expression.items).reduced(expression.how)
        except OverflowError:
            self.fail(OVERFLOW, expression)

    def on_item(self, expression: ir.Item) -> Value:
        items, index = self.run(expression.items), self.run(expression.index)
        number = self.item_numbers(items, index, expression)
        return items.at(number)

    def item_numbers(self, items: Lists, index: AnyArray, expression: ir.Expression) -> AnyArray:
        """Return which item of each list is meant, counted from its beginning; fail where there is none."""
        length = np.broadcast_to(items.length, np.broadcast_shapes(items.length.shape, index.shape))
        number = np.where(index < 0, index + length, index)
        bad = np.flatnonzero((number < 0) | (number >= length))
        if len(bad):
            at = int(bad[0])
            asked = int(index[at if len(index) > 1 else 0])
            row = at if len(length) > 1 else None
            self.fail(f"there is no item {asked} in a list of {int(length[at])}; ask len() first", expression, row)
        return number

    def on_listing(self, expression: ir.Listing) -> Value:
        item = item_of(expression.type)
        if not expression.parts:
            return Lists(np.zeros(1, np.int64), cells=np.zeros((1, 0, *shape_of(item)), dtype_of(item)))
        parts = [self.run(part) for part in expression.parts]
        rows = max(len(part) for part in parts)
        return Lists.columns(np.stack([np.broadcast_to(part, (rows, *part.shape[1:])) for part in parts], axis=1))

    def on_concatenated(self, expression: ir.Concatenated) -> Value:
        first, second = self.run(expression.first), self.run(expression.second)
        if not len(first.sample) and first.sample.shape[1:] != second.sample.shape[1:]:
            return second
        return first.followed_by(second)

    def on_span(self, expression: ir.Span) -> Value:
        begin, step, count = self.span(expression)
        check_longest(count)
        check_listed(int(count.sum()))
        start = np.concatenate([[0], np.cumsum(count)])
        own = np.repeat(np.arange(len(count)), count)
        number = np.arange(int(start[-1])) - start[own]
        return Lists.ragged(start, begin[own] + number * step[own])

    def span(self, expression: ir.Span) -> tuple[AnyArray, AnyArray, AnyArray]:
        """First number, step and how many of a range."""
        values = [self.run(part) for part in (expression.begin, expression.end, expression.step)]
        begin, end, step = np.broadcast_arrays(*values)
        if (step == 0).any():
            self.fail("a range cannot go in steps of 0", expression)
        count = np.maximum(0, np.where(step > 0, (end - begin + step - 1) // step, (begin - end - step - 1) // -step))
        return begin, step, count

    def on_comprehension(self, expression: ir.Comprehension) -> Value:
        items = self.run(expression.items)
        check_listed(int(items.length.sum()) * (self.size // len(items)))
        items = items.spread(self.size)
        start, values = items.content
        rows = np.repeat(np.arange(self.size), items.length)
        if expression.condition is not None and len(values):
            inner = self.spawn(expression, expression.condition, rows, values)
            flags = np.broadcast_to(inner.run(expression.condition), (len(values),))
            start, kept = items.kept(flags)
            rows, values = rows[kept], values[kept]
        if not len(values):
            return Lists.ragged(start, blank(item_of(expression.type), 0))
        check_longest(np.diff(start))
        made = self.spawn(expression, expression.value, rows, values).run(expression.value)
        return Lists.ragged(start, np.broadcast_to(made, (len(values), *made.shape[1:])))

    def spawn(
        self, expression: ir.Comprehension, part: ir.Expression, rows: AnyArray, values: AnyArray
    ) -> ExpressionRunner:
        """A runner with one row per item of a list instead of one per element, for a part of what makes the list."""
        inner = self.child(self.numbers()[rows])
        inner.risk = self.risk
        for name in locals_read(expression):
            if name in self.frame:
                held = self.chosen(self.frame[name])
                inner.frame[name] = held if len(held) == 1 else take(held, rows)
        inner.frame[expression.name] = values
        return inner

    def child(self, elements: AnyArray) -> ExpressionRunner:
        return ExpressionRunner(self.scope, elements)

    def on_call(self, expression: ir.Call) -> Value:
        raise NotImplementedError

    def on_makepoint(self, expression: ir.MakePoint) -> Value:
        raise NotImplementedError

    def on_makechain(self, expression: ir.MakeChain) -> Value:
        raise NotImplementedError

    def fail(self, message: str, expression: ir.Expression, row: int | None = None) -> NoReturn:
        line, column, length = expression.place
        if row is not None and self.scope.kind != "whole":
            message = f"{message} ({self.scope.kind} {self.numbers()[row]})"
        raise FormulaError(message, line=line, column=column, length=length)
