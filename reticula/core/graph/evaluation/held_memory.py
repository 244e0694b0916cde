"""What memory hangs on a geometry: its own arrays, and all that was worked out of them and is kept on them."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Mapping
from functools import partial
from types import FunctionType
from typing import Any

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.lineage import Lineage

__all__ = ["growth", "held_arrays"]

MOST_ITEMS = 256
"""Containers of more items hold values of elements, not arrays."""
DEEPEST = 6
Parts = Callable[[Any], Iterable[Any]]
LEAVES = (str, bytes, int, float, bool, complex, type(None), type, np.generic)


def held_arrays(geo: Geo) -> dict[int, int]:
    """Return the bytes of each array that a geometry keeps alive, by the identity of what owns them.

    Adjacency, normals, trees and plans that were worked out since count, too: they hang on the geometry, its topology
    and its attributes. Arrays of other libraries' objects are found by their attributes, those of what is put off in
    what its functions hold.
    """
    found: dict[int, int] = {}
    seen: set[int] = set()
    _walk(geo, found, seen, 0)
    return found


def growth(geo: Geo) -> Hashable:
    """Return what changes when something more is kept on a geometry: to be told in microseconds, for any size.

    Equal ones mean that :func:`held_arrays` would say the same.
    """
    shape = geo.topology
    kept = tuple((name, id(made), growth(made) if isinstance(made, Geo) else 0) for name, made in geo._once.items())
    names = tuple((kind, id(of), of.depth if isinstance(of, Lineage) else 0) for kind, of in geo._identity.items())
    plans = tuple(map(id, shape._memo.values()))
    return len(geo.__dict__), len(shape.__dict__), kept, names, plans, tuple(map(growth, geo.prototypes))


def _walk(thing: Any, found: dict[int, int], seen: set[int], depth: int) -> None:
    kind = type(thing)
    if kind not in _known:
        _known[kind] = _parts_of(kind)
    parts = _known[kind]
    if parts is None or id(thing) in seen:
        return
    if parts is _array:
        base = thing if thing.base is None else thing.base
        found[id(base)] = int(getattr(base, "nbytes", thing.nbytes))
        return
    seen.add(id(thing))
    if depth < DEEPEST:
        for part in parts(thing):
            _walk(part, found, seen, depth + 1)


_known: dict[type, Parts | None] = {}
"""What gives the parts of things, by their type."""


def _parts_of(kind: type) -> Parts | None:
    """Return what gives the parts of things of a type; None for those that hold no arrays."""
    if issubclass(kind, LEAVES):
        return None
    if issubclass(kind, np.ndarray):
        return _array
    if issubclass(kind, Mapping):
        return _values
    if issubclass(kind, (list, tuple, set, frozenset)):
        return _items
    if issubclass(kind, FunctionType):
        return _closure
    if kind.__name__ == "cKDTree":
        return _tree
    if kind.__module__.startswith(("reticula", "scipy")):
        slots = tuple(getattr(kind, "__slots__", ()))
        return partial(_members, slots) if slots else _own
    return None


def _array(thing: Any) -> Iterable[Any]:
    return ()


def _values(thing: Mapping[Any, Any]) -> Iterable[Any]:
    return list(thing.values()) if len(thing) <= MOST_ITEMS else ()


def _items(thing: Any) -> Iterable[Any]:
    return thing if len(thing) <= MOST_ITEMS else ()


def _closure(thing: FunctionType) -> Iterable[Any]:
    return [cell.cell_contents for cell in thing.__closure__ or ()]


def _tree(thing: Any) -> Iterable[Any]:
    return thing.data, thing.indices, thing.maxes


def _own(thing: Any) -> Iterable[Any]:
    return list(getattr(thing, "__dict__", {}).values())


def _members(slots: tuple[str, ...], thing: Any) -> Iterable[Any]:
    return [*_own(thing), *(getattr(thing, name, None) for name in slots)]
