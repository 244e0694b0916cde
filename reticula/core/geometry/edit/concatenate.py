"""Several geometries as one, element after element."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.arrays import as_readonly
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.attribute_types import BLENDED, well_known_default
from reticula.core.geometry.mesh.geo import NAMED, Geo
from reticula.core.geometry.mesh.identity import distinct_names
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.geometry.mesh.topology import Topology

__all__ = ["Losses", "concatenate", "concatenation_losses"]


def concatenate(geometries: Sequence[Geo]) -> Geo:
    """Return the geometries as one; nothing is welded. What lacks an attribute gets its default.

    :func:`concatenation_losses` says where that happens.
    """
    if not geometries:
        return Geo.empty()
    if len(geometries) == 1:
        return geometries[0]
    topology = _joined_topology([geo.topology for geo in geometries])
    prototypes: list[Geo] = []
    shifted = []
    for geo in geometries:
        if geo.topology.instance_count:
            number = geo.find("instance", "shape").values + len(prototypes)
            geo = geo.with_attribute("instance", "shape", number, "integer")
            prototypes += geo.prototypes
        shifted.append(geo)
    attributes = {kind: _joined_attributes(kind, shifted) for kind in KINDS}
    identity = {kind: distinct_names(np.concatenate([geo.identity(kind) for geo in shifted])) for kind in NAMED}
    return Geo(topology, attributes, identity=identity, prototypes=prototypes)


def _joined_topology(shapes: Sequence[Topology]) -> Topology:
    points = np.cumsum([0, *(shape.point_count for shape in shapes)])
    corners = np.cumsum([0, *(shape.corner_count for shape in shapes)])
    used = np.cumsum([0, *(len(shape.curve_point) for shape in shapes)])
    together = list(zip(shapes, points, corners, used, strict=False))
    return Topology(
        points[-1],
        np.concatenate([[0], *(shape.face_start[1:] + c for shape, _, c, _ in together)]),
        np.concatenate([shape.corner_point + p for shape, p, _, _ in together]),
        np.concatenate([[0], *(shape.curve_start[1:] + u for shape, _, _, u in together)]),
        np.concatenate([shape.curve_point + p for shape, p, _, _ in together]),
        np.concatenate([shape.curve_closed for shape in shapes]),
        sum(shape.instance_count for shape in shapes),
    )


def _joined_attributes(kind: Kind, geometries: Sequence[Geo]) -> dict[str, Attribute]:
    if kind == "whole":
        names = _names(kind, geometries)
        return {name: next(geo.find(kind, name) for geo in geometries if geo.has(kind, name)) for name in names}
    made = {}
    for name in _names(kind, geometries):
        found = [geo.attributes[kind].get(name) for geo in geometries]
        type = _common_type(_types(found))
        if type is None:
            continue
        default = _default(name, type, found)
        parts = [
            Attribute.filled(type, geo.topology.count(kind), default, default=default)
            if attribute is None
            else _as_type(attribute, type)
            for attribute, geo in zip(found, geometries, strict=True)
        ]
        made[name] = Attribute.concatenate(parts)
    return made


@dataclass(frozen=True)
class Losses:
    """What :func:`concatenate` cannot keep: for a ``kind``, how many elements are given ``filled`` defaults of which
    attributes, and the attributes that are left out because their ``types`` do not go together."""

    kind: Kind
    filled: Mapping[int, Mapping[str, Any]]
    left_out: Mapping[str, tuple[str, ...]]


def concatenation_losses(geometries: Sequence[Geo]) -> list[Losses]:
    """Return what is lost or made up when the geometries are concatenated, by kind; nothing for kinds without
    trouble.
    """
    found = [_losses(kind, geometries) for kind in KINDS if kind != "whole"] if len(geometries) > 1 else []
    return [one for one in found if one.filled or one.left_out]


def _losses(kind: Kind, geometries: Sequence[Geo]) -> Losses:
    filled: dict[int, dict[str, Any]] = {}
    left_out: dict[str, tuple[str, ...]] = {}
    for name in _names(kind, geometries):
        found = [geo.attributes[kind].get(name) for geo in geometries]
        type = _common_type(_types(found))
        if type is None:
            left_out[name] = tuple(sorted(_types(found)))
            continue
        count = sum(
            geo.topology.count(kind) for geo, attribute in zip(geometries, found, strict=True) if attribute is None
        )
        if count:
            filled.setdefault(count, {})[name] = Attribute.filled(type, 1, _default(name, type, found)).row(0)
    return Losses(kind, filled, left_out)


def _names(kind: Kind, geometries: Sequence[Geo]) -> list[str]:
    return list(dict.fromkeys(name for geo in geometries for name in geo.attributes[kind]))


def _types(found: Sequence[Attribute | None]) -> set[str]:
    return {attribute.type for attribute in found if attribute is not None}


def _default(name: str, type: str, found: Sequence[Attribute | None]) -> Any:
    """The default of the first geometry that has the attribute, else the well-known one."""
    first = next(attribute for attribute in found if attribute is not None).default
    return well_known_default(name, type) if first is None else first


def _common_type(types: set[str]) -> str | None:
    if len(types) == 1:
        return next(iter(types))
    return "number" if types == {"integer", "number"} else None


def _as_type(attribute: Attribute, type: str) -> Attribute:
    if attribute.type == type or type not in BLENDED:
        return attribute
    return Attribute(type, as_readonly(attribute.values.astype(np.float64)), None, attribute.default)
