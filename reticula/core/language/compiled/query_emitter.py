"""From the intermediate form to the source of a compiled kernel: questions to other geometries."""

from __future__ import annotations

from typing import Any

from reticula.core.geometry.mesh.kinds import BLENDED
from reticula.core.geometry.mesh.source_maps import UNIT_LENGTH
from reticula.core.language import ir
from reticula.core.language.compiled.code_writer import Items, Parts
from reticula.core.language.compiled.emitter_base import EmitterBase
from reticula.core.language.compiled.query_code import write_field, write_query
from reticula.core.language.functions import VECTORS
from reticula.core.language.typecheck import may_change
from reticula.core.language.types import owner_of, width_of

__all__ = ["QueryEmitter"]

AT_ONCE = 512
"""Neighbours that room is made for without counting them first."""


class QueryEmitter(EmitterBase):
    """Writes questions, and what is read of their answers. Equal questions of an element are asked once."""

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
        return write_query(self, self.bind, expression.input, expression.how, arguments)

    def near(self, expression: ir.Query) -> Items:
        """Points within a radius, nearest first.

        With a small limit they are looked for at once, else counted before.
        """
        tree, at, limit = self.near_arguments(expression)
        count = f"count_one({tree}, {at}, {limit}, count_scratch)"
        if len(expression.arguments) > 2:
            count = f"max({limit}, 0) if {limit} <= {AT_ONCE} else {count}"
        room = self.let(f"room_for({count}, err, {self.place(expression.place)})")
        if self.in_function:
            found, far = self.let(f"np.empty({room}, np.int64)"), self.let(f"np.empty({room})")
        else:
            found, far = self.kept_room(room)
        count = self.let(f"fill_one({tree}, {at}, Row({found}, {far}, 0, {room}), scratch)")
        return self.stored(found, count, "[integer]")

    def kept_room(self, room: str) -> tuple[str, str]:
        """Arrays for found points that are used again for the next element.

        Not in functions, which may call themselves.
        """
        found, far = self.fresh("g"), self.fresh("g")
        self.kept_arrays += [f"{found} = np.empty({AT_ONCE}, np.int64)", f"{far} = np.empty({AT_ONCE})"]
        with self.out.block(f"if {room} > len({found}):"):
            self.out.add(f"{found}, {far} = np.empty({room}, np.int64), np.empty({room})")
        return found, far

    def near_arguments(self, expression: ir.Query) -> tuple[str, str, str]:
        place, radius, *most = [self.value(argument) for argument in expression.arguments]
        return (
            self.bind.point_tree(expression.input),
            f"({', '.join(place)}), {radius[0]}",
            most[0][0] if most else str(2**62),
        )

    def count_near(self, expression: ir.Query) -> str:
        """How many points lie within a radius, when nothing else is asked of them."""
        tree, at, limit = self.near_arguments(expression)
        return self.let(f"count_one({tree}, {at}, {limit}, count_scratch)")

    def on_placefield(self, expression: ir.PlaceField) -> Parts:
        place = self.value(expression.where)
        owner, how = owner_of(expression.where.type), expression.where.type.rpartition(".")[2]
        if expression.kind is None:
            return write_field(self, self.bind, owner, how, expression.name, place)
        return self.found_attribute(expression, owner, how, place)

    def found_attribute(self, expression: ir.PlaceField, owner: str, how: str, place: Parts) -> Parts:
        """An attribute at a place: blended over the corners of what was hit, or of the nearest one."""
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
