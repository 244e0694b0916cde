"""Cut curve: curves in parts at marked points."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, carry, kept
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Selection, Toggle

__all__ = ["cut_curve"]


@operator(
    "cut_curve",
    family="curves",
    keywords=("split", "break", "divide", "open", "separate"),
    brings={"points in one place": ("part", True)},
    carries="Carries all; parts copy their curve, copies of points their point.",
    example="""
        ring = circle(segments=48)
        parts = cut_curve(ring, where="index % 8 == 0", part=True)
        short = resample(parts, by="count", count=7)
        sweep(short, radius=0.03)
    """,
    related=("resample", "edges_to_curves", "offset_curve"),
    parameters=(
        Selection("where", "index % 4 == 0", "points to cut at: a group or a formula", on="point"),
        Toggle("part", False, "give every part end points of its own"),
    ),
)
def cut_curve(geo: Geo, *, where: Flags, part: bool) -> Geo:
    """Cut curves at marked points. A closed curve opens at its first marked point; one without stays closed."""
    shape = geo.topology
    sizes = np.diff(shape.curve_start)
    owner = np.repeat(np.arange(shape.curve_count), sizes)
    marked = where[shape.curve_point]
    any_ = np.bincount(owner, marked, minlength=shape.curve_count) > 0
    if not any_.any():
        warn("No point of a curve is marked, so nothing was cut.")
        return geo
    opened = shape.curve_closed & any_
    place = np.arange(len(owner))
    first = np.full(shape.curve_count, len(owner))
    np.minimum.at(first, owner[marked], place[marked])
    shift = np.where(opened, first - shape.curve_start[:-1], 0)
    turned = shape.curve_start[:-1][owner] + (place - shape.curve_start[:-1][owner] + shift[owner]) % sizes[owner]
    point, cut = shape.curve_point[turned], marked[turned]
    begin = place == shape.curve_start[:-1][owner]
    end = (place == shape.curve_start[1:][owner] - 1) & ~opened[owner]
    twice = cut & ~begin & ~end
    extra = (place == shape.curve_start[1:][owner] - 1) & opened[owner]
    times = 1 + twice + extra
    row = np.repeat(place, times)
    number = np.arange(len(row)) - np.repeat(np.cumsum(times) - times, times)
    closing = extra[row] & (number == times[row] - 1)
    points = np.where(closing, point[shape.curve_start[:-1][owner[row]]], point[row])
    fresh = (begin[row] & (number == 0)) | (twice[row] & (number == 1))
    starts = np.append(np.flatnonzero(fresh), len(row))
    source = owner[row[starts[:-1]]]
    closed = shape.curve_closed[source] & ~any_[source]
    keep = np.diff(starts) >= 2
    if not keep.all():
        pick = np.repeat(keep, np.diff(starts))
        points, source, closed = points[pick], source[keep], closed[keep]
        starts = np.concatenate([[0], np.cumsum(np.diff(starts)[keep])])
    every = np.arange(shape.point_count)
    if part:
        ends = np.concatenate([starts[:-1], starts[1:] - 1])
        ends = ends[~np.tile(closed, 2)]
        seen, owned = np.zeros(shape.point_count, bool), np.sort(ends)
        seen[shape.corner_point] = True
        _, index = np.unique(points[owned], return_index=True)
        again = np.ones(len(owned), bool)
        again[index] = seen[points[owned[index]]]
        copies = owned[again]
        every = np.concatenate([every, points[copies]])
        points = points.copy()
        points[copies] = shape.point_count + np.arange(len(copies))
    topology = shape.with_curves(len(every), starts, points, closed)
    note(f"{shape.curve_count:,} curves became {len(closed):,}.")
    return carry(geo, topology, {"point": kept(every), "curve": kept(source)})
