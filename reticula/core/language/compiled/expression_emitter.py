"""From the intermediate form to the source of a compiled kernel: expressions.

A value is a list of components, each the name of a number in the generated code or a short literal; a list is a
:class:`Items`. Whatever must be worked out goes into a new name, so that nothing is worked out twice or too early.
"""

from __future__ import annotations

from typing import Any

from reticula.core.language import ir
from reticula.core.language.compiled.code_writer import Parts, Unsupported
from reticula.core.language.compiled.list_emitter import ListEmitter
from reticula.core.language.types import FLAG, IDENTITY, INTEGER, NUMBER, TEXT, is_list, width_of

__all__ = ["ExpressionEmitter"]


class ExpressionEmitter(ListEmitter):
    """Writes expressions."""

    def on_constant(self, expression: ir.Constant) -> Parts:
        if expression.type is TEXT:
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
        if type is IDENTITY:
            return [self.let(f"{self.bind.identity(kind)}[i]")]
        if kind == self.scope.kind and name in self.program.writes:
            if is_list(type):
                if self.in_function:
                    raise Unsupported
                return self.on_local(ir.Local(type, expression.place, f"here {name}"))
            array = self.bind.own(name, type)
            return self.loaded(array, "i", width_of(type))
        return self.read(kind, "", name, "i" if kind == self.scope.kind else "0", type)

    def on_component(self, expression: ir.Component) -> Parts:
        vector = self.value(expression.vector)
        return [vector[k] for k in expression.components]

    def on_walk(self, expression: ir.Walk) -> Parts:
        return [self.let(f"{self.bind.worked_out(expression)}[i]")]

    def on_profile(self, expression: ir.Profile) -> Parts:
        table, at = self.bind.profile(expression.name), self.one(expression.at)
        if expression.type is NUMBER:
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
        if function.name == "random" and expression.arguments[0].type is INTEGER:
            values[0] = [self.let(f"np.uint64(name_of_number({values[0][0]}))")]
        if callable(function.code):
            return function.code(self, values)
        whole = function.whole and all(a.type in (INTEGER, FLAG) for a in expression.arguments)
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
