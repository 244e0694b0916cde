"""What a script makes and removes: points, curves, faces."""

from __future__ import annotations

import ast

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language import ir
from reticula.core.language.functions import OPERATORS
from reticula.core.language.parse import Place
from reticula.core.language.typecheck.assignments import AssignmentChecker
from reticula.core.language.typecheck.environment import as_vector, convert
from reticula.core.language.types import (
    FLAG,
    INTEGER,
    NUMERIC,
    UNKNOWN_LIST,
    VEC3,
    ElementOf,
    ListOf,
    in_words,
    kind_of,
    owner_of,
)

__all__ = ["CreationChecker"]

REMOVED = ("point", "edge", "face", "curve")


class CreationChecker(AssignmentChecker):
    """Checks what makes or removes elements."""

    def make_point(self, given: list[ir.Expression], place: Place) -> ir.MakePoint:
        position = convert(as_vector(given[0]), VEC3)
        if position is None or given[0].type in NUMERIC:
            self.fail(f"a point is made at a vec3, not {in_words(given[0].type)}; write add_point((x, y, z))", place)
        like = given[1] if len(given) == 2 else None
        if like is not None and like.type != ElementOf("point"):
            self.fail(f"'like' is a point of this geometry, not {in_words(like.type)}", place)
        return ir.MakePoint(ElementOf("point"), place, position, like)

    def make_chain(self, name: str, given: list[ir.Expression], place: Place) -> ir.MakeChain:
        points = given[0]
        if points.type == UNKNOWN_LIST:
            self.fail("this list of points is always empty", place)
        if points.type != ListOf(ElementOf("point")):
            advice = "; make points of places with add_point" if points.type == ListOf(VEC3) else ""
            self.fail(f"{name} takes a list of points of this geometry, not {in_words(points.type)}{advice}", place)
        closed = given[1] if len(given) == 2 else None
        if closed is not None and closed.type is not FLAG:
            self.fail("'closed' is True or False", place)
        kind: Kind = "curve" if name == "add_curve" else "face"
        return ir.MakeChain(ElementOf(kind), place, points, closed)

    def segments(self, node: ast.expr, place: Place) -> list[ir.Statement]:
        """A curve for each two neighbours in a list of points, as a loop."""
        points = self.lower(node)
        if points.type != ListOf(ElementOf("point")):
            self.fail(f"add_segments takes a list of points, not {in_words(points.type)}", place)
        held, number = self.fresh_name(points.type), self.fresh_name(INTEGER)
        whole = ir.Local(points.type, place, held)
        at = ir.Local(INTEGER, place, number)
        one, zero = (ir.Constant(INTEGER, place, value) for value in (1, 0))
        after = ir.Apply(INTEGER, place, OPERATORS["+"], (at, one))
        last = ir.Apply(INTEGER, place, OPERATORS["-"], (ir.Reduce(INTEGER, place, "len", whole), one))
        pair = ir.Listing(
            points.type,
            place,
            (ir.Item(ElementOf("point"), place, whole, at), ir.Item(ElementOf("point"), place, whole, after)),
        )
        made = ir.Do(place, ir.MakeChain(ElementOf("curve"), place, pair, None))
        loop = ir.For(place, number, ir.Span(ListOf(INTEGER), place, zero, last, one), (made,))
        return [ir.Assign(place, held, points), loop]

    def remove(self, node: ast.Call, place: Place) -> ir.Remove:
        subject = self.lower(node.args[0]) if len(node.args) == 1 and not node.keywords else None
        if subject is None or not isinstance(subject.type, ElementOf) or kind_of(subject.type) not in REMOVED:
            self.fail(f"remove takes one {', '.join(REMOVED[:-1])} or {REMOVED[-1]}, e.g. remove(here)", place)
        if owner_of(subject.type):
            self.fail(f"'{owner_of(subject.type)}' is another geometry; only this one can be changed", place)
        return ir.Remove(place, subject)
