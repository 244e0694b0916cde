"""Element kinds and attribute types."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from reticula.core.errors import GeometryError

__all__ = [
    "BLENDED",
    "KINDS",
    "LIST_TYPES",
    "PLURAL",
    "TYPES",
    "Kind",
    "TypeInfo",
    "guess_type",
    "type_info",
    "well_known_default",
]

Kind = Literal["point", "edge", "corner", "face", "curve", "instance", "whole"]
KINDS: tuple[Kind, ...] = get_args(Kind)
PLURAL: dict[str, str] = {**{str(kind): f"{kind}s" for kind in KINDS}, "whole": "whole"}


@dataclass(frozen=True)
class TypeInfo:
    """How values of an attribute type are stored: dtype and shape of one value."""

    name: str
    dtype: type[np.generic]
    shape: tuple[int, ...] = ()
    is_list: bool = False

    @property
    def size(self) -> int:
        """Number of components of one value."""
        return int(np.prod(self.shape, dtype=int))


TYPES: dict[str, TypeInfo] = {
    info.name: info
    for info in (
        TypeInfo("number", np.float64),
        TypeInfo("integer", np.int64),
        TypeInfo("flag", np.bool_),
        TypeInfo("vec2", np.float64, (2,)),
        TypeInfo("vec3", np.float64, (3,)),
        TypeInfo("vec4", np.float64, (4,)),
        TypeInfo("mat3", np.float64, (3, 3)),
        TypeInfo("mat4", np.float64, (4, 4)),
        TypeInfo("text", np.str_),
        TypeInfo("number list", np.float64, (), True),
        TypeInfo("integer list", np.int64, (), True),
        TypeInfo("text list", np.str_, (), True),
    )
}
LIST_TYPES = tuple(name for name, info in TYPES.items() if info.is_list)
BLENDED = tuple(name for name, info in TYPES.items() if info.dtype is np.float64 and not info.is_list)
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


def type_info(name: str) -> TypeInfo:
    """Return the storage of the attribute type ``name``; raise GeometryError naming those that exist."""
    try:
        return TYPES[name]
    except KeyError:
        raise GeometryError(f"there is no attribute type '{name}'; the types are {', '.join(TYPES)}") from None


def guess_type(values: np.ndarray) -> str:
    """Return the attribute type that fits an array of values ``(N, ...)``; raise GeometryError if none does."""
    shape = values.shape[1:]
    if values.dtype.kind == "b" and not shape:
        return "flag"
    if values.dtype.kind in "iu" and not shape:
        return "integer"
    if values.dtype.kind in "US" and not shape:
        return "text"
    if values.dtype.kind in "fiu":
        for info in TYPES.values():
            if info.dtype is np.float64 and info.shape == shape and not info.is_list:
                return info.name
    raise GeometryError(f"no attribute type holds values of {values.dtype} with shape {shape} per element")
