"""Kinds of parameters. Each checks a value, describes itself to the interface, and resolves formulas."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar, cast

import numpy as np

from reticula.core.errors import FormulaError, ParameterError
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.language import Values, evaluate, evaluate_once
from reticula.core.language.parse import members_read, names_read

__all__ = [
    "AttributeName",
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

NAME = re.compile(r"[^\W\d]\w*\Z")
RESERVED = {"here", "position", "True", "False", "None", "and", "or", "not", "if", "else"}


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


@dataclass(frozen=True)
class Parameter:
    """One parameter: its name, default and help. ``shown_when`` names a sibling and the value at which it matters."""

    name: str
    default: Any
    help: str
    unit: str = ""
    shown_when: tuple[str, Any] | None = None
    handle: Handle | None = None
    widget: ClassVar[str] = ""
    takes_formula: ClassVar[bool] = False
    takes_wire: ClassVar[bool] = False

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

    def check_plain(self, value: Any) -> Any:
        """Check a value that is not a formula."""
        raise NotImplementedError

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
        }

    def fail(self, message: str) -> None:
        raise ParameterError(self.name, message)


@dataclass(frozen=True)
class Number(Parameter):
    """A number. ``low`` and ``high`` are hard limits; ``soft`` is the range that a slider offers."""

    soft: tuple[float, float] = (0.0, 1.0)
    low: float = -math.inf
    high: float = math.inf
    step: float = 0.01
    widget: ClassVar[str] = "number"
    takes_formula: ClassVar[bool] = True

    def check_plain(self, value: Any) -> float:
        if isinstance(value, bool) or not isinstance(value, (int, float, np.integer, np.floating)):
            self.fail(f"takes a number, not {value!r}")
        number = float(value)
        if not math.isfinite(number):
            self.fail("takes a finite number")
        if not self.low <= number <= self.high:
            self.fail(f"{number:g} is outside of {self.low:g} to {self.high:g}")
        return number

    def describe(self) -> dict[str, Any]:
        limits = [limit if math.isfinite(limit) else None for limit in (self.low, self.high)]
        return {**super().describe(), "soft": list(self.soft), "low": limits[0], "high": limits[1], "step": self.step}


@dataclass(frozen=True)
class Integer(Number):
    """A whole number."""

    step: float = 1
    widget: ClassVar[str] = "integer"

    def check_plain(self, value: Any) -> int:
        number = super().check_plain(value)
        if number != int(number):
            self.fail(f"takes a whole number, not {number:g}")
        return int(number)

    @property
    def formula_type(self) -> str:
        return "integer"


@dataclass(frozen=True)
class Vector(Parameter):
    """Two, three or four numbers."""

    soft: tuple[float, float] = (-1.0, 1.0)
    low: float = -math.inf
    whole: bool = False
    step: float = 0.01
    widget: ClassVar[str] = "vector"
    takes_formula: ClassVar[bool] = True

    @property
    def size(self) -> int:
        return len(self.default)

    @property
    def formula_type(self) -> str:
        return f"vec{self.size}"

    def check_plain(self, value: Any) -> list[float]:
        if isinstance(value, (str, bytes)) or not hasattr(value, "__len__") or len(value) != self.size:
            self.fail(f"takes {self.size} numbers, not {value!r}")
        part = (Integer if self.whole else Number)(self.name, 0, "", low=self.low)
        return [part.check_plain(component) for component in value]

    def describe(self) -> dict[str, Any]:
        low = self.low if math.isfinite(self.low) else None
        return {
            **super().describe(),
            "size": self.size,
            "soft": list(self.soft),
            "low": low,
            "whole": self.whole,
            "step": self.step,
        }


@dataclass(frozen=True)
class Toggle(Parameter):
    """Yes or no."""

    widget: ClassVar[str] = "toggle"
    takes_wire: ClassVar[bool] = True

    @property
    def formula_type(self) -> str:
        return "flag"

    def check_plain(self, value: Any) -> bool:
        if not isinstance(value, (bool, np.bool_)):
            self.fail(f"takes yes or no (true or false), not {value!r}")
        return bool(value)


@dataclass(frozen=True)
class Choice(Parameter):
    """One of some words, each with its meaning."""

    options: Mapping[str, str] = field(default_factory=dict)
    widget: ClassVar[str] = "choice"
    takes_wire: ClassVar[bool] = True

    @property
    def formula_type(self) -> str:
        return "text"

    def check_plain(self, value: Any) -> str:
        if value not in self.options:
            self.fail(f"takes one of {', '.join(self.options)}, not {value!r}")
        return str(value)

    def describe(self) -> dict[str, Any]:
        options = [{"value": value, "help": help} for value, help in self.options.items()]
        return {**super().describe(), "options": options}


@dataclass(frozen=True)
class KindChoice(Choice):
    """An element kind."""

    @classmethod
    def of(cls, kinds: tuple[Kind, ...], default: Kind, help: str, name: str = "kind") -> KindChoice:
        return cls(name, default, help, options={kind: f"each {kind}" for kind in kinds})


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


@dataclass(frozen=True)
class Named(Parameter):
    """A name that follows the rules of the language."""

    optional: bool = False

    def check_plain(self, value: Any) -> str:
        if not isinstance(value, str):
            self.fail(f"takes a name, not {value!r}")
        text = str(value).strip()
        if not text and self.optional:
            return ""
        if not NAME.match(text) or len(text) > 64:
            self.fail(f"'{text}' is not a name: use letters, digits and _, not starting with a digit")
        return text


@dataclass(frozen=True)
class Text(Parameter):
    """Words."""

    most: int = 1000
    widget: ClassVar[str] = "text"

    def check_plain(self, value: Any) -> str:
        if not isinstance(value, str) or len(value) > self.most:
            self.fail(f"takes up to {self.most} letters")
        return str(value)


@dataclass(frozen=True)
class FormulaText(Text):
    """A formula that the operator works out itself, when it likes; empty is allowed."""

    def reads(self, value: Any) -> frozenset[str]:
        return names_read(value) if value.strip() else frozenset()

    def ties(self, value: Any) -> frozenset[tuple[str, str]]:
        return members_read(value) if value.strip() else frozenset()


@dataclass(frozen=True)
class GroupName(Named):
    """The name of a group that the operator makes."""

    kind: str = ""
    widget: ClassVar[str] = "new name"

    def check_plain(self, value: Any) -> str:
        text = super().check_plain(value)
        if text in RESERVED:
            self.fail(f"'{text}' has a meaning of its own; choose another name")
        return text

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "kind": self.kind}


@dataclass(frozen=True)
class AttributeName(Named):
    """The name of an attribute, existing on the input ``of`` (or to be made, if ``new``)."""

    of: str = "geo"
    new: bool = False
    widget: ClassVar[str] = "attribute"

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "of": self.of, "new": self.new}


@dataclass(frozen=True)
class Names(Parameter):
    """Attribute names of the input ``of``, separated by spaces or commas; ``*`` stands for any letters."""

    of: str = "source"
    optional: bool = False
    widget: ClassVar[str] = "names"

    def check_plain(self, value: Any) -> str:
        if self.optional and isinstance(value, str) and not value.strip():
            return ""
        if not isinstance(value, str) or not value.strip():
            self.fail("takes at least one name, or * for all")
        return " ".join(value.replace(",", " ").split())

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "of": self.of}


@dataclass(frozen=True)
class Shape(Parameter):
    """The name of a mesh file or project shape."""

    widget: ClassVar[str] = "shape"

    def check_plain(self, value: Any) -> str:
        if not isinstance(value, str) or len(value) > 1024 or "\0" in value:
            self.fail("takes the name of a shape or file")
        return str(value)


@dataclass(frozen=True)
class OnElements(Parameter):
    """Base of parameters that are evaluated on each element of a kind, fixed or named by a sibling parameter."""

    on: str = "face"
    of: str = "geo"

    def kind(self, context: Context) -> Kind:
        kind = self.on if self.on in KINDS else context.values[self.on]
        return cast(Kind, kind)

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "on": self.on, "of": self.of}


@dataclass(frozen=True)
class Selection(OnElements):
    """Which elements: a group name or a formula that gives a flag; empty means all. Resolves to flags ``(N,)``."""

    widget: ClassVar[str] = "where"
    takes_wire: ClassVar[bool] = True

    @classmethod
    def each(cls, on: str, help: str, **more: Any) -> Selection:
        return cls("where", "", help, on=on, **more)

    def check(self, value: Any) -> str:
        if isinstance(value, Mapping) and set(value) == {"formula"}:
            value = value["formula"]
        if not isinstance(value, str):
            self.fail(f"takes a group name or a formula as text, not {value!r}")
        return str(value)

    def reads(self, value: Any) -> frozenset[str]:
        return names_read(value) if value.strip() else frozenset()

    def ties(self, value: Any) -> frozenset[tuple[str, str]]:
        return members_read(value) if value.strip() else frozenset()

    def resolve(self, value: Any, context: Context) -> Any:
        geo, kind = context.geo(self.of), self.kind(context)
        if not value.strip():
            return np.ones(geo.topology.count(kind), bool)
        try:
            return context.evaluate(value, geo, kind, "flag").array
        except FormulaError as error:
            raise ParameterError(self.name, error.plain, cause=error) from None


@dataclass(frozen=True)
class PerElement(OnElements):
    """A value that may vary over the elements: a number or vector, or a formula. Resolves to ``(N, ...)``.

    ``type`` is ``"as chosen"`` where the sibling parameter ``type`` decides (``automatic``: the formula does); then
    the operator receives a Values object. ``"any"`` is whatever the formula gives, as a Values object too.
    """

    type: str = "number"
    soft: tuple[float, float] = (0.0, 1.0)
    low: float = -math.inf
    step: float = 0.01
    widget: ClassVar[str] = "varying"
    takes_formula: ClassVar[bool] = True

    def check_plain(self, value: Any) -> Any:
        if self.type in ("as chosen", "any"):
            plain = value.tolist() if isinstance(value, (np.ndarray, np.generic)) else value
            if isinstance(plain, (bool, int, float)) or (isinstance(plain, (list, tuple)) and len(plain) in (2, 3, 4)):
                return list(plain) if isinstance(plain, tuple) else plain
            self.fail(f"takes a number, yes or no, 2 to 4 numbers or a formula, not {value!r}")
        if self.type == "number":
            return Number(self.name, 0.0, "", low=self.low).check_plain(value)
        return Vector(self.name, [0.0] * int(self.type[-1]), "").check_plain(value)

    def resolve(self, value: Any, context: Context) -> Any:
        geo, kind = context.geo(self.of), self.kind(context)
        source = value["formula"] if isinstance(value, dict) else repr(value)
        wanted: str | None = context.values["type"] if self.type == "as chosen" else self.type
        wanted = None if wanted in ("automatic", "any") else wanted
        try:
            found = context.evaluate(source, geo, kind, wanted)
        except FormulaError as error:
            raise ParameterError(self.name, error.plain, cause=error) from None
        if self.low > -math.inf and found.array.size and found.array.min() < self.low:
            bad = int(found.array.argmin())
            self.fail(f"gives {found.array[bad]:g} at {kind} {bad}; {self.low:g} is the least")
        return found if self.type in ("as chosen", "any") else found.array

    def describe(self) -> dict[str, Any]:
        low = self.low if math.isfinite(self.low) else None
        return {**super().describe(), "type": self.type, "soft": list(self.soft), "low": low, "step": self.step}
