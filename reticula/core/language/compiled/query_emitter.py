"""From the intermediate form to the source of a compiled kernel: questions to other geometries."""

from __future__ import annotations

from typing import Any

from reticula.core.geometry.mesh.attribute_types import AttributeType
from reticula.core.geometry.mesh.source_maps import UNIT_LENGTH
from reticula.core.language import ir
from reticula.core.language.compiled.code_writer import Parts
from reticula.core.language.compiled.emitter_base import EmitterBase
from reticula.core.language.functions import VECTORS
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.questions.question import POINTS, Asked
from reticula.core.language.typecheck import may_change
from reticula.core.language.types import PlaceOf, width_of

__all__ = ["QueryEmitter"]


class QueryEmitter(EmitterBase):
    """Writes questions, and what is read of their answers. Equal questions of an element are asked once."""

    def on_query(self, expression: ir.Query) -> Any:
        if expression.question.gives == POINTS or may_change(expression, self.program.writes):
            return expression.question.code(self, self.asked(expression))
        if expression not in self.answers:
            self.answers[expression] = expression.question.code(self, self.asked(expression))
        return self.answers[expression]

    def asked(self, expression: ir.Query) -> Asked:
        arguments = [self.value(argument) for argument in expression.arguments]
        on = self.bind.lies_on(expression.input, expression.question)
        return Asked(expression.input, on, arguments, lambda: self.place(expression.place))

    def on_placefield(self, expression: ir.PlaceField) -> Parts:
        place = self.value(expression.where)
        assert isinstance(expression.where.type, PlaceOf)
        owner, question = expression.where.type.owner, QUESTIONS[expression.where.type.how]
        on = self.bind.lies_on(owner, question)
        if expression.kind is not None:
            return self.found_attribute(expression, owner, on, place)
        field = question.field(expression.name)
        assert field is not None
        return field.code(self, owner, on, place)

    def found_attribute(self, expression: ir.PlaceField, owner: str, on: str, place: Parts) -> Parts:
        """An attribute at a place: blended over the corners of what was hit, or of the nearest one."""
        kind, name, type = expression.kind, expression.name, expression.type
        assert kind is not None
        corners = self.bind.corners(owner, on, kind)
        values = self.bind.attribute(kind, owner, name)
        width = width_of(type)
        results = [self.fresh("r") for _ in range(width)]
        self.store(results, self.bind.fallback(owner, kind, name, type))
        with self.out.block(f"if {place[0]} >= 0:"):
            if isinstance(corners, str):
                self.store(results, self.loaded(values, f"np.int64({corners.format(place[0])})", width))
            elif isinstance(type, AttributeType) and type.blends:
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
            elif len(corners) == 2:
                first, second = (f"np.int64({corner.format(place[0])})" for corner in corners)
                row = self.let(f"{first} if {place[2]} >= {place[3]} else {second}")
                self.store(results, self.loaded(values, row, width))
            else:
                faces = self.bind.face_corners(owner)
                row = self.let(f"nearest_corner(({', '.join(faces)}), {place[0]}, {', '.join(place[5:8])})")
                if kind == "point":
                    row = self.let(f"np.int64({faces[2]}[{row}])")
                self.store(results, self.loaded(values, row, width))
        return results
