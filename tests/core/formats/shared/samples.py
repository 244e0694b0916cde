"""Geometries with values of every kind and type, made from a seed."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.geometry import KINDS, TYPES, Attribute, Geo, Topology


def values_of(type: str, count: int, rng: np.random.Generator) -> Attribute:
    """Return random values of a type, awkward ones among them."""
    info = TYPES[type]
    if info.is_list:
        return Attribute.of([_row(info.item, int(rng.integers(0, 4)), rng) for _ in range(count)], type)
    return Attribute.of(_array(type, count, info.shape, rng), type)


def _row(item: str, count: int, rng: np.random.Generator) -> list[Any]:
    row: list[Any] = _array(item, count, (), rng).tolist()
    return row


def _array(type: str, count: int, shape: tuple[int, ...], rng: np.random.Generator) -> Any:
    if type == "text":
        words = np.array(["", "reef", "山", "two words", 'quote " and \\', "line\nbreak"])
        return words[rng.integers(0, len(words), count)] if count else np.zeros(0, "U1")
    if type == "flag":
        return rng.random((count, *shape)) > 0.5
    if type == "integer":
        return rng.integers(-(2**62), 2**62, (count, *shape))
    return rng.normal(size=(count, *shape)) * 10.0 ** rng.integers(-3, 4)


def shape_of(seed: int) -> Geo:
    """Return quads, a pentagon, a triangle, an open and a closed curve and a loose point at random places."""
    rng = np.random.default_rng(seed)
    topology = Topology(
        10, [0, 4, 9, 12], [0, 1, 2, 3, 1, 4, 5, 6, 2, 3, 2, 7], [0, 3, 6], [0, 1, 4, 3, 7, 8], [False, True]
    )
    return Geo.of(rng.normal(size=(10, 3)), topology)


def full(seed: int) -> Geo:
    """Return a shape with an attribute of every type on every kind of element."""
    rng = np.random.default_rng(seed)
    geo = shape_of(seed)
    for kind in KINDS:
        if kind == "instance":
            continue
        for type in TYPES:
            name = f"{kind}_{type}".replace(" ", "_")
            geo = geo.with_attribute(kind, name, values_of(type, geo.topology.count(kind), rng))
    return geo


def looked_at(seed: int) -> Geo:
    """Return a shape with the well-known values that other programs know: normals, uv and colours."""
    rng = np.random.default_rng(seed)
    geo = shape_of(seed)
    normal = rng.normal(size=(10, 3))
    geo = geo.with_attribute("point", "normal", normal / np.linalg.norm(normal, axis=1, keepdims=True))
    geo = geo.with_attribute("point", "color", np.round(rng.random((10, 4)), 2))
    return geo.with_attribute("corner", "uv", rng.random((12, 2)))
