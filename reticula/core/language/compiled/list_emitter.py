"""From the intermediate form to the source of a compiled kernel: elements and lists."""

from __future__ import annotations

from typing import Any

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language import ir
from reticula.core.language.compiled.code_writer import Items, Parts
from reticula.core.language.compiled.query_emitter import QueryEmitter
from reticula.core.language.compiled.runtime import LONELY
from reticula.core.language.scope import SINGLE
from reticula.core.language.types import INTEGER, NUMBER, Type, is_list, item_of, kind_of, owner_of, width_of

__all__ = ["ListEmitter"]


class ListEmitter(QueryEmitter):
    """Writes what gives elements and lists, and what makes one value of a list."""

    def read(self, kind: Kind, owner: str, name: str, index: str, type: Type) -> Any:
        if is_list(type):
            start, values = self.bind.lists(kind, owner, name)
            first = self.let(f"np.int64({start}[{index}])")
            size = self.let(f"np.int64({start}[{index} + 1]) - {first}")
            return Items(size, lambda k: [self.let(f"{values}[{first} + {k}]")])
        return self.loaded(self.bind.attribute(kind, owner, name), index, width_of(type))

    def read_at(self, element: Type, name: str, handle: str, type: Type) -> Any:
        kind, owner = kind_of(element), owner_of(element)
        if not self.makes or owner or kind not in ("point", "curve", "face"):
            return self.read(kind, owner, name, handle, type)
        if is_list(type):
            return self.list_at(kind, name, handle)
        results = [self.fresh("r") for _ in range(width_of(type))]
        fresh_ones = self.bind.new_element(kind, name, type)
        with self.out.block(f"if {handle} >= 0:"):
            self.store(results, self.read(kind, owner, name, handle, type))
        with self.out.block("else:"):
            self.store(results, [code.format(f"-1 - {handle}") for code in fresh_ones])
        return results

    def list_at(self, kind: Kind, name: str, handle: str) -> Items:
        """A list attribute of an element that may have been made by the program, which has none yet."""
        start, values = self.bind.lists(kind, "", name)
        first, size = self.fresh("r"), self.fresh("r")
        with self.out.block(f"if {handle} >= 0:"):
            self.store(
                [first, size], [f"np.int64({start}[{handle}])", f"np.int64({start}[{handle} + 1] - {start}[{handle}])"]
            )
        with self.out.block("else:"):
            self.store([first, size], ["np.int64(0)", "np.int64(0)"])
        return Items(size, lambda k: [self.let(f"{values}[{first} + {k}]")])

    def on_readat(self, expression: ir.ReadAt) -> Any:
        return self.read_at(expression.element.type, expression.name, self.one(expression.element), expression.type)

    def on_readof(self, expression: ir.ReadOf) -> Any:
        return self.read("whole", expression.input, expression.name, "0", expression.type)

    def on_adjacent(self, expression: ir.Adjacent) -> Any:
        of = expression.element
        kind = kind_of(of.type)
        start, index = self.bind.around(kind, owner_of(of.type), expression.word)
        handle = self.one(of)
        if self.makes and not isinstance(of, ir.Here):
            with self.out.block(f"if {handle} < 0:"):
                self.out.add(f"halt(err, {LONELY}, {self.place(expression.place)}, 0, 0)")
        if (kind, expression.word) in SINGLE:
            return [self.let(f"np.int64({index}[{start}[{handle}]])")]
        first = self.let(f"np.int64({start}[{handle}])")
        size = self.let(f"np.int64({start}[{handle} + 1]) - {first}")
        return Items(size, lambda k: [self.let(f"np.int64({index}[{first} + {k}])")])

    def on_all(self, expression: ir.All) -> Items:
        return Items(self.bind.count(expression.kind, expression.input), lambda k: [k])

    def on_eachfield(self, expression: ir.EachField) -> Items:
        items = self.value(expression.items)
        of, type = item_of(expression.items.type), item_of(expression.type)
        return Items(items.length, lambda k: self.read_at(of, expression.name, items.item(k)[0], type))

    def on_part(self, expression: ir.Part) -> Items:
        items = self.value(expression.items)
        return Items(items.length, lambda k: [items.item(k)[c] for c in expression.components])

    def on_span(self, expression: ir.Span) -> Items:
        begin, end, step = (self.one(part) for part in (expression.begin, expression.end, expression.step))
        count = self.let(f"span_count({begin}, {end}, {step}, err, {self.place(expression.place)})")
        return Items(count, lambda k: [self.let(f"{begin} + {k} * {step}")])

    def on_listing(self, expression: ir.Listing) -> Items:
        item = item_of(expression.type)
        parts = [self.value(part) for part in expression.parts]
        room = self.let(self.new_array(item, str(len(parts))))
        for k, part in enumerate(parts):
            self.put_item(room, str(k), part, width_of(item))
        return self.stored(room, str(len(parts)), expression.type)

    def on_concatenated(self, expression: ir.Concatenated) -> Items:
        first, second = self.value(expression.first), self.value(expression.second)
        item = item_of(expression.type)
        total = self.let(f"room_for({first.length} + {second.length}, err, {self.place(expression.place)})")
        room = self.let(self.new_array(item, total))
        for items, shift in ((first, ""), (second, f"{first.length} + ")):
            k = self.fresh("k")
            with self.out.block(f"for {k} in range({items.length}):"):
                self.put_item(room, f"{shift}{k}", items.item(k), width_of(item))
        return self.stored(room, total, expression.type)

    def on_comprehension(self, expression: ir.Comprehension) -> Items:
        items = self.value(expression.items)
        item = item_of(expression.type)
        room = self.let(self.new_array(item, f"room_for({items.length}, err, {self.place(expression.place)})"))
        count, k = self.fresh("n"), self.fresh("k")
        self.out.add(f"{count} = 0")
        kept, self.answers = self.answers, {}
        with self.out.block(f"for {k} in range({items.length}):"):
            self.out.add("tick(stop, err)")
            self.store(self.parts_of(expression.name, item_of(expression.items.type)), items.item(k))
            if expression.condition is not None:
                with self.out.block(f"if not {self.one(expression.condition)}:"):
                    self.out.add("continue")
            self.put_item(room, count, self.value(expression.value), width_of(item))
            self.out.add(f"{count} += 1")
        self.answers = kept
        return self.stored(room, count, expression.type)

    def on_item(self, expression: ir.Item) -> Parts:
        items = self.value(expression.items)
        index = self.one(expression.index)
        k = self.let(f"item_number({index}, {items.length}, err, {self.place(expression.place)})")
        return items.item(k)

    def on_reduce(self, expression: ir.Reduce) -> Parts:
        how = expression.how
        if how == "len" and isinstance(expression.items, ir.Query) and expression.items.question.count:
            return [expression.items.question.count(self, self.asked(expression.items))]
        items = self.value(expression.items)
        if how == "len":
            return [self.let(f"np.int64({items.length})")]
        item = item_of(expression.items.type)
        if how == "median":
            room = self.let(self.new_array(NUMBER, items.length))
            k = self.fresh("k")
            with self.out.block(f"for {k} in range({items.length}):"):
                self.put_item(room, k, items.item(k), 1)
            return [self.let(f"median_of({room}, {items.length})")]
        if how == "deviation":
            middle = self.folded("mean", items, NUMBER, None)
            return [self.let(f"np.sqrt({self.folded('mean', items, NUMBER, middle[0])[0]})")]
        return self.folded(how, items, item, None, self.place(expression.place))

    def folded(self, how: str, items: Items, item: Type, about: str | None, place: str | int = "") -> Parts:
        """A loop that gathers all items in one value; with ``about`` their squared distance to it. A sum of integers
        that grows too large fails at ``place``.
        """
        width = width_of(item)
        begin = {"any": "False", "all": "True"}.get(how, "0" if item is INTEGER and how != "mean" else "0.0")
        results = [self.fresh("s") for _ in range(width)]
        for name in results:
            self.out.add(f"{name} = {begin}")
        k = self.fresh("k")
        with self.out.block(f"for {k} in range({items.length}):"):
            if how in ("sum", "mean"):
                self.out.add(f"if {k} & 255 == 255:")
                self.out.add("    tick(stop, err)")
            for name, part in zip(results, items.item(k), strict=True):
                match how:
                    case "any" | "all":
                        self.out.add(f"{name} = {name} {'or' if how == 'any' else 'and'} {part}")
                    case "min" | "max":
                        limit = "lesser" if how == "min" else "greater"
                        self.out.add(f"{name} = {part} if {k} == 0 else {limit}({name}, {part})")
                    case "sum" if item is INTEGER:
                        self.out.add(f"{name} = added({name}, {part}, err, {place})")
                    case _:
                        self.out.add(
                            f"{name} += {part}"
                            if about is None
                            else f"{name} += ({part} - {about}) * ({part} - {about})"
                        )
        if how == "mean":
            for name in results:
                self.out.add(f"{name} = {name} / {items.length} if {items.length} > 0 else 0.0")
        return results

    def count_near(self, expression: ir.Query) -> str:
        """How many points lie within a radius, when nothing else is asked of them."""
        raise NotImplementedError
