"""Which expressions must not be worked out where their value is not needed."""

from __future__ import annotations

from reticula.core.language import ir
from reticula.core.language.types import INTEGER

__all__ = ["Risk"]


class Risk:
    """Remembers for each expression whether it may stop the program, or does something."""

    def __init__(self) -> None:
        self.known: dict[int, bool] = {}

    def among(self, expression: ir.ExpressionNode) -> bool:
        """Whether an expression must not be worked out where its value is not needed."""
        key = id(expression)
        if key not in self.known:
            self.known[key] = self._risky(expression)
        return self.known[key]

    def _risky(self, expression: ir.ExpressionNode) -> bool:
        if isinstance(expression, (ir.Item, ir.Call, ir.MakePoint, ir.MakeChain, ir.Query, ir.Comprehension)):
            return True
        if isinstance(expression, ir.Reduce) and expression.how == "sum" and expression.type is INTEGER:
            return True
        if isinstance(expression, ir.Apply) and expression.function.fails in ("always", str(expression.type)):
            return True
        parts = [part for part in vars(expression).values() if isinstance(part, (ir.ExpressionNode, tuple))]
        flat = [one for part in parts for one in (part if isinstance(part, tuple) else (part,))]
        return any(self.among(one) for one in flat if isinstance(one, ir.ExpressionNode))
