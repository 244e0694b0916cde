"""Going through expressions: what both back ends share, so that neither can forget one."""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import Generic, TypeVar, assert_never

from reticula.core.language import ir

__all__ = ["ExpressionVisitor"]

Made = TypeVar("Made")


class ExpressionVisitor(ABC, Generic[Made]):
    """Has a method for each expression; the type checker says which one a back end lacks."""

    def visit(self, expression: ir.Expression) -> Made:
        """Return what the method for this expression makes of it."""
        match expression:
            case ir.Constant():
                return self.on_constant(expression)
            case ir.External():
                return self.on_external(expression)
            case ir.Local():
                return self.on_local(expression)
            case ir.Here():
                return self.on_here(expression)
            case ir.Read():
                return self.on_read(expression)
            case ir.ReadAt():
                return self.on_readat(expression)
            case ir.ReadOf():
                return self.on_readof(expression)
            case ir.Adjacent():
                return self.on_adjacent(expression)
            case ir.All():
                return self.on_all(expression)
            case ir.Query():
                return self.on_query(expression)
            case ir.PlaceField():
                return self.on_placefield(expression)
            case ir.EachField():
                return self.on_eachfield(expression)
            case ir.Part():
                return self.on_part(expression)
            case ir.Apply():
                return self.on_apply(expression)
            case ir.Component():
                return self.on_component(expression)
            case ir.Reduce():
                return self.on_reduce(expression)
            case ir.Item():
                return self.on_item(expression)
            case ir.Listing():
                return self.on_listing(expression)
            case ir.Concatenated():
                return self.on_concatenated(expression)
            case ir.Span():
                return self.on_span(expression)
            case ir.Comprehension():
                return self.on_comprehension(expression)
            case ir.Walk():
                return self.on_walk(expression)
            case ir.Profile():
                return self.on_profile(expression)
            case ir.MakePoint():
                return self.on_makepoint(expression)
            case ir.MakeChain():
                return self.on_makechain(expression)
            case ir.Call():
                return self.on_call(expression)
            case _:
                assert_never(expression)

    @abstractmethod
    def on_constant(self, expression: ir.Constant) -> Made: ...

    @abstractmethod
    def on_external(self, expression: ir.External) -> Made: ...

    @abstractmethod
    def on_local(self, expression: ir.Local) -> Made: ...

    @abstractmethod
    def on_here(self, expression: ir.Here) -> Made: ...

    @abstractmethod
    def on_read(self, expression: ir.Read) -> Made: ...

    @abstractmethod
    def on_readat(self, expression: ir.ReadAt) -> Made: ...

    @abstractmethod
    def on_readof(self, expression: ir.ReadOf) -> Made: ...

    @abstractmethod
    def on_adjacent(self, expression: ir.Adjacent) -> Made: ...

    @abstractmethod
    def on_all(self, expression: ir.All) -> Made: ...

    @abstractmethod
    def on_query(self, expression: ir.Query) -> Made: ...

    @abstractmethod
    def on_placefield(self, expression: ir.PlaceField) -> Made: ...

    @abstractmethod
    def on_eachfield(self, expression: ir.EachField) -> Made: ...

    @abstractmethod
    def on_part(self, expression: ir.Part) -> Made: ...

    @abstractmethod
    def on_apply(self, expression: ir.Apply) -> Made: ...

    @abstractmethod
    def on_component(self, expression: ir.Component) -> Made: ...

    @abstractmethod
    def on_reduce(self, expression: ir.Reduce) -> Made: ...

    @abstractmethod
    def on_item(self, expression: ir.Item) -> Made: ...

    @abstractmethod
    def on_listing(self, expression: ir.Listing) -> Made: ...

    @abstractmethod
    def on_concatenated(self, expression: ir.Concatenated) -> Made: ...

    @abstractmethod
    def on_span(self, expression: ir.Span) -> Made: ...

    @abstractmethod
    def on_comprehension(self, expression: ir.Comprehension) -> Made: ...

    @abstractmethod
    def on_walk(self, expression: ir.Walk) -> Made: ...

    @abstractmethod
    def on_profile(self, expression: ir.Profile) -> Made: ...

    @abstractmethod
    def on_makepoint(self, expression: ir.MakePoint) -> Made: ...

    @abstractmethod
    def on_makechain(self, expression: ir.MakeChain) -> Made: ...

    @abstractmethod
    def on_call(self, expression: ir.Call) -> Made: ...
