"""Kinds of parameters. Each checks a value, describes itself to the interface, and resolves formulas."""

from reticula.core.operators.declaration.parameters.base import (
    Blend,
    Context,
    Handle,
    Parameter,
    is_wire,
)
from reticula.core.operators.declaration.parameters.choices import (
    Choice,
    KindChoice,
    Space,
)
from reticula.core.operators.declaration.parameters.elements import (
    OnElements,
    PerElement,
    Selection,
)
from reticula.core.operators.declaration.parameters.names import (
    AttributeName,
    FormulaText,
    GroupName,
    Named,
    Names,
    Shape,
    Text,
)
from reticula.core.operators.declaration.parameters.numbers import (
    Integer,
    Number,
    Toggle,
    Vector,
)

__all__ = [
    "AttributeName",
    "Blend",
    "Choice",
    "Context",
    "FormulaText",
    "GroupName",
    "Handle",
    "Integer",
    "KindChoice",
    "Named",
    "Names",
    "Number",
    "OnElements",
    "Parameter",
    "PerElement",
    "Selection",
    "Shape",
    "Space",
    "Text",
    "Toggle",
    "Vector",
    "is_wire",
]
