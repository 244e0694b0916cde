"""Warnings that every operator gives without doing anything for it: numbers that are none, instances left out."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

import numpy as np

from reticula.core.arrays import as_rows
from reticula.core.diagnostics import note, warn
from reticula.core.finite import all_finite
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import KINDS, PLURAL
from reticula.core.operators.declaration.parameters import OnElements, Parameter

__all__ = ["tell_of_instances", "tell_of_members", "tell_of_numbers", "tell_of_unshared"]


def _geometries(entries: Iterable[Geo | Sequence[Geo] | None]) -> list[Geo]:
    return [geo for entry in entries for geo in ([entry] if isinstance(entry, Geo) else entry or [])]


def tell_of_numbers(inputs: Iterable[Geo | Sequence[Geo] | None], outputs: Sequence[Geo]) -> None:
    """Warn where a new array of numbers holds NaN or an infinity, and say at which element first.

    Arrays that came in are not looked at again.
    """
    seen = {
        id(attribute.values)
        for geo in _geometries(inputs)
        for kind in KINDS
        for attribute in geo.attributes[kind].values()
    }
    for geo in outputs:
        for kind in KINDS:
            for name, attribute in geo.attributes[kind].items():
                values = attribute.values
                if id(values) in seen or all_finite(values):
                    continue
                rows = np.asarray(np.isfinite(as_rows(values)).all(axis=1))
                bad = np.flatnonzero(~rows)
                of = PLURAL[kind] if attribute.start is None else "listed values"
                warn(f"'{name}' holds no finite number at {len(bad):,} of {len(rows):,} {of} (first: {kind} {bad[0]}).")


def tell_of_instances(
    parameters: Iterable[Parameter], inputs: Mapping[str, Geo | None], values: Mapping[str, Any]
) -> None:
    """Warn if an operator that works on elements is given nothing but instances, whose elements it cannot see."""
    for parameter in parameters:
        geo = inputs.get(parameter.of) if isinstance(parameter, OnElements) else None
        if not isinstance(parameter, OnElements) or geo is None or not geo.topology.instance_count:
            continue
        kind = parameter.on if parameter.on in KINDS else values.get(parameter.on)
        if kind != "instance" and not geo.topology.point_count:
            warn(
                f"'{parameter.of}' holds only instances, whose {kind}s are not seen; put flatten instances before this."
            )
            return


def tell_of_members(name: str, kind: str, held: int, count: int, hint: str = "") -> None:
    """Say how many elements a group holds; warn if none or all do."""
    if count and not held:
        warn(f"The group '{name}' is empty: none of {count:,} {PLURAL[kind]} fits. {hint}".strip())
    elif count > 1 and held == count:
        warn(f"The group '{name}' holds all {count:,} {PLURAL[kind]}. {hint}".strip())
    else:
        note(f"'{name}' holds {held:,} of {count:,} {PLURAL[kind]} ({held / max(count, 1):.1%}).")


def tell_of_unshared(geo: Geo, what: str) -> None:
    """Warn if faces that lie side by side do not share their points, so that ``what`` cannot pass from one to
    another.
    """
    shape = geo.topology
    border = shape.border_points
    if not border.any():
        return
    places = geo.positions[border]
    distinct = len(np.unique(np.round(places / max(float(np.ptp(places, axis=0).max()), 1e-300), 9), axis=0))
    apart = len(places) - distinct
    if apart > 0.05 * len(places):
        warn(
            f"{apart:,} border points lie on another one without being shared, so {what} stops there; "
            "put weld before this if they belong together."
        )
