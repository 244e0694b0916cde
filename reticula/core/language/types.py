"""Types of the language: those of attributes, lists, elements of an input, and places that questions find.

Each is an object. A value that an attribute can hold has the type that the attribute has
(:class:`~reticula.core.geometry.mesh.attribute_types.AttributeType`); ``str`` of any gives the short form that messages
and keys use: ``number``, ``[vec3]``, ``point@reef``.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from reticula.core.geometry.mesh.attribute_types import TYPES, AttributeType
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.words import with_article

__all__ = [
    "FLAG",
    "IDENTITY",
    "INTEGER",
    "MATRICES",
    "NOTHING",
    "NUMBER",
    "NUMERIC",
    "STORED_LISTS",
    "TEXT",
    "UNKNOWN_LIST",
    "VEC2",
    "VEC3",
    "VEC4",
    "VECTORS",
    "ElementOf",
    "ListOf",
    "PlaceOf",
    "Special",
    "Type",
    "in_words",
    "is_list",
    "item_of",
    "kernel_dtype",
    "kind_of",
    "owner_of",
    "type_of_attribute",
    "width_of",
]

NUMBER, INTEGER, FLAG, TEXT = (TYPES[name] for name in ("number", "integer", "flag", "text"))
VEC2, VEC3, VEC4 = TYPES["vec2"], TYPES["vec3"], TYPES["vec4"]


@dataclass(frozen=True)
class ListOf:
    """A list of values of one type."""

    item: Type

    def __str__(self) -> str:
        return f"[{self.item}]"


@dataclass(frozen=True)
class ElementOf:
    """An element of a kind of the input ``owner``; none means the geometry that the text runs on."""

    kind: Kind
    owner: str = ""

    def __str__(self) -> str:
        return f"{self.kind}@{self.owner}"


@dataclass(frozen=True)
class PlaceOf:
    """A place that the question ``how`` to the input ``owner`` finds."""

    owner: str
    how: str

    def __str__(self) -> str:
        return f"place@{self.owner}.{self.how}"


@dataclass(frozen=True)
class Special:
    """What no value can be made of: the item of an empty list, what a function without a value gives, a stable name."""

    name: str

    def __str__(self) -> str:
        return self.name


Type = AttributeType | ListOf | ElementOf | PlaceOf | Special
NOTHING, IDENTITY = Special("nothing"), Special("identity")
UNKNOWN_LIST = ListOf(Special("?"))
"""The type of ``[]`` before anything is known about what goes in."""
NUMERIC: tuple[Type, ...] = (NUMBER, INTEGER)
VECTORS: Mapping[Type, int] = {type: type.size for type in TYPES.values() if type.is_vector}
MATRICES: tuple[Type, ...] = tuple(type for type in TYPES.values() if len(type.shape) == 2)
STORED_LISTS: Mapping[Type, AttributeType] = {ListOf(TYPES[t.item]): t for t in TYPES.values() if t.is_list}
"""The attribute types that hold lists, by the list."""


def type_of_attribute(name: str) -> Type:
    """Return the type that the values of an attribute of the type ``name`` have here."""
    stored = TYPES[name]
    return ListOf(TYPES[stored.item]) if stored.is_list else stored


def is_list(type: Type) -> bool:
    return isinstance(type, ListOf)


def item_of(type: Type) -> Type:
    """Return what a list type holds."""
    assert isinstance(type, ListOf), type
    return type.item


def kind_of(type: Type) -> Kind:
    """Return the kind of an element type."""
    assert isinstance(type, ElementOf), type
    return type.kind


def owner_of(type: Type) -> str:
    """Return the input of an element or place type."""
    assert isinstance(type, (ElementOf, PlaceOf)), type
    return type.owner


def width_of(type: Type) -> int:
    """Return how many numbers a value of a plain or element type has."""
    return type.size if isinstance(type, AttributeType) else 1


def kernel_dtype(type: Type) -> str:
    """Return what compiled code holds a component as: texts and elements are whole numbers there."""
    if not isinstance(type, AttributeType):
        return "int64"
    return {"f": "float64", "b": "bool"}.get(np.dtype(type.dtype).kind, "int64")


def in_words(type: Type) -> str:
    """Return a type as it is told to people, with its article."""
    match type:
        case ListOf(Special()):
            return "an empty list"
        case ListOf(ElementOf(kind)):
            return f"a list of {PLURAL[kind]}"
        case ListOf(item):
            return f"a list of {item}s"
        case PlaceOf():
            return "a place"
        case ElementOf(kind):
            return with_article(kind)
        case AttributeType():
            return with_article(type.name)
        case Special():
            return f"a {type}"
