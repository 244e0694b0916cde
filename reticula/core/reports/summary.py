"""What can be said about a geometry without looking at it: counts, attributes, their types and ranges."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.geometry import KINDS, Attribute, Geo
from reticula.core.geometry.mesh.kinds import PLURAL

__all__ = ["describe_attribute", "describe_geo", "element_counts", "unit_of"]

UNITS = {"position": "m", "area": "m²", "length": "m", "perimeter": "m", "velocity": "m/s"}


def unit_of(name: str) -> str:
    """Return the unit of a well-known attribute, or nothing."""
    return "m" if name.endswith(("_distance", "_position")) else UNITS.get(name, "")


def element_counts(geo: Geo, *, edges: bool = False) -> dict[str, int]:
    """Return the number of elements per kind; edges only if asked, since they must be found first."""
    kinds = [kind for kind in KINDS if kind != "whole" and (edges or kind != "edge")]
    return {PLURAL[kind]: geo.topology.count(kind) for kind in kinds}


def describe_attribute(name: str, attribute: Attribute) -> dict[str, Any]:
    """Return name, type, and the range of finite numbers (per component) or the number of members of a group."""
    entry: dict[str, Any] = {"name": name, "type": attribute.type}
    if attribute.type == "flag":
        entry["members"] = int(attribute.values.sum())
    elif attribute.finite_range is not None:
        low, high = attribute.finite_range
        entry["low"], entry["high"] = low.tolist(), high.tolist()
    return entry


def describe_geo(geo: Geo) -> dict[str, Any]:
    """Return counts, attributes per kind and bounds as plain data."""
    counts = element_counts(geo, edges=True)
    return {
        "counts": counts,
        "attributes": {
            kind: [describe_attribute(name, found) for name, found in geo.attributes[kind].items()] for kind in KINDS
        },
        "bounds": np.asarray(geo.bounds).tolist(),
        "pieces": int(geo.topology.point_piece.max(initial=-1)) + 1,
        "open_border_edges": int(geo.topology.border_edges.sum()),
    }
