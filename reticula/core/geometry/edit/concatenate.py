"""Several geometries as one, element after element."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from reticula.core.arrays import UInts, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.identity import hash_pairs
from reticula.core.geometry.mesh.kinds import BLENDED, KINDS, PLURAL, Kind, well_known_default
from reticula.core.geometry.mesh.topology import Topology

__all__ = ["concatenate"]


def concatenate(geometries: Sequence[Geo], *, quiet: bool = False) -> Geo:
    """Return the geometries as one; nothing is welded. What lacks an attribute gets its default, which is noted."""
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
    attributes = {kind: _joined_attributes(kind, shifted, quiet) for kind in KINDS}
    identity: dict[Kind, UInts] = {}
    kinds: tuple[Kind, ...] = ("point", "face", "curve", "instance")
    for kind in kinds:
        salt = [np.full(geo.topology.count(kind), number, np.uint64) for number, geo in enumerate(shifted)]
        own = np.concatenate([geo.identity(kind) for geo in shifted])
        salted = hash_pairs(own, np.concatenate(salt))
        first = shifted[0].topology.count(kind)
        identity[kind] = np.concatenate([own[:first], salted[first:]])
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


def _joined_attributes(kind: Kind, geometries: Sequence[Geo], quiet: bool) -> dict[str, Attribute]:
    names = dict.fromkeys(name for geo in geometries for name in geo.attributes[kind])
    if kind == "whole":
        return {name: next(geo.find(kind, name) for geo in geometries if geo.has(kind, name)) for name in names}
    made = {}
    lacking: dict[int, list[str]] = {}
    for name in names:
        found = [geo.attributes[kind].get(name) for geo in geometries]
        types = {attribute.type for attribute in found if attribute is not None}
        type = _common_type(types)
        if type is None:
            warn(f"The {kind} attribute '{name}' has several types ({', '.join(sorted(types))}) and was left out.")
            continue
        counts = [geo.topology.count(kind) for geo in geometries]
        default = next(attribute for attribute in found if attribute is not None).default
        default = well_known_default(name, type) if default is None else default
        parts = [
            Attribute.filled(type, count, default, default=default) if attribute is None else _as_type(attribute, type)
            for attribute, count in zip(found, counts, strict=True)
        ]
        filled = sum(count for attribute, count in zip(found, counts, strict=True) if attribute is None)
        if filled and not quiet:
            lacking.setdefault(filled, []).append(f"'{name}' ({_plain(Attribute.filled(type, 1, default).row(0))})")
        made[name] = Attribute.concatenate(parts)
    for missing, without in lacking.items():
        note(f"{missing:,} {PLURAL[kind]} had no {', '.join(without)} and hold these defaults.")
    return made


def _plain(value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, (int, float)) else str(value)


def _common_type(types: set[str]) -> str | None:
    if len(types) == 1:
        return next(iter(types))
    return "number" if types == {"integer", "number"} else None


def _as_type(attribute: Attribute, type: str) -> Attribute:
    if attribute.type == type or type not in BLENDED:
        return attribute
    return Attribute(type, as_readonly(attribute.values.astype(np.float64)), None, attribute.default)
