"""Lists: written out, made from lists, joined, counted through, reduced to one value."""

from __future__ import annotations

import ast
from collections.abc import Mapping

from reticula.core.language import ir
from reticula.core.language.parse import Place
from reticula.core.language.typecheck.environment import Checker, as_vector, convert, join_types
from reticula.core.language.types import (
    FLAG,
    INTEGER,
    NUMBER,
    NUMERIC,
    UNKNOWN_LIST,
    VECTORS,
    ListOf,
    PlaceOf,
    Type,
    in_words,
    is_list,
    item_of,
)

__all__ = ["GATHER", "ListChecker"]

GATHER: Mapping[str, str] = {
    "mean": "the mean",
    "sum": "the sum, 0 of none",
    "min": "the smallest, component by component",
    "max": "the largest, component by component",
    "median": "the middle one",
    "deviation": "the standard deviation of the list itself",
    "any": "whether one is yes",
    "all": "whether none is no",
    "len": "how many there are",
}
"""What a list can be reduced to."""


class ListChecker(Checker):
    """Checks whatever makes or reads a list."""

    def span(self, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Span:
        if not 1 <= len(arguments) <= 3 or any(argument.type is not INTEGER for argument in arguments):
            self.fail("write range(end), range(begin, end) or range(begin, end, step) with whole numbers", place)
        zero, one = ir.Constant(INTEGER, place, 0), ir.Constant(INTEGER, place, 1)
        begin, end = (zero, arguments[0]) if len(arguments) == 1 else arguments[:2]
        return ir.Span(ListOf(INTEGER), place, begin, end, arguments[2] if len(arguments) == 3 else one)

    def listing(self, parts: list[ir.Expression], place: Place) -> ir.Listing:
        if not parts:
            return ir.Listing(UNKNOWN_LIST, place, ())
        parts = [as_vector(part) for part in parts]
        item: Type | None = parts[0].type
        for part in parts[1:]:
            item = join_types(item, part.type) if item else None
        if item is None or is_list(item) or isinstance(item, PlaceOf):
            kinds = " and ".join(dict.fromkeys(in_words(part.type) for part in parts))
            self.fail(f"a list holds values of one type, not {kinds}", place)
        return ir.Listing(ListOf(item), place, tuple(convert(part, item) or part for part in parts))

    def joined(self, first: ir.Expression, second: ir.Expression, place: Place) -> ir.Expression:
        if UNKNOWN_LIST in (first.type, second.type):
            return second if first.type == UNKNOWN_LIST else first
        type = join_types(first.type, second.type)
        a, b = (convert(part, type) if type else None for part in (first, second))
        if type is None or a is None or b is None:
            self.fail(
                f"lists of different types cannot be joined: {in_words(first.type)} and {in_words(second.type)}", place
            )
        return ir.Concatenated(type, place, a, b)

    def comprehension(self, node: ast.ListComp, place: Place) -> ir.Comprehension:
        if len(node.generators) != 1 or len(node.generators[0].ifs) > 1:
            self.fail("a list can be made with one 'for' and one 'if', joined with 'and'", place)
        one = node.generators[0]
        if not isinstance(one.target, ast.Name) or one.is_async:
            self.fail("write [value for name in list]", place)
        items = self.items(one.iter)
        with_name = self.hide(one.target.id, item_of(items.type))
        condition = self.lower(one.ifs[0]) if one.ifs else None
        if condition is not None and condition.type is not FLAG:
            self.fail(f"after 'if' a yes or no is wanted, not {in_words(condition.type)}", condition.place)
        value = as_vector(self.lower(node.elt))
        self.unhide(one.target.id, with_name)
        if is_list(value.type) or isinstance(value.type, PlaceOf):
            self.fail(f"a list cannot hold {in_words(value.type)}", value.place)
        return ir.Comprehension(ListOf(value.type), place, self.hidden_name, items, condition, value)

    def hide(self, name: str, type: Type) -> str | None:
        """Give a name a meaning of its own for a while; returns what it meant before."""
        frame = self.frame
        frame.hidden += 1
        before = frame.aliases.get(name)
        frame.aliases[name] = f"{name} {frame.hidden}"
        frame.types[frame.aliases[name]] = type
        return before

    def unhide(self, name: str, before: str | None) -> None:
        self.hidden_name = self.frame.aliases.pop(name)
        if before is not None:
            self.frame.aliases[name] = before

    def items(self, node: ast.expr) -> ir.Expression:
        """What a loop runs over."""
        items = self.lower(node)
        if items.type == UNKNOWN_LIST:
            self.fail("this list is empty, so there is nothing to do", items.place)
        if not is_list(items.type):
            hint = ", e.g. range(5)" if items.type is INTEGER else ""
            self.fail(f"'for' runs over a list, not {in_words(items.type)}{hint}", items.place)
        return items

    def reduce(self, how: str, items: ir.Expression, place: Place) -> ir.Reduce:
        of = item_of(items.type)
        if how == "len":
            return ir.Reduce(INTEGER, place, "len", items)
        if how in ("any", "all"):
            if of is not FLAG:
                self.fail(f"{how} takes flags, not {in_words(of)}; name a group, e.g. {how}(here.points.crest)", place)
            return ir.Reduce(FLAG, place, how, items)
        if how in ("median", "deviation"):
            if of not in NUMERIC:
                self.fail(
                    f"{how} takes numbers, not {in_words(of)}; name one component with mean() first, "
                    "or set an attribute",
                    place,
                )
            return ir.Reduce(NUMBER, place, how, items)
        if of not in (*NUMERIC, *VECTORS):
            self.fail(f"{how} takes numbers or vectors, not {in_words(of)}", place)
        return ir.Reduce(NUMBER if how == "mean" and of is INTEGER else of, place, how, items)
