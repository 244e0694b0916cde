"""One of some words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, ClassVar

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.operators.declaration.parameters.base import Parameter
from reticula.core.operators.declaration.parameters.conditions import Condition, one_of

__all__ = ["Choice", "KindChoice", "Space"]


@dataclass(frozen=True)
class Choice(Parameter):
    """One of some words, each with its meaning."""

    options: Mapping[str, str] = field(default_factory=dict)
    widget: ClassVar[str] = "choice"
    takes_wire: ClassVar[bool] = True

    @property
    def formula_type(self) -> str:
        return "text"

    @property
    def annotation(self) -> str:
        return f"Literal[{', '.join(map(repr, self.options))}]"

    @property
    def conditions(self) -> Sequence[Condition]:
        return (one_of(self.options),)

    def describe(self) -> dict[str, Any]:
        options = [{"value": value, "help": help} for value, help in self.options.items()]
        return {**super().describe(), "options": options}


@dataclass(frozen=True)
class KindChoice(Choice):
    """An element kind."""

    @classmethod
    def of(cls, kinds: tuple[Kind, ...], default: Kind, help: str, name: str = "kind") -> KindChoice:
        return cls(
            name, default, help, options={kind: "the whole" if kind == "whole" else f"each {kind}" for kind in kinds}
        )


@dataclass(frozen=True)
class Space(Choice):
    """In which space another input is seen. Operator.run reads it before anything else."""

    @classmethod
    def choice(cls) -> Space:
        return cls(
            "space",
            "this",
            "where the other geometry is seen from, if shapes have places of their own",
            options={
                "this": "as they stand: in this mesh's space",
                "own": "each in its own space, places left out",
            },
        )
