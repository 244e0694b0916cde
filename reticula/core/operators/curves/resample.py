"""Resample: even spacing along curves."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly, ragged_index, starts_from_sizes
from reticula.core.diagnostics import note, warn
from reticula.core.errors import LimitError
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edge_sources, kept
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, Integer, Number, Selection

__all__ = ["resample"]

MOST_POINTS = 50_000_000


@operator(
    "resample",
    family="curves",
    keywords=("even", "spacing", "points along", "redistribute", "divide", "length"),
    brings={"points in one place": None},
    carries=(
        "Carries all; new points blend the two they lie between. Resampled curves get points of "
        "their own; the old points stay "
        "where faces or other curves use them."
    ),
    example="""
        star = regular_polygon(sides=5, radius=0.5, star=0.5)
        even = resample(star, by="length", length=0.06, keep_corners=30)
        pearl = geodesic_sphere(radius=0.02, frequency=4)
        pearls = place_instances(even, pearl)
        flatten_instances(pearls)
    """,
    related=("cut_curve", "curve_through", "sweep"),
    parameters=(
        Selection.each("curve", "curves to resample; empty means all"),
        Choice(
            "by",
            "count",
            "how many points",
            options={"count": "the same number on every curve", "length": "parts of at most this length"},
        ),
        Integer("count", 20, "parts of each curve", soft=(1, 100), low=1, high=10_000_000, shown_when=("by", "count")),
        Number(
            "length",
            {"formula": "0.1 * extent"},
            "longest part",
            unit="m",
            soft=(0.01, 1.0),
            low=1e-9,
            shown_when=("by", "length"),
        ),
        Number(
            "keep_corners",
            180.0,
            "keep points where the curve turns by more than this; 180 keeps none",
            unit="°",
            soft=(0, 180),
            low=0.0,
            high=180.0,
            step=1,
        ),
        AttributeName(
            "side_name",
            "side",
            "point attribute that receives which part between two kept corners the point lies on, from 0",
            new=True,
        ),
    ),
)
def resample(geo: Geo, *, where: Flags, by: str, count: int, length: float, keep_corners: float, side_name: str) -> Geo:
    """Space points evenly along curves.

    With kept corners the curve is resampled from corner to corner, each part with its share of the points. Without,
    ``side`` counts the parts of the old curve. Curves without length stay as they are.
    """
    shape = geo.topology
    plan = _plan(geo, where, by, count, length, keep_corners)
    chosen = np.flatnonzero(plan["chosen"])
    if not len(chosen):
        warn("There is no curve to resample.")
        return geo.with_attribute("point", side_name, np.full(shape.point_count, -1), default=-1)
    staying = np.flatnonzero(~plan["chosen"])
    flat, _ = ragged_index(shape.curve_start, staying)
    needed = np.ones(shape.point_count, bool)
    needed[shape.curve_point] = False
    needed[shape.corner_point] = True
    needed[shape.curve_point[flat]] = True
    old = np.flatnonzero(needed)
    number = np.full(shape.point_count, -1)
    number[old] = np.arange(len(old))
    added = len(plan["a"])
    sizes = np.diff(shape.curve_start).copy()
    sizes[chosen] = plan["sizes"]
    start = starts_from_sizes(sizes)
    point = np.empty(start[-1], np.int64)
    rows, _ = ragged_index(start, staying)
    point[rows] = number[shape.curve_point[flat]]
    rows, _ = ragged_index(start, chosen)
    point[rows] = len(old) + np.arange(added)
    topology = Topology(
        len(old) + added,
        shape.face_start,
        number[shape.corner_point],
        start,
        point,
        shape.curve_closed,
        shape.instance_count,
    )
    t = plan["t"]
    first, second = np.concatenate([old, plan["a"]]), np.concatenate([old, plan["b"]])
    share = np.concatenate([np.zeros(len(old)), t])
    main = np.where(share > 0.5, second, first)
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(as_readonly(main.astype(np.int32)), Weights.pairs(first, second, share)),
            "edge": edge_sources(shape, topology, np.concatenate([old, np.full(added, -1)]))
            if geo.attributes["edge"]
            else kept(np.zeros(0)),
        },
    )
    side = np.concatenate([np.full(len(old), -1), plan["side"]])
    note(f"{len(chosen):,} curves, {added:,} points.")
    return made.with_attribute("point", side_name, side, default=-1)


def _plan(geo: Geo, where: Flags, by: str, count: int, length: float, keep_corners: float) -> dict[str, AnyArray]:
    """Where the new points lie: between which points, at which share, on which side, and how many per curve."""
    shape = geo.topology
    sizes = np.diff(shape.curve_start)
    owner = np.repeat(np.arange(shape.curve_count), sizes)
    position = np.arange(len(shape.curve_point))
    last = shape.curve_start[1:][owner] - 1
    following = np.where(position < last, position + 1, shape.curve_start[:-1][owner])
    real = (position < last) | shape.curve_closed[owner]
    place = geo.positions[shape.curve_point]
    along = np.where(real, np.linalg.norm(place[following] - place, axis=1), 0.0)
    total = np.bincount(owner, along, minlength=shape.curve_count)
    chosen = where & (total > 0)
    corner = _corners(shape, place, owner, following, keep_corners)
    corner[shape.curve_start[:-1]] = True
    cut = np.flatnonzero(corner & real)
    cut_owner = owner[cut]
    ends = np.append(cut[1:], len(position))
    ends = np.where(np.append(cut_owner[1:], -1) == cut_owner, ends, last[cut] + 1)
    reach = np.concatenate([[0.0], np.cumsum(along)])
    side_length = reach[ends] - reach[cut]
    used = chosen[cut_owner]
    cut, cut_owner, ends, side_length = cut[used], cut_owner[used], ends[used], side_length[used]
    if by == "count":
        parts = np.maximum(np.round(count * side_length / total[cut_owner]), 1).astype(np.int64)
        if len(cut):
            order = np.lexsort([-np.arange(len(cut)), side_length, cut_owner])
            longest = order[np.append(cut_owner[order][1:] != cut_owner[order][:-1], True)]
            short = count - np.bincount(cut_owner, parts, minlength=shape.curve_count)[cut_owner[longest]]
            parts[longest] = np.maximum(parts[longest] + short.astype(np.int64), 1)
    else:
        parts = np.maximum(np.ceil(side_length / length - 1e-9), 1).astype(np.int64)
    parts = np.where(side_length > 0, parts, 1)
    asked = int(parts.sum())
    if asked > MOST_POINTS:
        raise LimitError(f"this would make {asked:,} points; {MOST_POINTS:,} is the most. Take longer parts.")
    final = (
        np.append(cut_owner[1:] != cut_owner[:-1], True) & ~shape.curve_closed[cut_owner]
        if len(cut)
        else np.zeros(0, bool)
    )
    counts = parts + final
    side = np.repeat(np.arange(len(cut)), counts)
    step = np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
    wanted = reach[cut][side] + side_length[side] * step / parts[side]
    segment = np.clip(
        np.searchsorted(reach, wanted, side="right") - 1, cut[side], np.maximum(ends[side] - 1, cut[side])
    )
    segment = np.where(
        (step == parts[side]) & (side_length[side] > 0), _last_real(along, ends[side] - 1, cut[side]), segment
    )
    span = np.maximum(along[segment], 1e-300)
    t = np.clip((wanted - reach[segment]) / span, 0.0, 1.0)
    t[step == 0], segment[step == 0] = 0.0, cut[side][step == 0]
    t = np.where(step == parts[side], np.where(along[segment] > 0, 1.0, 0.0), t)
    new_owner = cut_owner[side]
    which = (
        side - np.searchsorted(cut_owner, new_owner) if keep_corners < 180 else segment - shape.curve_start[new_owner]
    )
    return {
        "chosen": chosen,
        "a": shape.curve_point[segment],
        "b": shape.curve_point[following[segment]],
        "t": t,
        "side": which,
        "sizes": np.bincount(new_owner, minlength=shape.curve_count)[np.flatnonzero(chosen)],
    }


def _last_real(along: Floats, last: AnyArray, first: AnyArray) -> AnyArray:
    """The last segment with a length at or before ``last``, not before ``first``."""
    number = np.maximum.accumulate(np.where(along > 0, np.arange(len(along)), -1))
    return np.maximum(number[last], first)


def _corners(shape: Topology, place: Floats, owner: AnyArray, following: AnyArray, most: float) -> Flags:
    if most >= 180.0:
        return np.zeros(len(place), bool)
    way = place[following] - place
    way /= np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-300)
    before = np.empty(len(place), np.int64)
    before[following] = np.arange(len(place))
    turn = np.degrees(np.arccos(np.clip(np.einsum("ij,ij->i", way[before], way), -1.0, 1.0)))
    end = np.zeros(len(place), bool)
    end[shape.curve_start[:-1]] = ~shape.curve_closed
    end[shape.curve_start[1:] - 1] = ~shape.curve_closed
    return (turn > most) & ~end
