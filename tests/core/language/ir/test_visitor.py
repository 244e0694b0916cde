"""Going through expressions: every kind has its method."""

import pytest

from reticula.core.language import ir
from reticula.core.language.ir.visitor import ExpressionVisitor
from reticula.core.language.types import NUMBER
from tests.core.language.ir.test_expressions import EVERY


def test_every_expression_has_a_method_that_must_be_there() -> None:
    wanted = {f"on_{kind.__name__.lower()}" for kind in EVERY}
    assert ExpressionVisitor.__abstractmethods__ == wanted


@pytest.mark.parametrize("kind", EVERY, ids=lambda kind: kind.__name__)
def test_each_reaches_its_own_method(kind: type[ir.ExpressionNode]) -> None:
    methods = {name: lambda self, one, name=name: name for name in ExpressionVisitor.__abstractmethods__}
    visitor = type("Told", (ExpressionVisitor,), methods)()
    made = kind.__new__(kind)
    object.__setattr__(made, "type", NUMBER)
    assert visitor.visit(made) == f"on_{kind.__name__.lower()}"
