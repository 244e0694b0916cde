"""What a geometry holds, in a line."""

from __future__ import annotations

from collections.abc import Mapping

from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.kinds import KINDS, PLURAL, Kind
from reticula.core.geometry.mesh.topology import Topology

__all__ = ["in_words"]


def in_words(topology: Topology, attributes: Mapping[Kind, Mapping[str, Attribute]]) -> str:
    """Return counts, and the attributes of each kind with their types; groups are flags. Edges are not counted."""
    numbers = [(kind, topology.count(kind)) for kind in KINDS if kind in ("point", "face", "curve", "instance")]
    counts = ", ".join(f"{count} {kind if count == 1 else PLURAL[kind]}" for kind, count in numbers if count)
    told = [counts or "empty"]
    for kind, named in attributes.items():
        held = [f"{name} {entry.type}" for name, entry in named.items() if name != "position"]
        told += [f"{kind}: {', '.join(held)}"] if held else []
    return "; ".join(told)
