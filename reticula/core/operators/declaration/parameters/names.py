"""Texts and names."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from reticula.core.language.parse import members_read, names_read
from reticula.core.operators.declaration.parameters.base import Parameter
from reticula.core.operators.declaration.parameters.conditions import Condition, is_free, is_name, up_to_letters

__all__ = ["AttributeName", "FormulaText", "GroupName", "Named", "Names", "Shape", "Text"]


@dataclass(frozen=True)
class Named(Parameter):
    """A name that follows the rules of the language."""

    optional: bool = False

    @property
    def conditions(self) -> Sequence[Condition]:
        return (is_name(optional=self.optional),)


@dataclass(frozen=True)
class Text(Parameter):
    """Words."""

    most: int = 1000
    widget: ClassVar[str] = "text"

    @property
    def conditions(self) -> Sequence[Condition]:
        return (up_to_letters(self.most),)


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

    @property
    def conditions(self) -> Sequence[Condition]:
        return (*super().conditions, is_free("group"))

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "kind": self.kind}


@dataclass(frozen=True)
class AttributeName(Named):
    """The name of an attribute, existing on the input ``of`` (or to be made, if ``new``)."""

    of: str = "geo"
    new: bool = False
    widget: ClassVar[str] = "attribute"

    @property
    def conditions(self) -> Sequence[Condition]:
        return (*super().conditions, *((is_free("attribute"),) if self.new else ()))

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
