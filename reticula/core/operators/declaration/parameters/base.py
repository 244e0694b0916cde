"""What every parameter is: checked, described, and resolved where an operator runs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, ClassVar, Literal

from reticula.core.errors import FormulaError, ParameterError
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language import Values, evaluate, evaluate_once
from reticula.core.language.parse import members_read, names_read
from reticula.core.operators.declaration.parameters.conditions import Condition, Unfit, fitted

__all__ = ["Context", "Handle", "Parameter", "is_wire"]


def is_wire(value: Any) -> bool:
    """Whether a stored value is a wire from a value node: ``{"wire": node}``."""
    return isinstance(value, Mapping) and set(value) == {"wire"} and isinstance(value["wire"], str)


@dataclass(frozen=True)
class Context:
    """What a parameter may read while it is resolved: inputs, dials, its siblings' values, and other nodes' values."""

    inputs: Mapping[str, Geo | None]
    dials: Mapping[str, Any]
    values: Mapping[str, Any]
    ties: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)

    def evaluate(self, source: str, geo: Geo, kind: Kind, wanted: str | None) -> Values:
        """Evaluate a formula on each element of ``kind`` of an input."""
        return evaluate(source, geo, kind, wanted, self.dials, inputs=self.inputs, ties=self.ties)

    def once(self, source: str, wanted: str) -> Any:
        """Evaluate a formula once."""
        return evaluate_once(source, wanted, self.dials, inputs=self.inputs, ties=self.ties)

    def geo(self, name: str) -> Geo:
        """Return the input that elements are taken from."""
        found = self.inputs[name]
        assert found is not None, f"the input {name} is optional; its elements cannot be asked"
        return found


@dataclass(frozen=True)
class Handle:
    """How a parameter is dragged in the view.

    ``shape`` is ``place``, ``places``, ``direction``, ``plane`` (a direction with its plane), ``turn``, ``scale`` or
    ``size`` (of a box around ``at``). ``at`` names siblings whose places, added up, say where it stands. The numbers
    are in the ``own`` space of the node's first input, or in the ``world``.
    """

    shape: str
    at: tuple[str, ...] = ()
    space: str = "own"

    def describe(self) -> dict[str, Any]:
        return {"shape": self.shape, "at": list(self.at), "space": self.space}


Blend = Literal["real", "whole", "hold"]
"""What lies between two keys of a value: real numbers, whole ones, or nothing: it holds."""


@dataclass(frozen=True)
class Parameter:
    """One parameter: its name, default and help.

    ``shown_when`` names a sibling and the value at which it matters; ``section`` is the heading it stands under, none
    for the main ones.
    """

    name: str
    default: Any
    help: str
    unit: str = ""
    shown_when: tuple[str, Any] | None = None
    handle: Handle | None = None
    section: str = ""
    widget: ClassVar[str] = ""
    takes_formula: ClassVar[bool] = False
    takes_wire: ClassVar[bool] = False
    python: ClassVar[str] = "str"
    """What a Python call may pass, besides a formula as text."""

    @property
    def annotation(self) -> str:
        """The type of the argument in a Python call."""
        return f"{self.python} | str" if self.takes_formula and self.python != "str" else self.python

    @property
    def label(self) -> str:
        return self.name.replace("_", " ")

    def check(self, value: Any) -> Any:
        """Return the value in its one stored form (plain JSON data), or raise ParameterError."""
        if self.takes_wire and isinstance(value, Mapping) and set(value) == {"formula"}:
            return {"formula": str(value["formula"])}
        if self.takes_formula and isinstance(value, Mapping) and set(value) == {"formula"}:
            value = value["formula"]
            if not isinstance(value, str):
                self.fail("a formula is a text")
        if self.takes_formula and isinstance(value, str):
            return {"formula": value}
        return self.check_plain(value)

    @property
    def conditions(self) -> Sequence[Condition]:
        """What a value that is not a formula must be, one after the other."""
        return ()

    def check_plain(self, value: Any) -> Any:
        """Return a value that is not a formula as it is kept, or raise ParameterError."""
        try:
            return fitted(value, self.conditions)
        except Unfit as unfit:
            raise ParameterError(self.name, str(unfit)) from None

    def resolve(self, value: Any, context: Context) -> Any:
        """Return what the operator's function receives for a checked value."""
        if isinstance(value, dict) and "formula" in value:
            try:
                return self.check_plain(context.once(value["formula"], self.formula_type))
            except FormulaError as error:
                raise ParameterError(self.name, error.plain, cause=error) from None
        return value

    @property
    def formula_type(self) -> str:
        """The type a formula must give."""
        return "number"

    @property
    def blend(self) -> Blend:
        """How the value goes from one key to the next."""
        return "hold"

    def reads(self, value: Any) -> frozenset[str]:
        """Return the bare names that a checked value's formula reads."""
        return names_read(value["formula"]) if isinstance(value, dict) and "formula" in value else frozenset()

    def ties(self, value: Any) -> frozenset[tuple[str, str]]:
        """Return every ``a.b`` that a checked value's formula reads: it may be a parameter of another node."""
        return members_read(value["formula"]) if isinstance(value, dict) and "formula" in value else frozenset()

    def describe(self) -> dict[str, Any]:
        """Return all that a form, a reference page or the command line needs to know."""
        shown = {"parameter": self.shown_when[0], "value": self.shown_when[1]} if self.shown_when else None
        return {
            "name": self.name,
            "label": self.label,
            "widget": self.widget,
            "default": self.default,
            "help": self.help,
            "unit": self.unit,
            "takes_formula": self.takes_formula,
            "takes_wire": self.takes_formula or self.takes_wire,
            "shown_when": shown,
            "handle": self.handle.describe() if self.handle else None,
            "section": self.section,
        }

    def fail(self, message: str) -> None:
        raise ParameterError(self.name, message)
