"""From the intermediate form to the source of a compiled kernel: calls, and elements that are made."""

from __future__ import annotations

from typing import Any

from reticula.core.language import ir
from reticula.core.language.compiled.bindings import Bindings
from reticula.core.language.compiled.code_writer import Items
from reticula.core.language.compiled.emitted import LogColumn
from reticula.core.language.compiled.emitter_base import EmitterBase
from reticula.core.language.compiled.runtime import SHORT
from reticula.core.language.scope import Scope
from reticula.core.language.types import NOTHING, is_list, kind_of, width_of

__all__ = ["MakingEmitter", "function_name"]


class MakingEmitter(EmitterBase):
    """Writes calls of functions, and records of what is made in the columns of the log."""

    def __init__(self, program: ir.Program, scope: Scope, bind: Bindings) -> None:
        super().__init__(program, scope, bind)
        self.columns: list[LogColumn] = []

    def record(self, column: str) -> str:
        """Write code that takes the next row of a log; returns the name of its number."""
        counter = next(c.counter for c in self.columns if c.name == column)
        return self.let(f"record(made, {counter}, len({column}), err)")

    def on_call(self, expression: ir.Call) -> Any:
        arguments: list[str] = []
        for argument in expression.arguments:
            value = self.value(argument)
            if isinstance(value, Items):
                name = self.fresh("c")
                self.keep_list(name, value, argument.type)
                value = [f"{name}_b", f"{name}_n"]
            arguments += value
        deeper = self.let(f"enter_call(depth, err, {self.place(expression.place)})")
        call = f"{function_name(expression.routine)}(i, {deeper}, {', '.join(['{CONTEXT}', *arguments])})"
        if expression.type is NOTHING:
            return [self.let(call)]
        if is_list(expression.type):
            name = self.fresh("c")
            self.out.add(f"{name}_b, {name}_n = {call}")
            return self.stored(f"{name}_b", f"{name}_n", expression.type)
        width = width_of(expression.type)
        if width == 1:
            return [self.let(call)]
        results = [self.fresh("r") for _ in range(width)]
        self.out.add(f"{', '.join(results)} = {call}")
        return results

    # ---- making

    def on_makepoint(self, expression: ir.MakePoint) -> list[str]:
        x, y, z = self.value(expression.position)
        own = "i" if self.scope.kind == "point" else "np.int64(-9223372036854775808)"
        like = own if expression.like is None else self.one(expression.like)
        self.out.add(f"finite_place({x}, {y}, {z}, err, {self.place(expression.place)})")
        at = self.record("pt_by")
        self.out.add(f"pt_by[{at}], pt_like[{at}] = i, {like}")
        self.out.add(f"pt_pos[{at}, 0], pt_pos[{at}, 1], pt_pos[{at}, 2] = {x}, {y}, {z}")
        return [self.let(f"-1 - {at}")]

    def on_makechain(self, expression: ir.MakeChain) -> list[str]:
        kind = kind_of(expression.type)
        stem, least = ("cv", 2) if kind == "curve" else ("fc", 3)
        items = self.value(expression.points)
        closed = "False" if expression.closed is None else self.one(expression.closed)
        code = f"halt(err, {SHORT}, {self.place(expression.place)}, {items.length}, {least})"
        with self.out.block(f"if {items.length} < {least}:"):
            self.out.add(code)
        at = self.record(f"{stem}_by")
        self.out.add(f"{stem}_by[{at}], {stem}_size[{at}], {stem}_closed[{at}] = i, {items.length}, {closed}")
        k = self.fresh("k")
        with self.out.block(f"for {k} in range({items.length}):"):
            (handle,) = items.item(k)
            self.out.add(f"{stem}_points[{self.record(f'{stem}_points')}] = {handle}")
        return [self.let(f"-1 - {at}")]


def function_name(routine: str) -> str:
    """The name of a function in generated code: none of the script's own letters."""
    return "f" + routine.rpartition(" ")[2]
