"""Convert attribute: the same values as another type."""

from __future__ import annotations

from typing import Any, cast

import numpy as np

from reticula.core.arrays import as_rows
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, KindChoice

__all__ = ["convert_attribute"]

WIDTH = {"vec2": 2, "vec3": 3, "vec4": 4}


@operator(
    "convert_attribute",
    family="attributes",
    keywords=("type", "retype", "cast", "number", "integer", "text", "flag"),
    carries="Carries all; one attribute has another type.",
    parameters=(
        KindChoice.of(KINDS, "point", "what has the attribute"),
        AttributeName("name", "", "attribute to convert", optional=True),
        Choice(
            "type",
            "number",
            "its new type",
            options={
                "number": "a real number; of a vector the first component, of a text its number",
                "integer": "a whole number, rounded",
                "flag": "yes where it is not 0 or empty, a group",
                "vec2": "two numbers",
                "vec3": "three numbers",
                "vec4": "four numbers; a fourth component is 1",
                "text": "as text",
            },
        ),
    ),
)
def convert_attribute(geo: Geo, *, kind: str, name: str, type: str) -> Geo:
    """Give an attribute another type, its values turned over as well as they can be."""
    on = cast(Kind, kind)
    if not name:
        return geo
    found = geo.find(on, name)
    if found.type == type:
        return geo
    if found.start is not None or found.type in ("mat3", "mat4"):
        raise ParameterError("name", f"'{name}' is a {found.type}, which cannot be converted")
    if (on, name) == ("point", "position"):
        raise ParameterError("name", "points need their position as it is; set an attribute from it instead")
    made = _converted(found, type)
    note(f"'{name}' was a {found.type} and is a {type} now.")
    return geo.with_attribute(on, name, Attribute.of(made, type))


def _converted(found: Attribute, type: str) -> np.ndarray[Any, Any]:
    values = found.values
    if type == "text":
        if found.type == "flag":
            return np.where(values, "yes", "no")
        rows = as_rows(values)
        return np.array(
            [" ".join(f"{part:g}" for part in row) for row in rows.tolist()] or np.zeros(0, "U1"), dtype=str
        )
    numbers = _numbers(values) if found.type == "text" else values.astype(np.float64)
    if type in WIDTH:
        flat = as_rows(numbers)
        width = WIDTH[type]
        if flat.shape[1] == 1:
            return np.repeat(flat, width, axis=1)
        grown = np.zeros((len(flat), width))
        grown[:, : min(width, flat.shape[1])] = flat[:, :width]
        if width == 4 and flat.shape[1] == 3:
            grown[:, 3] = 1.0
        return grown
    first = as_rows(numbers)[:, 0] if numbers.ndim > 1 else numbers
    if type == "flag":
        return np.asarray(values != "" if found.type == "text" else (as_rows(numbers) != 0).any(axis=1))
    return np.rint(first).astype(np.int64) if type == "integer" else first


def _numbers(texts: np.ndarray[Any, Any]) -> np.ndarray[Any, Any]:
    made = np.zeros(len(texts))
    bad = 0
    distinct, index = np.unique(texts, return_inverse=True)
    table = np.zeros(len(distinct))
    for i, text in enumerate(distinct.tolist()):
        try:
            table[i] = float(text)
        except ValueError:
            bad += int((index == i).sum())
    made[:] = table[index]
    if bad:
        warn(f"{bad:,} of {len(texts):,} texts are no numbers and became 0.")
    return made
