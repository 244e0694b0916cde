"""Carrying: the one way in which attributes, groups and identities pass from a geometry to one of another topology."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import NAMED, Geo
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.geometry.mesh.lineage import Lineage, Names
from reticula.core.geometry.mesh.maker import maker
from reticula.core.geometry.mesh.source_maps import SourceMap
from reticula.core.geometry.mesh.topology import Topology

__all__ = ["Maps", "carry"]

Map = SourceMap | Callable[[], SourceMap]
Maps = Mapping[Kind, Map]


def carry(source: Geo, topology: Topology, maps: Maps, *, positions: AnyArray | None = None) -> Geo:
    """Return a geometry of ``topology`` with every attribute of ``source`` passed through ``maps``.

    A kind without a map keeps its attributes as they are, which needs equal counts. A map may be a function that is
    called only if that kind has attributes. ``positions (P, 3)`` replaces the carried positions.
    """
    attributes: dict[Kind, dict[str, Attribute]] = {}
    identity: dict[Kind, Names] = {}
    sources = {}
    for kind in KINDS:
        named = source.attributes[kind]
        entry = maps.get(kind)
        if entry is None:
            if not named and kind not in NAMED:
                attributes[kind] = {}
                continue  # counting edges would find them all
            fits = kind == "whole" or topology.count(kind) == source.topology.count(kind)
            if named and not fits:
                raise GeometryError(f"there is no source map for the {kind} attributes {', '.join(named)}")
            attributes[kind] = dict(named)
            if fits and kind in NAMED:
                identity[kind] = source.lineage(kind)
            continue
        if callable(entry):
            if not named:
                continue
            entry = entry()
        if named or kind in NAMED:
            _check(kind, entry, source, topology)
        skip = {"position"} if kind == "point" and positions is not None else set()
        attributes[kind] = {name: entry.attribute(name, found) for name, found in named.items() if name not in skip}
        sources[kind] = entry
        if kind in NAMED:
            salt = maker() + KINDS.index(kind)
            identity[kind] = Lineage(salt, parents=source.lineage(kind), index=entry.index)
    if positions is not None:
        moved = Attribute.of(np.asarray(positions, np.float64), "vec3")
        attributes["point"] = {"position": moved, **attributes.get("point", {})}
    return Geo(topology, attributes, identity=identity, sources=sources, prototypes=source.prototypes)


def _check(kind: Kind, entry: SourceMap, source: Geo, topology: Topology) -> None:
    """Raise GeometryError if a map does not fit, before a kernel reads beyond its arrays."""
    count = 1 if kind == "whole" else source.topology.count(kind)
    if len(entry.index) != topology.count(kind) or entry.largest >= count:
        raise GeometryError(f"the source map of the {kind} attributes does not fit {count} sources")
