"""What a format has no place for."""

from __future__ import annotations

from collections.abc import Collection

from reticula.core.geometry import Geo

__all__ = ["losses"]


def losses(geo: Geo, kept: Collection[tuple[str, str]], elements: Collection[str] = ()) -> list[str]:
    """Return what of a geometry is left out: attributes that are not among the ``kept``, by kind and name, places
    aside; and those ``elements`` (faces, curves) that there are any of.
    """
    names = [
        f"{kind} {name}"
        for kind, named in geo.attributes.items()
        for name in named
        if (kind, name) != ("point", "position") and (kind, name) not in kept
    ]
    counts = {"faces": geo.topology.face_count, "curves": geo.topology.curve_count}
    return names + [word for word in elements if counts[word]]
