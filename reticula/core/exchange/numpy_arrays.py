"""Geometries as plain arrays by name, as ``numpy.savez`` takes them, and back without loss."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.errors import GeometryError
from reticula.core.geometry import KINDS, Attribute, Geo, Kind, Topology
from reticula.core.geometry.edit.instances import with_instances, without_instances

__all__ = ["from_arrays", "to_arrays"]

WIRING = ("face_start", "corner_point", "curve_start", "curve_point", "curve_closed")
START = "|start"
"""Stands behind the name of an attribute of lists: where each list begins."""
SHAPE = "shape"


def to_arrays(geo: Geo) -> dict[str, AnyArray]:
    """Return a geometry as arrays by name; see :meth:`Geo.to_arrays`."""
    own = without_instances(geo)
    made = {name: np.array(getattr(own.topology, name)) for name in WIRING}
    for kind in KINDS:
        for name, attribute in geo.attributes[kind].items():
            made[f"{kind}/{name}"] = np.array(attribute.values)
            if attribute.start is not None:
                made[f"{kind}/{name}{START}"] = np.array(attribute.start)
    for number, shape in enumerate(geo.prototypes):
        made |= {f"{SHAPE}{number}/{name}": values for name, values in to_arrays(shape).items()}
    return made


def from_arrays(arrays: Mapping[str, Any]) -> Geo:
    """Return a geometry of arrays by name; see :meth:`Geo.from_arrays`."""
    if "point/position" not in arrays:
        raise GeometryError(f"there is no array 'point/position'; there are {', '.join(arrays) or 'none'}")
    positions = np.asarray(arrays["point/position"], np.float64)
    wiring: dict[str, Any] = {name: np.asarray(arrays[name]) for name in WIRING if name in arrays}
    geo = Geo.of(positions, Topology(len(positions), **wiring))
    placed: dict[str, Attribute] = {}
    shapes: dict[int, dict[str, Any]] = {}
    for key, values in arrays.items():
        kind, slash, name = key.partition("/")
        if not slash or name.endswith(START) or key == "point/position":
            continue
        if kind.startswith(SHAPE) and kind[len(SHAPE) :].isdigit():
            shapes.setdefault(int(kind[len(SHAPE) :]), {})[name] = values
        elif kind not in KINDS:
            raise GeometryError(f"'{key}' is of no kind of elements; they are {', '.join(KINDS)}")
        elif kind == "instance":
            placed[name] = _attribute(arrays, key)
        else:
            geo = geo.with_attribute(_kind(kind), name, _attribute(arrays, key))
    if not placed:
        return geo
    if not {"shape", "transform"} <= set(placed):
        raise GeometryError("instances need the arrays 'instance/shape' and 'instance/transform'")
    return with_instances(geo, placed, [from_arrays(shapes[number]) for number in sorted(shapes)])


def _kind(word: str) -> Kind:
    return next(kind for kind in KINDS if kind == word)


def _attribute(arrays: Mapping[str, Any], key: str) -> Attribute:
    values = np.asarray(arrays[key])
    if key + START not in arrays:
        return Attribute.of(values)
    held = Attribute.of(values)
    start = np.asarray(arrays[key + START], np.int64)
    if len(start) < 1 or start[0] or start[-1] != len(values) or (np.diff(start) < 0).any():
        raise GeometryError(f"'{key}{START}' does not say where the lists of '{key}' begin")
    return Attribute(f"{held.type} list", held.values, start.astype(np.int32))
