"""What can be said about a geometry without looking at it: counts, attributes, their types and ranges."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import as_rows
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
    values = attribute.values
    if attribute.type == "flag":
        entry["members"] = int(values.sum())
    elif values.dtype.kind in "fi" and len(values) and attribute.start is None:
        flat = as_rows(values)
        there = np.isfinite(flat) if values.dtype.kind == "f" else np.ones(flat.shape, bool)
        if there.any(axis=0).all():
            entry["low"] = np.min(flat, axis=0, where=there, initial=flat[there].max()).tolist()
            entry["high"] = np.max(flat, axis=0, where=there, initial=flat[there].min()).tolist()
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
