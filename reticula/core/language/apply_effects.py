"""From what a script did to a new geometry: values first, then what it made, then what it removed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices, as_readonly, as_rows
from reticula.core.diagnostics import note, warn
from reticula.core.errors import FormulaError
from reticula.core.finite import all_finite
from reticula.core.geometry.edit.subset import any_of_row, subset
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.attribute_types import AttributeType, well_known_default
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.geometry.mesh.source_maps import SourceMap, edge_sources, kept
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.language.effects import NOBODY, Effects, OtherWrites
from reticula.core.language.types import STORED_LISTS, Type, is_list
from reticula.core.language.vector.values import blank, shape_of
from reticula.core.reports.attribute_writing import write_attribute

__all__ = ["OwnWrites", "apply_effects"]


@dataclass(frozen=True)
class OwnWrites:
    """An attribute that elements wrote to themselves: its type, all values (an array, or starts and content), and who
    wrote.
    """

    type: Type
    values: Any
    by: Flags


def apply_effects(geo: Geo, kind: Kind, own: Mapping[str, OwnWrites], effects: Effects) -> Geo:
    """Return the geometry after a script; what it did is told in notes."""
    made = geo
    for name, entry in own.items():
        made = _with_own(made, kind, name, entry)
    made = _with_given(made, effects)
    if not effects.changes_topology:
        return made
    added = _with_made(made, kind, effects)
    return _without_removed(geo, added, effects)


def _with_own(geo: Geo, kind: Kind, name: str, entry: OwnWrites) -> Geo:
    if len(entry.by) and entry.by.all() and kind != "whole":
        note(f"Wrote '{name}' on all {len(entry.by):,} {PLURAL[kind]}.")
    if len(entry.by) and not entry.by.any():
        warn(f"'here.{name}' was written by no {kind}: no condition held.")
    if is_list(entry.type):
        start, values = entry.values
        stored = Attribute(STORED_LISTS[entry.type].name, as_readonly(values), as_readonly(np.asarray(start, np.int32)))
    else:
        _require_finite(entry.values, kind, name, entry.by)
        stored = Attribute.of(entry.values, str(entry.type))
    return write_attribute(geo, kind, name, stored, entry.by, others="that the script did not set")


def _require_finite(values: AnyArray, kind: str, name: str, by: Flags) -> None:
    """Fail if a value that the script wrote is no finite number; what was there before is not its fault."""
    if all_finite(values):
        return
    bad = np.flatnonzero(by & ~np.isfinite(as_rows(values)).all(axis=1))
    if not len(bad):
        return
    raise FormulaError(
        f"'{name}' would not be a finite number at {len(bad):,} of {len(values):,} {PLURAL[kind]} "
        f"(first: {kind} {bad[0]}); "
        "a division by zero, a root or logarithm of a negative number, or a power that is too large: "
        "guard it, e.g. a / max(b, 0.001)"
    )


def _with_given(geo: Geo, effects: Effects) -> Geo:
    """Write what elements gave to others that were there before: first what is set, then what is added up."""
    for key in sorted(effects.given, key=lambda key: key[2]):
        on, name, sums = cast("tuple[Kind, str, bool]", key)
        given = effects.given[key]
        if len(given.target) and int(given.target.min()) < 0:
            old = given.target >= 0
            given = OtherWrites(given.by[old], given.target[old], given.value[old], given.type)
        target, value, by = given.target, given.value, given.by
        if not len(target):
            continue
        values, type, touched = _current(geo, on, name, given)
        shaped = _shaped(value, type)
        if sums:
            np.add.at(values, target, shaped)
        else:
            values[target] = shaped
            _tell_collisions(on, name, target, by)
        touched[target] = True
        _require_finite(values, on, name, touched)
        geo = write_attribute(
            geo, on, name, Attribute.of(values, type.name), touched, others="that the script did not set"
        )
    return geo


def _shaped(value: AnyArray, type: AttributeType) -> AnyArray:
    return value.reshape(len(value), *shape_of(type))


def _current(geo: Geo, kind: Kind, name: str, given: OtherWrites) -> tuple[AnyArray, AttributeType, Flags]:
    """Values of an attribute to be changed, its type, and flags for who changes."""
    count, value = geo.topology.count(kind), given.value
    touched = np.zeros(count, bool)
    if geo.has(kind, name):
        found = geo.find(kind, name)
        if found.values.dtype.kind == "U":
            return found.values.astype(np.result_type(found.values, value)), found.info, touched
        return found.values.copy(), found.info, touched
    type = given.type
    assert isinstance(type, AttributeType)
    if value.dtype.kind == "U":
        return np.zeros(count, value.dtype), type, touched
    start = blank(type, count)
    known = well_known_default(name, type.name)
    if known is not None:
        start[...] = known
    return start, type, touched


def _tell_collisions(kind: Kind, name: str, target: AnyArray, by: AnyArray) -> None:
    pairs = np.unique(np.stack([target, by], axis=1), axis=0)
    collided = int((np.unique(pairs[:, 0], return_counts=True)[1] > 1).sum())
    if collided and kind != "whole":
        note(f"'{name}' of {collided:,} {PLURAL[kind]} was set by more than one element; the last one counts.")
    elif collided:
        note(f"'whole.{name}' was set by {len(by):,} elements; the last one counts.")


# ---- what was made


def _with_made(geo: Geo, kind: Kind, effects: Effects) -> Geo:
    shape = geo.topology
    before = shape.point_count
    curves, faces = effects.chains["curve"], effects.chains["face"]
    points = before + len(effects.point_by)
    topology = Topology(
        points,
        np.concatenate([shape.face_start, shape.face_start[-1] + np.cumsum(faces.size)]),
        np.concatenate([shape.corner_point, _numbers(faces.points, before)]),
        np.concatenate([shape.curve_start, shape.curve_start[-1] + np.cumsum(curves.size)]),
        np.concatenate([shape.curve_point, _numbers(curves.points, before)]),
        np.concatenate([shape.curve_closed, curves.closed]),
        shape.instance_count,
    )
    like = effects.like
    copied = np.where(like >= 0, like, -1)
    maker = np.where((like < 0) & (like != NOBODY), -1 - like, np.arange(len(like)))
    while (maker[maker] != maker).any():
        maker = maker[maker]
    copied = copied[maker]
    index: dict[Kind, Indices] = {
        "point": np.concatenate([np.arange(before), copied]),
        "face": np.concatenate([np.arange(shape.face_count), _own(kind == "face", faces.by)]),
        "curve": np.concatenate([np.arange(shape.curve_count), _own(kind == "curve", curves.by)]),
        "corner": np.concatenate([np.arange(shape.corner_count), np.full(len(faces.points), -1)]),
    }
    maps: dict[Kind, Any] = {on: kept(rows) for on, rows in index.items()}
    maps["edge"] = edge_sources(shape, topology, np.concatenate([np.arange(before), np.full(points - before, -1)]))
    positions = np.concatenate([geo.positions, effects.position])
    made = carry(geo, topology, maps, positions=positions)
    counts = {"point": len(effects.point_by), "curve": len(curves.by), "face": len(faces.by)}
    if any(counts.values()):
        note("Made " + ", ".join(f"{n:,} {on if n == 1 else PLURAL[on]}" for on, n in counts.items() if n) + ".")
    return _with_given_to_made(made, geo, effects)


def _numbers(handles: AnyArray, before: int) -> Indices:
    """Point numbers of handles: made points follow those that were there before."""
    return np.where(handles >= 0, handles, before - 1 - handles).astype(np.int64)


def _own(same: bool, by: AnyArray) -> AnyArray:
    return by if same else np.full(len(by), -1)


def _with_given_to_made(made: Geo, geo: Geo, effects: Effects) -> Geo:
    """Write what was given to elements that the script itself made."""
    for key in sorted(effects.given, key=lambda key: key[2]):
        on, name, sums = cast("tuple[Kind, str, bool]", key)
        given = effects.given[key]
        new = given.target < 0
        if not new.any():
            continue
        given = OtherWrites(given.by[new], given.target[new], given.value[new], given.type)
        values, type, touched = _current(made, on, name, given)
        value, target = given.value, geo.topology.count(on) - 1 - given.target
        if sums:
            np.add.at(values, target, _shaped(value, type))
        else:
            values[target] = _shaped(value, type)
        touched[target] = True
        _require_finite(values, on, name, touched)
        existing = made.attributes[on].get(name)
        default = existing.default if existing is not None else None
        made = _keeping_sources(made, made.with_attribute(on, name, Attribute.of(values, type.name, default=default)))
    return made


def _keeping_sources(before: Geo, after: Geo) -> Geo:
    return Geo(
        after.topology,
        after.attributes,
        identity=after.own_identity,
        sources=before.sources,
        prototypes=after.prototypes,
    )


# ---- what was removed


def _without_removed(geo: Geo, added: Geo, effects: Effects) -> Geo:
    if not any(map(len, effects.removed.values())):
        return added
    shape = added.topology
    gone = {on: np.zeros(shape.count(cast(Kind, on)), bool) for on in effects.removed}
    for on, handles in effects.removed.items():
        if len(handles):
            gone[on][np.where(handles >= 0, handles, geo.topology.count(cast(Kind, on)) - 1 - handles)] = True
    faces, curves, points = gone["face"], gone["curve"], gone["point"]
    if gone["edge"].any():
        faces |= any_of_row(shape.face_start, gone["edge"][shape.corner_edge])
    if points.any():
        faces |= any_of_row(shape.face_start, points[shape.corner_point])
        curves |= any_of_row(shape.curve_start, points[shape.curve_point])
    made = subset(added, ~faces, ~curves, ~points)
    lost = {on: shape.count(on) - made.topology.count(on) for on in ("point", "face", "curve")}
    told = ", ".join(f"{n:,} {on if n == 1 else PLURAL[on]}" for on, n in lost.items() if n)
    note(f"Removed {told}." if told else "Nothing was removed.")
    sources = {
        on: SourceMap(_through(added.sources[on].index, entry.index)) if on in added.sources else entry
        for on, entry in made.sources.items()
    }
    return Geo(made.topology, made.attributes, identity=made.own_identity, sources=sources, prototypes=made.prototypes)


def _through(first: AnyArray, second: AnyArray) -> Indices:
    """Where elements came from over two steps."""
    out = np.full(len(second), -1, np.int32)
    known = second >= 0
    out[known] = first[second[known]]
    return out
