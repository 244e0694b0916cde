"""Join: several geometries as one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import UInts
from reticula.core.geometry import KINDS, Attribute, Geo, Kind, Topology
from reticula.core.geometry.identity import hash_pairs
from reticula.core.geometry.kinds import BLENDED, PLURAL
from reticula.core.notes import note, warn
from reticula.core.operators.declare import Input, operator

__all__ = ["join"]


@operator(
    "join",
    family="combine",
    inputs=(Input("geometries", "geometries to put together, in order", many=True),),
    keywords=("merge", "append", "combine", "add"),
    carries="Carries all. Where only some inputs have an attribute, the elements of the others get its default, and that is said.",
    parameters=(),
)
def join(geometries: Sequence[Geo]) -> Geo:
    """Put geometries together without welding anything; elements follow each other in input order."""
    if not geometries:
        warn("Nothing is connected, so the result is empty.")
        return Geo.empty()
    if len(geometries) == 1:
        return geometries[0]
    topology = _joined([geo.topology for geo in geometries])
    attributes = {kind: _joined_attributes(kind, geometries) for kind in KINDS}
    identity: dict[Kind, UInts] = {}
    for kind in ("point", "face", "curve"):
        salt = [np.full(geo.topology.count(kind), number, np.uint64) for number, geo in enumerate(geometries)]  # type: ignore[arg-type]
        own = np.concatenate([geo.identity(kind) for geo in geometries])  # type: ignore[arg-type]
        salted = hash_pairs(own, np.concatenate(salt))
        first = geometries[0].topology.count(kind)  # type: ignore[arg-type]
        identity[kind] = np.concatenate([own[:first], salted[first:]])  # type: ignore[index]
    return Geo(topology, attributes, identity=identity)


def _joined(shapes: Sequence[Topology]) -> Topology:
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
    )


def _joined_attributes(kind: Kind, geometries: Sequence[Geo]) -> dict[str, Attribute]:
    names = dict.fromkeys(name for geo in geometries for name in geo.attributes[kind])
    if kind == "whole":
        return {name: next(geo.find(kind, name) for geo in geometries if geo.has(kind, name)) for name in names}
    made = {}
    for name in names:
        found = [geo.attributes[kind].get(name) for geo in geometries]
        types = {attribute.type for attribute in found if attribute is not None}
        type = _common_type(types)
        if type is None:
            warn(f"The {kind} attribute '{name}' has several types ({', '.join(sorted(types))}) and was left out.")
            continue
        counts = [geo.topology.count(kind) for geo in geometries]
        default = next(attribute for attribute in found if attribute is not None).default
        parts = [
            Attribute.filled(type, count, default, default=default) if attribute is None else _as_type(attribute, type)
            for attribute, count in zip(found, counts, strict=True)
        ]
        filled = sum(count for attribute, count in zip(found, counts, strict=True) if attribute is None)
        if filled:
            shown = Attribute.filled(type, 1, default).row(0)
            note(f"{filled:,} {PLURAL[kind]} had no '{name}' and hold {shown}.")
        made[name] = Attribute.concatenate(parts)
    return made


def _common_type(types: set[str]) -> str | None:
    if len(types) == 1:
        return next(iter(types))
    return "number" if types == {"integer", "number"} else None


def _as_type(attribute: Attribute, type: str) -> Attribute:
    return attribute if attribute.type == type or type not in BLENDED else Attribute.of(attribute.values, type)
