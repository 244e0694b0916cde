"""How a value node is declared, and what its operands may be."""

from __future__ import annotations

import inspect
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import Output, operator
from reticula.core.operators.declaration.parameters import Blend, Parameter
from reticula.core.operators.declaration.parameters.conditions import Condition, is_any_value

__all__ = ["Operand", "literal", "value_node"]

Text = Callable[..., str]


@dataclass(frozen=True)
class Operand(Parameter):
    """A value that goes into a value node: a number, yes or no, a vector, a formula, or a wire from another one."""

    widget: ClassVar[str] = "varying"
    python: ClassVar[str] = "ArrayLike"
    takes_formula: ClassVar[bool] = True

    @property
    def conditions(self) -> Sequence[Condition]:
        return (is_any_value,)

    def resolve(self, value: Any, context: Any) -> Any:
        return value

    @property
    def blend(self) -> Blend:
        return "real"

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "type": "any"}


def literal(value: Any) -> str:
    """Return how a checked operand that is no wire is written in an expression."""
    if isinstance(value, Mapping):
        return f"({value['formula']})"
    if isinstance(value, list):
        return f"({', '.join(map(repr, value))})"
    return f"({value!r})" if isinstance(value, (int, float)) and value < 0 else repr(value)


def value_node(
    name: str,
    parameters: Sequence[Parameter],
    keywords: Sequence[str] = (),
    example: str = "",
    related: Sequence[str] = (),
) -> Callable[[Text], Text]:
    """Declare a function that writes an expression as a value node.

    It receives each operand as text (the name of what another node writes, or a literal) and other parameters as they
    are.
    """

    def register(write: Text) -> Text:
        takes = [p.name for p in inspect.signature(write).parameters.values()]
        if takes != [parameter.name for parameter in parameters]:
            raise TypeError(f"value node {name}: declared parameters differ from the function's: {takes}")

        def body(**_: Any) -> Geo:
            return Geo.empty()

        body.__doc__ = write.__doc__
        signature = [inspect.Parameter(p.name, inspect.Parameter.KEYWORD_ONLY) for p in parameters]
        body.__signature__ = inspect.Signature(signature)  # type: ignore[attr-defined]  # Python's hook for made functions
        operator(
            name,
            family="values",
            inputs=(),
            outputs=(Output("value", "the value, for a parameter of another node"),),
            parameters=parameters,
            carries="Makes no geometry.",
            keywords=("value", "wire", *keywords),
            example=example,
            related=related,
            writes=write,
        )(body)
        return write

    return register
