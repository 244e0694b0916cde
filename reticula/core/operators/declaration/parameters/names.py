"""Texts and names."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any, ClassVar

from reticula.core.language.parse import members_read, names_read
from reticula.core.language.reserved import what_it_means
from reticula.core.operators.declaration.parameters.base import Parameter

__all__ = ["AttributeName", "FormulaText", "GroupName", "Named", "Names", "Shape", "Text"]

NAME = re.compile(r"[^\W\d]\w*\Z")


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
        meaning = what_it_means(text, group=True)
        if meaning:
            self.fail(f"'{text}' is {meaning} in formulas and cannot be the name of a group; choose another name")
        return text

    def describe(self) -> dict[str, Any]:
        return {**super().describe(), "kind": self.kind}


@dataclass(frozen=True)
class AttributeName(Named):
    """The name of an attribute, existing on the input ``of`` (or to be made, if ``new``)."""

    of: str = "geo"
    new: bool = False
    widget: ClassVar[str] = "attribute"

    def check_plain(self, value: Any) -> str:
        text = super().check_plain(value)
        meaning = what_it_means(text) if self.new else ""
        if meaning:
            self.fail(f"'{text}' is {meaning} in formulas and cannot be the name of an attribute; choose another name")
        return text

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
