"""From the intermediate form to the source of a compiled kernel: expressions.

A value is a list of components, each the name of a number in the generated code or a short literal; a list is a
:class:`Items`. Whatever must be worked out goes into a new name, so that nothing is worked out twice or too early.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any

from reticula.core.geometry.mesh.kinds import BLENDED
from reticula.core.geometry.mesh.source_maps import UNIT_LENGTH
from reticula.core.language import ir
from reticula.core.language.compiled.bindings import Bindings, TreeNames, place_width
from reticula.core.language.compiled.runtime import LONELY
from reticula.core.language.functions import VECTORS
from reticula.core.language.parse import Place
from reticula.core.language.scope import SINGLE, Scope
from reticula.core.language.typecheck import may_change
from reticula.core.language.types import is_list, item_of, kind_of, owner_of, width_of

__all__ = ["Emitting", "Items", "Unsupported", "Writer"]

Parts = list[str]
AT_ONCE = 512
"""Neighbours that room is made for without counting them first."""


class Unsupported(Exception):
    """Something that the compiled back end leaves to the vector back end."""


@dataclass
class Items:
    """A list in generated code: how long it is, and how one item is read. ``stored`` is its array, if it has one of its own."""

    length: str
    item: Callable[[str], Parts]
    stored: str | None = None


@dataclass
class Writer:
    """Lines of generated code, indented."""

    lines: list[str] = field(default_factory=list)
    depth: int = 1

    def add(self, line: str) -> None:
        self.lines.append("    " * self.depth + line)

    @contextmanager
    def block(self, head: str) -> Iterator[None]:
        """Lines inside of an ``if``, ``for`` or ``while``."""
        self.add(head)
        self.depth += 1
        before = len(self.lines)
        yield
        if len(self.lines) == before:
            self.add("pass")
        self.depth -= 1


class Emitting:
    """Writes expressions. ``names`` says how names of the program are called in generated code."""

    def __init__(self, program: ir.Program, scope: Scope) -> None:
        self.program, self.scope = program, scope
        self.bind = Bindings(scope)
        self.out = Writer()
        self.counter = 0
        self.places: list[Place] = []
        self.names: dict[str, str] = {}
        self.types = program.locals
        self.answers: dict[ir.Query, Parts] = {}
        self.makes = False
        self.in_function = False
        self.kept_arrays: list[str] = []

    # ---- names

    def let(self, code: str) -> str:
        name = self.fresh("t")
        self.out.add(f"{name} = {code}")
        return name

    def fresh(self, stem: str) -> str:
        self.counter += 1
        return f"{stem}{self.counter}"

    def place(self, place: Place) -> int:
        if place not in self.places:
            self.places.append(place)
        return self.places.index(place)

    def named(self, name: str) -> str:
        """The name of a local in generated code."""
        if name not in self.names:
            self.names[name] = f"v{len(self.names)}"
        return self.names[name]

    def parts_of(self, name: str, type: str) -> Parts:
        """The component names of a local that is no list."""
        width = self.width(type)
        return [f"{self.named(name)}_{k}" for k in range(width)]

    def width(self, type: str) -> int:
        return place_width(type, self.scope) if type.startswith("place@") else width_of(type)

    # ---- expressions

    def value(self, expression: ir.Expression) -> Any:
        return getattr(self, f"on_{type(expression).__name__.lower()}")(expression)

    def one(self, expression: ir.Expression) -> str:
        """The only component of a value."""
        (part,) = self.value(expression)
        return str(part)

    def on_constant(self, expression: ir.Constant) -> Parts:
        if expression.type == "text":
            return [self.bind.text(expression.value)]
        return [
            f"({expression.value!r})"
            if not isinstance(expression.value, bool) and expression.value < 0
            else repr(expression.value)
        ]

    def on_external(self, expression: ir.External) -> Parts:
        return self.bind.given(expression.name, expression.type)

    def on_local(self, expression: ir.Local) -> Any:
        if is_list(expression.type):
            return self.stored(self.named(expression.name) + "_b", self.named(expression.name) + "_n", expression.type)
        return self.parts_of(expression.name, expression.type)

    def on_here(self, expression: ir.Here) -> Parts:
        return ["i"]

    def on_read(self, expression: ir.Read) -> Any:
        kind, name, type = expression.kind, expression.name, expression.type
        if type == "identity":
            return [self.let(f"{self.bind.identity(kind)}[i]")]
        if kind == self.scope.kind and name in self.program.writes:
            if is_list(type):
                if self.in_function:
                    raise Unsupported
                return self.on_local(ir.Local(type, expression.place, f"here {name}"))
            array = self.bind.own(name, type)
            return self.loaded(array, "i", width_of(type))
        return self.read(kind, "", name, "i" if kind == self.scope.kind else "0", type)

    def loaded(self, array: str, index: str, width: int) -> Parts:
        if width == 1:
            return [self.let(f"{array}[{index}]")]
        return [self.let(f"{array}[{index}, {k}]") for k in range(width)]

    def read(self, kind: str, owner: str, name: str, index: str, type: str) -> Any:
        if is_list(type):
            start, values = self.bind.lists(kind, owner, name)
            first = self.let(f"np.int64({start}[{index}])")
            size = self.let(f"np.int64({start}[{index} + 1]) - {first}")
            return Items(size, lambda k: [self.let(f"{values}[{first} + {k}]")])
        return self.loaded(self.bind.attribute(kind, owner, name), index, width_of(type))

    def on_readat(self, expression: ir.ReadAt) -> Any:
        return self.read_at(expression.element.type, expression.name, self.one(expression.element), expression.type)

    def read_at(self, element: str, name: str, handle: str, type: str) -> Any:
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

    def list_at(self, kind: str, name: str, handle: str) -> Items:
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

    def store(self, names: Parts, values: Parts) -> None:
        self.out.add(f"{', '.join(names)} = {', '.join(values)}")

    def on_readof(self, expression: ir.ReadOf) -> Any:
        return self.read("whole", expression.input, expression.name, "0", expression.type)

    def on_component(self, expression: ir.Component) -> Parts:
        vector = self.value(expression.vector)
        return [vector[k] for k in expression.components]

    def on_walk(self, expression: ir.Walk) -> Parts:
        return [self.let(f"{self.bind.worked_out(expression)}[i]")]

    def on_profile(self, expression: ir.Profile) -> Parts:
        table, at = self.bind.profile(expression.name), self.one(expression.at)
        if expression.type == "number":
            return [self.let(f"response_at({table}, {at})")]
        made = self.let(f"gradient_at({table}, {at})")
        return [f"{made}[{k}]" for k in range(4)]

    def on_apply(self, expression: ir.Apply) -> Any:
        function = expression.function
        if function.name in ("and", "or"):
            return self.shortcut(expression)
        if function.name == "if":
            return self.choose(expression)
        values = [self.value(argument) for argument in expression.arguments]
        if function.name == "random" and expression.arguments[0].type == "integer":
            values[0] = [self.let(f"np.uint64(name_of_number({values[0][0]}))")]
        if callable(function.code):
            return function.code(self, values)
        whole = function.whole and all(a.type in ("integer", "flag") for a in expression.arguments)
        template = function.whole if whole else function.code
        place = self.place(expression.place)
        width = width_of(expression.type)
        spread = [v if len(v) == width else v * width for v in values]
        return [self.let(template.format(*parts, place=place)) for parts in zip(*spread, strict=True)]

    def shortcut(self, expression: ir.Apply) -> Parts:
        result = self.fresh("r")
        self.out.add(f"{result} = {self.one(expression.arguments[0])}")
        negate = "not " if expression.function.name == "or" else ""
        kept, self.answers = self.answers, dict(self.answers)
        with self.out.block(f"if {negate}{result}:"):
            self.out.add(f"{result} = {self.one(expression.arguments[1])}")
        self.answers = kept
        return [result]

    def choose(self, expression: ir.Apply) -> Any:
        test = self.one(expression.arguments[0])
        yes, no = expression.arguments[1:]
        if is_list(expression.type):
            name = self.fresh("c")
            self.branches(
                test,
                lambda: self.keep_list(name, self.value(yes), yes.type),
                lambda: self.keep_list(name, self.value(no), no.type),
            )
            return self.stored(f"{name}_b", f"{name}_n", expression.type)
        results = [self.fresh("r") for _ in range(self.width(expression.type))]
        self.branches(test, lambda: self.store(results, self.value(yes)), lambda: self.store(results, self.value(no)))
        return results

    def branches(self, test: str, *ways: Callable[[], None]) -> None:
        kept = self.answers
        for head, way in zip((f"if {test}:", "else:"), ways, strict=True):
            self.answers = dict(kept)
            with self.out.block(head):
                way()
        self.answers = kept

    # ---- elements and lists

    def stored(self, array: str, length: str, type: str) -> Items:
        width = width_of(item_of(type))
        return Items(length, lambda k: self.loaded(array, k, width), array)

    def keep_list(self, name: str, items: Items, type: str) -> None:
        """Put a list into an array of its own, ``name_b`` with ``name_n`` items."""
        array, length = f"{name}_b", f"{name}_n"
        width = width_of(item_of(type))
        fresh_length = self.let(items.length)
        room = self.let(self.new_array(item_of(type), fresh_length))
        k = self.fresh("k")
        with self.out.block(f"for {k} in range({fresh_length}):"):
            self.put_item(room, k, items.item(k), width)
        self.out.add(f"{array}, {length} = {room}, {fresh_length}")

    def new_array(self, item: str, length: str) -> str:
        width = width_of(item)
        dtype = {"integer": "np.int64", "flag": "np.bool_", "text": "np.int64"}.get(
            item, "np.int64" if "@" in item else "np.float64"
        )
        return f"np.empty({length}, {dtype})" if width == 1 else f"np.empty(({length}, {width}), {dtype})"

    def put_item(self, array: str, index: str, parts: Parts, width: int) -> None:
        if width == 1:
            self.out.add(f"{array}[{index}] = {parts[0]}")
            return
        for k, part in enumerate(parts):
            self.out.add(f"{array}[{index}, {k}] = {part}")

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
        return self.stored(room, str(len(parts)), f"[{item}]")

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
        if how == "len" and isinstance(expression.items, ir.Query):
            return [self.count_near(expression.items)]
        items = self.value(expression.items)
        if how == "len":
            return [self.let(f"np.int64({items.length})")]
        item = item_of(expression.items.type)
        if how == "median":
            room = self.let(self.new_array("number", items.length))
            k = self.fresh("k")
            with self.out.block(f"for {k} in range({items.length}):"):
                self.put_item(room, k, items.item(k), 1)
            return [self.let(f"median_of({room}, {items.length})")]
        if how == "deviation":
            middle = self.folded("mean", items, "number", None)
            return [self.let(f"np.sqrt({self.folded('mean', items, 'number', middle[0])[0]})")]
        return self.folded(how, items, item, None)

    def folded(self, how: str, items: Items, item: str, about: str | None) -> Parts:
        """A loop that gathers all items in one value; with ``about`` their squared distance to it."""
        width = width_of(item)
        begin = {"any": "False", "all": "True"}.get(how, "0" if item == "integer" and how != "mean" else "0.0")
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

    # ---- questions to other geometries

    def on_query(self, expression: ir.Query) -> Any:
        if expression.how == "near":
            return self.near(expression)
        if may_change(expression, self.program.writes):
            return self.asked(expression)
        if expression not in self.answers:
            self.answers[expression] = self.asked(expression)
        return self.answers[expression]

    def asked(self, expression: ir.Query) -> Parts:
        arguments = [self.value(argument) for argument in expression.arguments]
        return self.bind.ask(self, expression.input, expression.how, arguments)

    def near(self, expression: ir.Query) -> Items:
        """Points within a radius, nearest first. With a small limit they are looked for at once, else counted before."""
        tree, at, limit = self.near_arguments(expression)
        count = f"count_one({tree.boxes}, {at}, {limit}, stack, flags)"
        if len(expression.arguments) > 2:
            count = f"max({limit}, 0) if {limit} <= {AT_ONCE} else {count}"
        room = self.let(f"room_for({count}, err, {self.place(expression.place)})")
        if self.in_function:
            found, far = self.let(f"np.empty({room}, np.int64)"), self.let(f"np.empty({room})")
        else:
            found, far = self.kept_room(room)
        count = self.let(f"fill_one({tree.all}, {at}, {found}, {far}, 0, {room}, stack, gaps)")
        return self.stored(found, count, "[integer]")

    def kept_room(self, room: str) -> tuple[str, str]:
        """Arrays for found points that are used again for the next element. Not in functions, which may call themselves."""
        found, far = self.fresh("g"), self.fresh("g")
        self.kept_arrays += [f"{found} = np.empty({AT_ONCE}, np.int64)", f"{far} = np.empty({AT_ONCE})"]
        with self.out.block(f"if {room} > len({found}):"):
            self.out.add(f"{found}, {far} = np.empty({room}, np.int64), np.empty({room})")
        return found, far

    def near_arguments(self, expression: ir.Query) -> tuple[TreeNames, str, str]:
        place, radius, *most = [self.value(argument) for argument in expression.arguments]
        return (
            self.bind.point_tree(expression.input),
            f"{', '.join(place)}, {radius[0]}",
            most[0][0] if most else str(2**62),
        )

    def count_near(self, expression: ir.Query) -> str:
        """How many points lie within a radius, when nothing else is asked of them."""
        tree, at, limit = self.near_arguments(expression)
        return self.let(f"count_one({tree.boxes}, {at}, {limit}, stack, flags)")

    def on_placefield(self, expression: ir.PlaceField) -> Parts:
        place = self.value(expression.where)
        owner, how = owner_of(expression.where.type), expression.where.type.rpartition(".")[2]
        if expression.kind is None:
            return self.bind.field(self, owner, how, expression.name, place)
        return self.found_attribute(expression, owner, how, place)

    def found_attribute(self, expression: ir.PlaceField, owner: str, how: str, place: Parts) -> Parts:
        """An attribute at a place: blended over the corners of what was hit, or of the heaviest one."""
        kind, name, type = expression.kind, expression.name, expression.type
        assert kind is not None
        corners = self.bind.corners(owner, how, kind)
        values = self.bind.attribute(kind, owner, name)
        width = width_of(type)
        results = [self.fresh("r") for _ in range(width)]
        self.store(results, self.bind.fallback(owner, kind, name, type))
        with self.out.block(f"if {place[0]} >= 0:"):
            if isinstance(corners, str):
                self.store(results, self.loaded(values, f"np.int64({corners.format(place[0])})", width))
            elif type in BLENDED:
                rows = [self.let(f"np.int64({corner.format(place[0])})") for corner in corners]
                columns = [self.loaded(values, row, width) for row in rows]
                blended = [
                    self.let(" + ".join(f"{w} * {column[k]}" for w, column in zip(place[2:], columns, strict=False)))
                    for k in range(width)
                ]
                if name in UNIT_LENGTH and type in VECTORS and width > 2:
                    long = self.let(f"np.sqrt({' + '.join(f'{b} * {b}' for b in blended)})")
                    blended = [self.let(f"{b} / {long} if {long} > 0.0 else {b}") for b in blended]
                self.store(results, blended)
            else:
                weights = ", ".join(place[2 : 2 + len(corners)])
                heaviest = self.let(f"np.array([{weights}]).argmax()")
                row = self.fresh("w")
                for k, corner in enumerate(corners):
                    with self.out.block(f"{'if' if k == 0 else 'elif'} {heaviest} == {k}:"):
                        self.out.add(f"{row} = np.int64({corner.format(place[0])})")
                with self.out.block("else:"):
                    self.out.add(f"{row} = 0")
                self.store(results, self.loaded(values, row, width))
        return results
