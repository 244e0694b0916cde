"""From the intermediate form to the source of a compiled kernel: statements, functions, and the kernel around them."""

from __future__ import annotations

from typing import Any, assert_never

from reticula.core.language import ir
from reticula.core.language.compiled.bindings import Bindings
from reticula.core.language.compiled.code_writer import Items, Unsupported
from reticula.core.language.compiled.emitted import Emitted, LogColumn
from reticula.core.language.compiled.expression_emitter import ExpressionEmitter
from reticula.core.language.compiled.making_emitter import MakingEmitter, function_name
from reticula.core.language.compiled.program_traits import (
    calls_itself,
    changes_list,
    kinds_made,
    loops,
    makes_elements,
)
from reticula.core.language.effects import REMOVABLE
from reticula.core.language.scope import Scope
from reticula.core.language.types import NOTHING, is_list, item_of, kernel_dtype, kind_of, width_of

__all__ = ["Emitted", "LogColumn", "Unsupported", "emit_program"]

HEAD = '''"""Generated from a script. Not to be edited."""
import math

import numpy as np

from reticula.core.jit import inline_making, inline_unkept
from reticula.core.geometry.mesh.identity import name_of_number, random_of_name
from reticula.core.geometry.pictures.sampling import picture_at
from reticula.core.language.noise import cell_distance, cell_label, octaves_at
from reticula.core.language.compiled.runtime import (
    added, clamp01, divided, enter_call, finite_place, greater, grown, halt, item_number, lesser, load_now,
    median_of, multiplied, record, remainder, rest, room_for, smooth_rise, span_count, subtracted, tick,
    turn_about, whole_of, whole_quotient,
)
from reticula.core.language.math_kernels import hypotenuse, power
from reticula.core.language.profile_kernels import gradient_at, response_at
from reticula.core.language.matrix_kernels import determinant3, determinant4, inverse3, inverse4
from reticula.core.spatial.kdtree import CountScratch, PointTree, Row, Scratch, count_one, fill_one, nearest_one
from reticula.core.spatial.nearest_corner import nearest_corner
from reticula.core.spatial.surface import Ray, closest_one, hit_one
from reticula.core.spatial.tree import Tree
from reticula.core.spatial.winding import Moments, winding_one

'''
SCRATCH = {
    "scratch": "Scratch(np.empty(160, np.int32), np.empty(160))",
    "count_scratch": "CountScratch(np.empty(160, np.int32), np.empty(160, np.bool_))",
    "place": "np.empty(6)",
    "origin": "np.empty(3)",
    "along": "np.empty(3)",
    "inverse": "np.empty(3)",
}
FIXED = ("lo", "hi", "elements", "err", "stop", "made")


def emit_program(program: ir.Program, scope: Scope) -> Emitted:
    """Write a kernel for a checked program; raises Unsupported for what the vector back end keeps to itself."""
    return _ProgramEmitter(program, scope, Bindings(scope)).emitted()


class _ProgramEmitter(ExpressionEmitter, MakingEmitter):
    def __init__(self, program: ir.Program, scope: Scope, bind: Bindings) -> None:
        super().__init__(program, scope, bind)
        self.makes = makes_elements(program)
        self.counters = 0
        self.chains: list[str] = []
        self.adds: list[tuple[str, str, bool]] = []
        self.list_writes = [name for name, type in program.writes.items() if is_list(type)]

    def emitted(self) -> Emitted:
        self.declare_log()
        for name, type in self.program.writes.items():
            if not is_list(type):
                self.bind.own(name, type)
        functions = [self.function(routine) for routine in self.program.routines.values()]
        self.types, self.names, self.answers = self.program.locals, {}, {}
        self.out.lines, self.out.depth = [], 2
        self.out.add("i = elements[at]")
        self.out.add("err[2] = i")
        for name in self.list_writes:
            self.begin_list(name)
        self.block(self.program.body)
        for number, name in enumerate(self.list_writes):
            self.end_list(number, name)
        source = HEAD + "\n\n".join([*functions, self.kernel(self.out.lines)]) + "\n"
        source = source.replace("{CONTEXT}", ", ".join(self.context()))
        kept = not calls_itself(self.program)
        if not kept:
            source = source.replace("@inline_making\n", "@inline_unkept\n")
        return Emitted(
            source,
            self.bind.arguments,
            dict(self.bind.owns),
            tuple(self.columns),
            max(self.counters, 1),
            tuple(self.places),
            tuple(self.chains),
            tuple(self.adds),
            tuple(self.list_writes),
            kept,
        )

    def context(self) -> list[str]:
        """Names that every function is handed."""
        owns = [name for values, written, _ in self.bind.owns.values() for name in (values, written)]
        return ["err", "stop", "made", *(c.name for c in self.columns), *owns, *self.bind.arguments, *SCRATCH]

    def kernel(self, body: list[str]) -> str:
        owns = [name for values, written, _ in self.bind.owns.values() for name in (values, written)]
        names = [*FIXED, *(column.name for column in self.columns), *owns, *self.bind.arguments]
        lines = [
            "@inline_making",
            f"def kernel({', '.join(names)}):",
            *(f"    {name} = {made}" for name, made in SCRATCH.items()),
            *(f"    {line}" for line in self.kept_arrays),
            "    depth = 0 * lo",
            "    for at in range(lo, hi):",
            "        tick(stop, err)",
            *body,
        ]
        return "\n".join(lines)

    def function(self, routine: ir.Routine) -> str:
        self.types, self.names, self.answers = routine.locals, {}, {}
        self.out.lines, self.out.depth = [], 1
        self.in_function = True
        parameters: list[str] = []
        for name in routine.parameters:
            type = routine.locals[name]
            if is_list(type):
                parameters += [f"{self.named(name)}_b", f"{self.named(name)}_n"]
            else:
                parameters += self.parts_of(name, type)
        self.block(routine.body)
        self.in_function = False
        if routine.result is NOTHING:
            self.out.add("return 0")
        else:
            self.out.add("raise Exception")
        head = f"def {function_name(routine.name)}(i, depth, {', '.join(['{CONTEXT}', *parameters])}):"
        return "\n".join(["@inline_making", head, *self.out.lines])

    # ---- logs

    def declare_log(self) -> None:
        kinds = kinds_made(self.program)
        if "point" in kinds:
            self.log("pt_by", "int64", 0, "pt_pos", "float64", 3, "pt_like", "int64", 0)
        for kind, stem in (("curve", "cv"), ("face", "fc")):
            if kind in kinds:
                self.chains.append(kind)
                self.log(f"{stem}_by", "int64", 0, f"{stem}_size", "int64", 0, f"{stem}_closed", "bool", 0)
                self.log(f"{stem}_points", "int64", 0)
        if "remove" in kinds:
            self.log("rm_by", "int64", 0, "rm_kind", "int64", 0, "rm_which", "int64", 0)
        for number, (key, type) in enumerate(self.program.adds.items()):
            self.adds.append(key)
            dtype = kernel_dtype(type)
            self.log(
                f"ad{number}_by", "int64", 0, f"ad{number}_to", "int64", 0, f"ad{number}_val", dtype, width_of(type)
            )
        for number, name in enumerate(self.list_writes):
            dtype = kernel_dtype(item_of(self.program.writes[name]))
            self.log(f"lw{number}_by", "int64", 0, f"lw{number}_size", "int64", 0)
            self.log(f"lw{number}_val", dtype, 0)

    def log(self, *columns: Any) -> None:
        for k in range(0, len(columns), 3):
            self.columns.append(LogColumn(columns[k], columns[k + 1], columns[k + 2], self.counters))
        self.counters += 1

    def begin_list(self, name: str) -> None:
        """An own list attribute lives in local names while the element runs."""
        type = self.program.writes[name]
        local = f"here {name}"
        self.types[local] = type
        if self.scope.geo.has(self.scope.kind, name):
            self.keep_list(self.named(local), self.read(self.scope.kind, "", name, "i", type), type)
        else:
            self.out.add(f"{self.named(local)}_b, {self.named(local)}_n = {self.new_array(item_of(type), '0')}, 0")
        self.out.add(f"{self.named(local)}_w = False")

    def end_list(self, number: int, name: str) -> None:
        local = self.named(f"here {name}")
        with self.out.block(f"if {local}_w:"):
            at = self.record(f"lw{number}_by")
            self.out.add(f"lw{number}_by[{at}], lw{number}_size[{at}] = i, {local}_n")
            k = self.fresh("k")
            with self.out.block(f"for {k} in range({local}_n):"):
                self.out.add(f"lw{number}_val[{self.record(f'lw{number}_val')}] = {local}_b[{k}]")

    # ---- statements

    def block(self, statements: tuple[ir.Statement, ...]) -> None:
        for statement in statements:
            self.step(statement)

    def step(self, statement: ir.Statement) -> None:
        match statement:
            case ir.Assign():
                self.do_assign(statement)
            case ir.SetItem():
                self.do_setitem(statement)
            case ir.Append():
                self.do_append(statement)
            case ir.Write():
                self.do_write(statement)
            case ir.Add():
                self.do_add(statement)
            case ir.Remove():
                self.do_remove(statement)
            case ir.Print():
                self.do_print(statement)
            case ir.Do():
                self.do_do(statement)
            case ir.If():
                self.do_if(statement)
            case ir.For():
                self.do_for(statement)
            case ir.While():
                self.do_while(statement)
            case ir.Break():
                self.do_break(statement)
            case ir.Continue():
                self.do_continue(statement)
            case ir.Return():
                self.do_return(statement)
            case _:
                assert_never(statement)

    def inner(self, statements: tuple[ir.Statement, ...]) -> None:
        """A block that may run or not, or again: answers to questions are not kept over it."""
        kept, self.answers = self.answers, dict(self.answers)
        self.block(statements)
        self.answers = kept

    def do_assign(self, statement: ir.Assign) -> None:
        value = self.value(statement.value)
        if isinstance(value, Items):
            self.assign_list(statement.name, value, statement.value)
            return
        self.store(self.parts_of(statement.name, statement.value.type), value)

    def assign_list(self, name: str, items: Items, expression: ir.Expression) -> None:
        type = self.types[name]
        fresh = items.stored is not None and not isinstance(expression, (ir.Local, ir.Apply, ir.Read))
        if fresh and expression.type == type:
            self.out.add(f"{self.named(name)}_b, {self.named(name)}_n = {items.stored}, {items.length}")
        else:
            self.keep_list(self.named(name), items, type)

    def do_append(self, statement: ir.Append) -> None:
        name = self.named(statement.name)
        value = self.value(statement.value)
        self.out.add(f"{name}_b = grown({name}_b, {name}_n, err, {self.place(statement.place)})")
        self.put_item(f"{name}_b", f"{name}_n", value, width_of(item_of(self.types[statement.name])))
        self.out.add(f"{name}_n += 1")

    def do_setitem(self, statement: ir.SetItem) -> None:
        name = self.named(statement.name)
        value = self.value(statement.value)
        index = self.one(statement.index)
        at = self.let(f"item_number({index}, {name}_n, err, {self.place(statement.index.place)})")
        self.put_item(f"{name}_b", at, value, width_of(item_of(self.types[statement.name])))

    def do_write(self, statement: ir.Write) -> None:
        value = self.value(statement.value)
        if isinstance(value, Items):
            local = self.named(f"here {statement.name}")
            self.keep_list(local, value, statement.value.type)
            self.out.add(f"{local}_w = True")
            return
        array = self.bind.own(statement.name, statement.value.type)
        self.put_item(array, "i", value, len(value))
        self.out.add(f"{self.bind.own_written(statement.name)}[i] = True")

    def do_add(self, statement: ir.Add) -> None:
        key = (kind_of(statement.element.type), statement.name, statement.sums)
        number = self.adds.index(key)
        target, value = self.one(statement.element), self.value(statement.value)
        at = self.record(f"ad{number}_by")
        self.out.add(f"ad{number}_by[{at}], ad{number}_to[{at}] = i, {target}")
        for k, part in enumerate(value):
            self.out.add(f"ad{number}_val[{at}, {k}] = {part}")

    def do_remove(self, statement: ir.Remove) -> None:
        which = self.one(statement.element)
        at = self.record("rm_by")
        kind = REMOVABLE.index(kind_of(statement.element.type))
        self.out.add(f"rm_by[{at}], rm_kind[{at}], rm_which[{at}] = i, {kind}, {which}")

    def do_do(self, statement: ir.Do) -> None:
        self.value(statement.value)

    def do_print(self, statement: ir.Print) -> None:
        for value in statement.values:
            self.value(value)

    def do_if(self, statement: ir.If) -> None:
        test = self.one(statement.test)
        with self.out.block(f"if {test}:"):
            self.inner(statement.body)
        if statement.otherwise:
            with self.out.block("else:"):
                self.inner(statement.otherwise)

    def do_while(self, statement: ir.While) -> None:
        kept, self.answers = self.answers, {}
        with self.out.block("while depth >= 0:"):
            self.out.add("tick(stop, err)")
            with self.out.block(f"if not {self.one(statement.test)}:"):
                self.out.add("break")
            self.block(statement.body)
        self.answers = kept

    def do_for(self, statement: ir.For) -> None:
        items = self.value(statement.items)
        if isinstance(statement.items, ir.Local) and changes_list(statement.body, statement.items.name):
            copy = self.fresh("c")
            self.keep_list(copy, items, statement.items.type)
            items = self.stored(f"{copy}_b", f"{copy}_n", statement.items.type)
        k, count = self.fresh("k"), self.let(items.length)
        kept, self.answers = self.answers, dict(self.answers)
        with self.out.block(f"for {k} in range({count}):"):
            self.look_up(k, inner=not loops(statement.body))
            type = item_of(statement.items.type)
            self.store(self.parts_of(statement.name, type), items.item(k))
            self.block(statement.body)
        self.answers = kept

    def look_up(self, count: str, *, inner: bool) -> None:
        """Look whether the run was stopped: in every round, or in an innermost loop now and then."""
        if inner:
            self.out.add(f"if {count} & 255 == 255:")
            self.out.add("    tick(stop, err)")
        else:
            self.out.add("tick(stop, err)")

    def do_break(self, statement: ir.Break) -> None:
        self.out.add("break")

    def do_continue(self, statement: ir.Continue) -> None:
        self.out.add("continue")

    def do_return(self, statement: ir.Return) -> None:
        if statement.value is None:
            self.out.add("return 0")
            return
        value = self.value(statement.value)
        if isinstance(value, Items):
            name = self.fresh("c")
            self.keep_list(name, value, statement.value.type)
            value = [f"{name}_b", f"{name}_n"]
        self.out.add(f"return {', '.join(value)}")
