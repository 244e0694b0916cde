"""Types of the language, written as short texts: ``number``, ``[vec3]`` (a list), ``point@reef`` (an element of an
input).
"""

from __future__ import annotations

from typing import cast

from reticula.core.geometry.mesh.kinds import KINDS, Kind

__all__ = [
    "BY_SIZE",
    "MATRICES",
    "NUMERIC",
    "PLAIN",
    "UNKNOWN_LIST",
    "VECTORS",
    "element",
    "in_words",
    "is_element",
    "is_list",
    "is_place",
    "item_of",
    "kind_of",
    "list_of",
    "owner_of",
    "place",
    "width_of",
]

VECTORS = {"vec2": 2, "vec3": 3, "vec4": 4}
MATRICES = {"mat3": 3, "mat4": 4}
BY_SIZE = {1: "number", 2: "vec2", 3: "vec3", 4: "vec4"}
NUMERIC = ("number", "integer")
PLAIN = ("number", "integer", "flag", "text", *VECTORS, *MATRICES)
"""Types of single values that an attribute can hold."""
UNKNOWN_LIST = "[?]"
"""The type of ``[]`` before anything is known about what goes in."""
ARTICLE = {"integer": "an integer", "edge": "an edge", "instance": "an instance"}


def list_of(item: str) -> str:
    """Return the type of lists of ``item``."""
    return f"[{item}]"


def is_list(type: str) -> bool:
    return type.startswith("[")


def item_of(type: str) -> str:
    """Return what a list type holds."""
    return type[1:-1]


def element(kind: str, owner: str = "") -> str:
    """Return the type of elements of ``kind`` of the input ``owner``; none means the geometry that the text runs on."""
    return f"{kind}@{owner}"


def is_element(type: str) -> bool:
    return not is_list(type) and "@" in type and type.split("@")[0] in KINDS


def kind_of(type: str) -> Kind:
    """Return the kind of an element type."""
    return cast(Kind, type.split("@")[0])


def owner_of(type: str) -> str:
    """Return the input of an element or place type."""
    return type.split("@")[1].split(".")[0]


def place(owner: str, how: str) -> str:
    """Return the type of places that the question ``how`` to an input finds."""
    return f"place@{owner}.{how}"


def is_place(type: str) -> bool:
    return type.startswith("place@")


def width_of(type: str) -> int:
    """Return how many numbers a value of a plain or element type has."""
    if type in VECTORS:
        return VECTORS[type]
    return MATRICES[type] ** 2 if type in MATRICES else 1


def in_words(type: str) -> str:
    """Return a type as it is told to people, with its article."""
    if type == UNKNOWN_LIST:
        return "an empty list"
    if is_list(type):
        item = item_of(type)
        return f"a list of {kind_of(item) + 's' if is_element(item) else item + 's'}"
    if is_place(type):
        return "a place"
    if is_element(type):
        return ARTICLE.get(kind_of(type), f"a {kind_of(type)}")
    return ARTICLE.get(type, f"a {type}")
