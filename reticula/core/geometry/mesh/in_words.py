"""What a geometry holds, in a line."""

from __future__ import annotations

from typing import TYPE_CHECKING

from reticula.core.geometry.mesh.kinds import KINDS, PLURAL

if TYPE_CHECKING:
    from reticula.core.geometry.mesh.geo import Geo

__all__ = ["in_words"]


def in_words(geo: Geo) -> str:
    """Return counts, and the attributes of each kind with their types; groups are flags. Edges are not counted."""
    numbers = [(kind, geo.topology.count(kind)) for kind in KINDS if kind in ("point", "face", "curve", "instance")]
    counts = ", ".join(f"{count} {kind if count == 1 else PLURAL[kind]}" for kind, count in numbers if count)
    told = [counts or "empty"]
    for kind, named in geo.attributes.items():
        held = [f"{name} {entry.type}" for name, entry in named.items() if name != "position"]
        told += [f"{kind}: {', '.join(held)}"] if held else []
    return "; ".join(told)
