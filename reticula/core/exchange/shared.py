"""What the ways to all libraries have in common."""

from __future__ import annotations

import importlib
from collections.abc import Mapping
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.language.reserved import readable_name

__all__ = ["library", "plain_values", "say_lost", "with_values"]


def library(name: str) -> Any:
    """Import a library; raise FormatError with what to install if it is not here."""
    try:
        return importlib.import_module(name)
    except ImportError:
        package = name.partition(".")[0]
        raise FormatError(f"this needs {package}; install it with: pip install {package}") from None


def plain_values(geo: Geo, kind: Kind, lost: list[str]) -> dict[str, AnyArray]:
    """Return the values of a kind as arrays ``(N, ...)``, places left out; names of lists go to ``lost``."""
    found = {}
    for name, attribute in geo.attributes[kind].items():
        if (kind, name) == ("point", "position"):
            continue
        if attribute.start is not None:
            lost.append(f"{kind} {name}")
        else:
            found[name] = np.array(attribute.values)
    return found


def with_values(geo: Geo, kind: Kind, values: Mapping[str, Any]) -> Geo:
    """Return a geometry with arrays of another library as attributes; those of no type that we have are noted."""
    lost = []
    for name, given in values.items():
        array = np.asarray(given)
        if array.dtype.kind == "O" and all(isinstance(one, str) for one in array.reshape(-1).tolist()):
            array = array.astype(np.str_)
        array = array[:, 0] if array.ndim == 2 and array.shape[1] == 1 else array
        if (
            array.dtype.kind not in "fiubU"
            or array.shape[:1] != (geo.topology.count(kind),)
            or array.shape[1:] not in ((), (2,), (3,), (4,), (3, 3), (4, 4))
        ):
            lost.append(f"{kind} {name}")
            continue
        if array.dtype.kind in "iu":
            array = array.astype(np.int64 if array.ndim == 1 else np.float64)
        elif array.dtype.kind == "f":
            array = array.astype(np.float64)
        if array.dtype.kind == "b" and array.ndim > 1:
            array = array.astype(np.float64)
        plain = readable_name(str(name))
        geo = geo.with_attribute(kind, plain if plain != "position" else "position_", Attribute.of(array))
    say_lost("We have no place for", lost)
    return geo


def say_lost(what: str, lost: list[str]) -> None:
    """Note what was left out."""
    if lost:
        note(f"{what} {', '.join(lost)}; left out.")
