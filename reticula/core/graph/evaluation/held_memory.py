"""What memory hangs on a geometry: its own arrays, and all that was worked out of them and is kept on them."""

from __future__ import annotations

from collections.abc import Hashable, Iterator, Mapping
from types import FunctionType
from typing import Any

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.lineage import Lineage

__all__ = ["growth", "held_arrays"]

MOST_ITEMS = 256
"""Containers of more items hold values of elements, not arrays."""
DEEPEST = 6
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
    if isinstance(thing, LEAVES) or id(thing) in seen:
        return
    if isinstance(thing, np.ndarray):
        base = thing if thing.base is None else thing.base
        found[id(base)] = int(getattr(base, "nbytes", thing.nbytes))
        return
    seen.add(id(thing))
    if depth < DEEPEST:
        for part in _parts(thing):
            _walk(part, found, seen, depth + 1)


def _parts(thing: Any) -> Iterator[Any]:
    if isinstance(thing, Mapping):
        yield from list(thing.values()) if len(thing) <= MOST_ITEMS else ()
    elif isinstance(thing, (list, tuple, set, frozenset)):
        yield from thing if len(thing) <= MOST_ITEMS else ()
    elif isinstance(thing, FunctionType):
        yield from (cell.cell_contents for cell in thing.__closure__ or ())
    elif type(thing).__module__.startswith(("reticula", "scipy")):
        yield from list(getattr(thing, "__dict__", {}).values())
        yield from (getattr(thing, name, None) for name in getattr(type(thing), "__slots__", ()))
        if type(thing).__name__ == "cKDTree":
            yield from (thing.data, thing.indices, thing.maxes)
