"""Transfer attribute: values from the closest place on another geometry."""

from __future__ import annotations

from fnmatch import fnmatchcase
from typing import cast

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind, SourceMap, Weights
from reticula.core.geometry.kinds import PLURAL
from reticula.core.language.scope import Scope
from reticula.core.notes import note, warn
from reticula.core.operators.declare import Input, operator
from reticula.core.operators.parameters import KindChoice, Names, Number, Toggle, Where
from reticula.core.spatial import Places, points_of, surface_of

__all__ = ["transfer_attribute"]

CARRIED_KINDS: tuple[Kind, ...] = ("point", "corner", "face")


@operator(
    "transfer_attribute",
    family="attributes",
    inputs=(Input("geo", "geometry that receives the values"), Input("source", "geometry that has the values")),
    keywords=("copy", "carry", "scan", "colour", "color", "nearest", "closest", "bake", "sample"),
    carries=(
        "Carries all of the first input; adds or replaces the named attributes. Numbers, vectors and colours are "
        "interpolated over the triangle; flags, integers and text come from its nearest corner."
    ),
    parameters=(
        Names("attributes", "*", "names of the source's attributes, with spaces between; * stands for any letters"),
        KindChoice.of(CARRIED_KINDS, "point", "what receives the values", name="onto"),
        Where("where", "", "which elements receive values; empty means all", on="onto"),
        Toggle("limit_reach", False, "ignore what is farther away than the reach"),
        Number("reach", 0.1, "largest distance", unit="m", soft=(0, 2), low=0.0, shown_when=("limit_reach", True)),
    ),
)
def transfer_attribute(
    geo: Geo, source: Geo, *, attributes: str, onto: str, where: Flags, limit_reach: bool, reach: float
) -> Geo:
    """Give each element the values found at the closest place on another geometry.

    Elements that find nothing within the reach, or are not marked, keep the value they had; where the attribute is
    new they get its default, and that is said.
    """
    kind = cast(Kind, onto)
    names = _match(source, attributes)
    chosen = np.flatnonzero(where)
    places = Scope(geo, kind).values(kind, "position")[chosen]
    maps, found, distance = _closest_maps(source, places, reach if limit_reach else np.inf)
    missed = len(chosen) - int(found.sum())
    if missed:
        warn(
            f"{missed:,} of {len(chosen):,} {PLURAL[kind]} found nothing within {reach:g} m and were left as they were."
        )
    elif len(chosen):
        note(f"Closest places are {distance.min():.3g} to {distance.max():.3g} m away.")
    target = np.full(len(where), -1, np.int64)
    target[chosen[found]] = np.flatnonzero(found)
    for name, from_kind in names.items():
        geo = geo.with_attribute(
            kind, name, _merged(geo, kind, name, maps[from_kind].attribute(name, source.find(from_kind, name)), target)
        )
    return geo


def _match(source: Geo, patterns: str) -> dict[str, Kind]:
    """Return the source attributes that fit, each with the kind it is read from (point before corner before face)."""
    there: dict[str, Kind] = {}
    for kind in reversed(CARRIED_KINDS):
        there |= dict.fromkeys((name for name in source.attributes[kind] if name != "position"), kind)
    found: dict[str, Kind] = {}
    for pattern in patterns.replace(",", " ").split():
        fits = [name for name in there if fnmatchcase(name, pattern)]
        if not fits and pattern == "*":
            warn("The source has no attributes besides positions, so nothing was carried.")
        elif not fits:
            raise ParameterError(
                "attributes", f"the source has no attribute '{pattern}'; it has {', '.join(sorted(there)) or 'none'}"
            )
        found |= {name: there[name] for name in fits}
    return found


def _closest_maps(source: Geo, places: Floats, reach: float) -> tuple[dict[Kind, SourceMap], Flags, Floats]:
    if not source.topology.face_count:
        index, distance = points_of(source).nearest(places, reach)
        return {"point": SourceMap(index)}, index >= 0, distance
    surface = surface_of(source)
    at = surface.closest(np.ascontiguousarray(places), reach)
    triangle = np.maximum(at.triangle, 0)
    maps: dict[Kind, SourceMap] = {
        "point": _blend(surface.point[triangle], at),
        "corner": _blend(surface.corner[triangle], at),
        "face": SourceMap(surface.face[triangle]),
    }
    return maps, at.found, at.distance


def _blend(columns: Indices, at: Places) -> SourceMap:
    heaviest = columns[np.arange(len(columns)), at.weight.argmax(axis=1)]
    start = np.arange(0, 3 * len(columns) + 1, 3, dtype=np.int32)
    return SourceMap(heaviest, Weights(start, columns.reshape(-1).astype(np.int32), at.weight.reshape(-1)))


def _merged(geo: Geo, kind: Kind, name: str, brought: Attribute, target: np.ndarray) -> Attribute:
    """Put brought values where ``target`` is not -1, over the old ones."""
    count = len(target)
    if (target >= 0).all():
        return brought.take(target)
    if geo.has(kind, name) and geo.find(kind, name).type == brought.type:
        old = geo.find(kind, name)
    else:
        if geo.has(kind, name):
            warn(f"'{name}' was a {geo.find(kind, name).type} and is a {brought.type} now.")
        old = Attribute.filled(brought.type, count, brought.default, default=brought.default)
        note(f"'{name}' is new: {int((target < 0).sum()):,} {PLURAL[kind]} without a value hold {old.row(0)}.")
    both = Attribute.concatenate([old, brought])
    return both.take(np.where(target >= 0, target + count, np.arange(count)))
