"""The types that attributes have: one table that says all there is to say about each.

Whoever stores, blends, converts, writes, computes with or shows values goes by the columns of this table and names no
type. To add a type, add a row; ``tests/core/geometry/mesh/test_attribute_types.py`` tries every row everywhere.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Literal

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_rows
from reticula.core.errors import GeometryError
from reticula.core.rows import nonzero_rows

__all__ = [
    "BLENDED",
    "TYPES",
    "AttributeType",
    "Cast",
    "Shown",
    "attribute_type",
    "guess_type",
    "list_type",
    "vector_type",
    "well_known_default",
]

Shown = Literal["number", "integer", "flag", "text", "vector", "matrix", "list"]
Filed = Literal["f8", "i8", "u1", "text"]


def _numbers(values: AnyArray) -> tuple[Floats, int]:
    return as_rows(values).astype(np.float64), 0


def _numbers_of_texts(values: AnyArray) -> tuple[Floats, int]:
    """Read texts as numbers; returns also how many are none."""
    distinct, index = np.unique(values, return_inverse=True)
    table, bad = np.zeros(len(distinct)), np.zeros(len(distinct), bool)
    for i, text in enumerate(distinct.tolist()):
        try:
            table[i] = float(text)
        except ValueError:
            bad[i] = True
    return table[index.reshape(-1), None], int(bad[index].sum())


def _anything(values: AnyArray) -> Flags:
    return nonzero_rows(as_rows(values))


def _words_of_numbers(values: AnyArray) -> AnyArray:
    rows = as_rows(values).tolist()
    return np.array([" ".join(f"{part:g}" for part in row) for row in rows] or np.zeros(0, "U1"), dtype=str)


@dataclass(frozen=True)
class Cast:
    """How values of a type are read when they become another one.

    ``numbers`` gives ``(N, k)`` and how many had none, ``truth`` which are something, ``words`` texts, both ``(N,)``.
    """

    numbers: Callable[[AnyArray], tuple[Floats, int]] = _numbers
    truth: Callable[[AnyArray], Flags] = _anything
    words: Callable[[AnyArray], AnyArray] = _words_of_numbers


@dataclass(frozen=True, eq=False)
class AttributeType:
    """All about one attribute type. There is one object for each; they compare by identity.

    Attributes
    ----------
    name : str
        What it is called, in documents and files too.
    dtype : type
        NumPy's type of one component.
    about : str
        What it holds, as people choose it.
    shape : tuple of int
        Shape of one value.
    zero : Any
        What new elements get: nothing, or what changes nothing.
    item : str
        Of a list type the type that it holds, else empty.
    blends : bool
        Whether values are interpolated; those of other types are taken whole from one element.
    parts : str
        A letter for each component, as they are written after a dot.
    shown : str
        How the page shows a value and reads one that is typed.
    filed : str
        What files hold a component as: a 64-bit float, an integer (as two 32-bit halves where a format has no 64-bit
        ones), a byte, or a text.
    cast : Cast
        How its values become those of other types; None: they do not.
    """

    name: str
    dtype: type[np.generic]
    about: str
    shape: tuple[int, ...] = ()
    zero: Any = 0
    item: str = ""
    blends: bool = False
    parts: str = ""
    shown: Shown = "number"
    filed: Filed = "f8"
    cast: Cast | None = field(default_factory=Cast)

    @property
    def size(self) -> int:
        """Number of components of one value."""
        return int(np.prod(self.shape, dtype=int))

    @property
    def is_list(self) -> bool:
        return bool(self.item)

    @property
    def is_vector(self) -> bool:
        """Whether a value is a row of numbers that are named one by one."""
        return len(self.shape) == 1

    @property
    def is_numeric(self) -> bool:
        """Whether a value is a number or a vector."""
        return np.dtype(self.dtype).kind in "fi" and len(self.shape) < 2 and not self.item

    @property
    def is_single(self) -> bool:
        """Whether a value has one component."""
        return not self.shape and not self.item

    def made_of(self, values: AnyArray, old: AttributeType) -> tuple[AnyArray, int]:
        """Return values ``(N, *old.shape)`` of another type as this one, and how many had no meaning and became 0.

        Numbers are repeated or cut to the components that this type has; a fourth one is 1.
        """
        assert self.cast is not None
        assert old.cast is not None
        if self.dtype is np.str_:
            return old.cast.words(values), 0
        if self.dtype is np.bool_:
            return old.cast.truth(values), 0
        numbers, bad = old.cast.numbers(values)
        if issubclass(self.dtype, np.integer):
            return np.rint(numbers[:, 0]).astype(self.dtype), bad
        return _fitted(numbers, self.size).reshape(len(numbers), *self.shape), bad

    def __str__(self) -> str:
        return self.name

    def __repr__(self) -> str:
        return f"<type {self.name}>"

    def __reduce__(self) -> tuple[Any, tuple[str]]:
        return attribute_type, (self.name,)


def _fitted(numbers: Floats, size: int) -> Floats:
    given = numbers.shape[1]
    if given == 1:
        return np.repeat(numbers, size, axis=1)
    made = np.zeros((len(numbers), size))
    made[:, : min(size, given)] = numbers[:, :size]
    if (given, size) == (3, 4):
        made[:, 3] = 1.0
    return made


_WORDS = Cast(numbers=_numbers_of_texts, truth=lambda values: np.asarray(values != ""), words=lambda values: values)
_FLAG = Cast(words=lambda values: np.where(values, "yes", "no"))


def _reals(name: str, shape: tuple[int, ...], about: str, **more: Any) -> AttributeType:
    return AttributeType(name, np.float64, about, shape, blends=True, **more)


def _vector(size: int, about: str) -> AttributeType:
    return _reals(f"vec{size}", (size,), about, zero=np.zeros(size), parts="xyzw"[:size], shown="vector")


def _matrix(size: int) -> AttributeType:
    about = f"{size} rows of {size} numbers"
    return _reals(f"mat{size}", (size, size), about, zero=np.eye(size), shown="matrix", cast=None)


def _list(item: AttributeType) -> AttributeType:
    about = f"any number of {item.name}s"
    return AttributeType(
        f"{item.name} list", item.dtype, about, (), [], item.name, shown="list", filed=item.filed, cast=None
    )


_NUMBER = _reals("number", (), "a real number", zero=0.0)
_INTEGER = AttributeType("integer", np.int64, "a whole number", shown="integer", filed="i8")
_TEXT = AttributeType("text", np.str_, "text", zero="", shown="text", filed="text", cast=_WORDS)
TYPES: dict[str, AttributeType] = {
    type.name: type
    for type in (
        _NUMBER,
        _INTEGER,
        AttributeType("flag", np.bool_, "yes or no, a group", zero=False, shown="flag", filed="u1", cast=_FLAG),
        _vector(2, "two numbers"),
        _vector(3, "three numbers"),
        _vector(4, "four numbers, or a colour"),
        _matrix(3),
        _matrix(4),
        _TEXT,
        _list(_NUMBER),
        _list(_INTEGER),
        _list(_TEXT),
    )
}
BLENDED = tuple(name for name, type in TYPES.items() if type.blends)
"""Types whose values are interpolated; all others are taken whole from one source element."""

WELL_KNOWN: dict[tuple[str, str], list[float] | float] = {
    ("color", "vec4"): [1.0, 1.0, 1.0, 1.0],
    ("color", "vec3"): [1.0, 1.0, 1.0],
    ("rotation", "vec4"): [0.0, 0.0, 0.0, 1.0],
    ("scale", "number"): 1.0,
    ("scale", "vec3"): [1.0, 1.0, 1.0],
}
"""Defaults of well-known names for which 0 would make things black, flat or vanish; white and the unit turn as in
glTF 2.0.
"""


def well_known_default(name: str, type: str) -> list[float] | float | None:
    """Return the default of a well-known attribute, or None where the type's zero is right."""
    return WELL_KNOWN.get((name, type))


def attribute_type(name: str) -> AttributeType:
    """Return the attribute type ``name``; raise GeometryError naming those that exist."""
    try:
        return TYPES[name]
    except KeyError:
        raise GeometryError(f"there is no attribute type '{name}'; the types are {', '.join(TYPES)}") from None


def list_type(item: str) -> AttributeType | None:
    """Return the type that holds lists of a type, or None."""
    return next((type for type in TYPES.values() if type.item == item), None)


def vector_type(size: int) -> AttributeType:
    """Return the type of ``size`` real numbers (1: a number); raise GeometryError if there is none."""
    return attribute_type(guess_type(np.zeros((0, size) if size > 1 else 0)))


def guess_type(values: AnyArray) -> str:
    """Return the attribute type that fits an array of values ``(N, ...)``; raise GeometryError if none does."""
    shape = values.shape[1:]
    letter = {"u": "i", "S": "U"}.get(values.dtype.kind, values.dtype.kind)
    for wanted in (values.dtype, letter, "f" if letter == "i" else letter):
        for type in TYPES.values():
            own = np.dtype(type.dtype)
            if wanted in (own, own.kind) and type.shape == shape and not type.is_list:
                return type.name
    raise GeometryError(f"no attribute type holds values of {values.dtype} with shape {shape} per element")
