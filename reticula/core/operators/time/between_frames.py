"""Between frames: a blend of two geometries, element by element."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Ints
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.attribute_types import BLENDED
from reticula.core.geometry.mesh.kinds import KINDS, PLURAL, Kind
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, PerElement, Selection
from reticula.core.operators.shared.other_frames import rows_of

__all__ = ["between_frames"]


@operator(
    "between_frames",
    family="time",
    inputs=(Input("geo", "geometry that is blended"), Input("other", "what it becomes")),
    keywords=("morph", "mix", "interpolate", "tween", "blend shapes", "lerp"),
    carries="Carries all of the first input; numbers and vectors of the same name are blended, others stay.",
    example="""
        ball = geodesic_sphere(frequency=10)
        rock = displace(ball, amount=0.3)
        between_frames(ball, rock, amount=0.5)
    """,
    related=("at_frame", "mix_value", "motion"),
    parameters=(
        PerElement("amount", 0.5, "0: the first input; 1: the other one", on="point", soft=(0, 1)),
        Choice(
            "match",
            "name",
            "what belongs together",
            options={
                "name": "elements of the same stable name; others stay as they are",
                "order": "elements in order; both need as many of them",
            },
        ),
        Selection.each("point", "points that are blended, with the attributes of points; empty means all"),
    ),
)
def between_frames(geo: Geo, other: Geo, *, amount: Floats, match: str, where: AnyArray) -> Geo:
    """Blend two geometries: places and attributes of elements that belong together.

    The amount is given for points; faces, curves and other elements take the mean of theirs.
    """
    share = np.where(where, amount, 0.0)
    made = geo
    alone = 0
    for kind in KINDS:
        rows = _rows(geo, other, kind, match)
        there = rows >= 0
        if kind == "point":
            alone = int((~there).sum())
        weight = np.where(there, _share_of(geo, kind, share), 0.0)
        for name, mine in geo.attributes[kind].items():
            if not other.has(kind, name) or mine.type not in BLENDED or mine.start is not None:
                continue
            theirs = other.find(kind, name)
            if theirs.type != mine.type or not there.any():
                continue
            values = np.asarray(mine.values, dtype=np.float64)
            towards = np.where(_wide(there, values), np.asarray(theirs.values)[np.maximum(rows, 0)], values)
            blended = values + _wide(weight, values) * (towards - values)
            made = made.with_attribute(kind, name, blended, mine.type, default=mine.default)
    count = geo.topology.point_count
    if alone == count and count:
        warn("No point has a counterpart of its name, so nothing is blended; match by order, or blend two frames.")
    elif alone:
        note(f"{alone:,} of {count:,} points have no counterpart and stay.")
    return made


def _rows(geo: Geo, other: Geo, kind: Kind, match: str) -> Ints:
    """Return the counterpart of each element; -1 for none."""
    count, there = geo.topology.count(kind), other.topology.count(kind)
    if kind == "whole":
        return np.zeros(count, np.int64)
    if match == "name":
        return rows_of(other.identity(kind), geo.identity(kind))
    if count != there and kind in ("point", "face", "curve", "instance"):
        raise GeometryError(
            f"there are {count:,} {PLURAL[kind]} and {there:,} in the other input; match by name, or make them equal"
        )
    return np.arange(count) if count == there else np.full(count, -1)


def _share_of(geo: Geo, kind: Kind, share: Floats) -> Floats:
    """Return the mean amount of the points of each element."""
    shape = geo.topology
    if kind == "point":
        return share
    if kind == "edge":
        return share[shape.edges].mean(axis=1) if len(shape.edges) else np.zeros(0)
    if kind == "corner":
        return share[shape.corner_point]
    if kind == "face":
        return _means(share[shape.corner_point], shape.face_start)
    if kind == "curve":
        return _means(share[shape.curve_point], shape.curve_start)
    return np.full(shape.count(kind), share.mean() if len(share) else 0.0)


def _means(values: Floats, start: AnyArray) -> Floats:
    if len(start) < 2:
        return np.zeros(0)
    return np.asarray(np.add.reduceat(values, start[:-1]) / np.diff(start))


def _wide(rows: AnyArray, values: AnyArray) -> AnyArray:
    """Return one value per row so that it meets all components of ``values (N, ...)``."""
    return rows.reshape((-1,) + (1,) * (values.ndim - 1))
