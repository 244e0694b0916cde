"""An attribute as the view colours with it: of the geometry, and of the shapes that stand in it."""

from __future__ import annotations

from typing import Any, cast

import numpy as np

from reticula.contract.answers import AttributeLook
from reticula.contract.queries import AttributeQuery
from reticula.core.errors import FormulaError, GeometryError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.language.scope import Scope
from reticula.core.reports.summary import describe_attribute, unit_of
from reticula.workers.buffers import Buffers
from reticula.workers.placed_shapes import SURFACE, sources

__all__ = ["attribute_look"]

IN_SPACE = ("position", "normal")
"""What depends on where a shape stands: an instance has its own, and the shape's would mislead."""


def attribute_look(geo: Geo, query: AttributeQuery, buffers: Buffers) -> AttributeLook:
    """One attribute (or built-in) for false colour: 32-bit numbers per element, with its real range.

    Where shapes stand as instances, the values of their points, corners or faces follow those of the geometry;
    ``parts`` says how many rows are whose, 0 for what lacks the attribute. Raises the geometry's own error where
    nothing has it.
    """
    kind, name = query.kind, query.name
    shared = kind in SURFACE and name not in IN_SPACE
    drawn = sources(geo) if shared else [geo]
    found = _of_one_type([_attempt(one, kind, name) for one in drawn]) if len(drawn) > 1 else []
    there = [one for one in found if one is not None] or [_read(geo, kind, name)]
    merged = Attribute.concatenate(there)
    about: dict[str, Any] = describe_attribute(name, merged)
    values = merged.values
    if values.dtype.kind == "U":
        words, codes = np.unique(values, return_inverse=True)
        about |= {"words": words[:64].tolist(), "low": [0.0], "high": [float(max(len(words) - 1, 0))]}
        values = codes.reshape(-1).astype(np.float64)
    kept = buffers.keep(values.astype("u1" if values.dtype == bool else "<f4"))
    made = {"what": "attribute", **about, "unit": unit_of(name), "kind": kind, "values": kept}
    if len(drawn) > 1:
        made["parts"] = [0 if one is None else len(one) for one in found]
    return cast(AttributeLook, made)


def _read(geo: Geo, kind: Kind, name: str) -> Attribute:
    """An attribute of a geometry, with lists by their lengths, or what every element has."""
    if geo.has(kind, name):
        attribute = geo.find(kind, name)
        if attribute.start is None:
            return attribute
        return Attribute.of(np.diff(attribute.start).astype(np.int64), "integer")
    scope = Scope(geo, kind)
    type = scope.attribute_type_of(kind, name).name
    values = np.asarray(scope.values(kind, name))
    return Attribute.of(np.broadcast_to(values, (geo.topology.count(kind), *values.shape[1:])), type)


def _attempt(geo: Geo, kind: Kind, name: str) -> Attribute | None:
    """An attribute, or None where there is none or no element; what stops the work or goes too far is raised."""
    try:
        found = _read(geo, kind, name)
    except (GeometryError, FormulaError):
        return None
    return found if len(found) else None


def _of_one_type(found: list[Attribute | None]) -> list[Attribute | None]:
    """Leave out what has another type than the first that is there: the two cannot be told by one legend."""
    first = next((one for one in found if one is not None), None)
    return [one if one is not None and first is not None and one.type == first.type else None for one in found]
