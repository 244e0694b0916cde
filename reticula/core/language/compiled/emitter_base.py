"""What all emitters share: the program, the scope it runs in, what it is handed, and names for its locals."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from reticula.core.language import ir
from reticula.core.language.compiled.bindings import Bindings
from reticula.core.language.compiled.code_writer import CodeWriter, Parts
from reticula.core.language.ir.visitor import ExpressionVisitor
from reticula.core.language.parse import Place
from reticula.core.language.scope import Scope
from reticula.core.language.types import PlaceOf, Type, width_of

__all__ = ["EmitterBase"]


class EmitterBase(CodeWriter, ExpressionVisitor[Any]):
    """``names`` says how names of the program are called in generated code, ``answers`` holds questions already
    asked.
    """

    def __init__(self, program: ir.Program, scope: Scope, bind: Bindings) -> None:
        super().__init__()
        self.program, self.scope, self.bind = program, scope, bind
        self.places: list[Place] = []
        self.names: dict[str, str] = {}
        self.types = program.locals
        self.answers: dict[ir.Query, Parts] = {}
        self.makes = False
        self.in_function = False
        self.kept_arrays: list[str] = []

    def place(self, place: Place) -> int:
        if place not in self.places:
            self.places.append(place)
        return self.places.index(place)

    def named(self, name: str) -> str:
        """The name of a local in generated code."""
        if name not in self.names:
            self.names[name] = f"v{len(self.names)}"
        return self.names[name]

    def parts_of(self, name: str, type: Type) -> Parts:
        """The component names of a local that is no list."""
        width = self.width(type)
        return [f"{self.named(name)}_{k}" for k in range(width)]

    def width(self, type: Type) -> int:
        return self.bind.place_width(type) if isinstance(type, PlaceOf) else width_of(type)

    def value(self, expression: ir.Expression) -> Any:
        """Write what works an expression out; returns its components, or a list."""
        return self.visit(expression)

    def one(self, expression: ir.Expression) -> str:
        """The only component of a value."""
        (part,) = self.value(expression)
        return str(part)

    def branches(self, test: str, *ways: Callable[[], None]) -> None:
        kept = self.answers
        for head, way in zip((f"if {test}:", "else:"), ways, strict=True):
            self.answers = dict(kept)
            with self.out.block(head):
                way()
        self.answers = kept
