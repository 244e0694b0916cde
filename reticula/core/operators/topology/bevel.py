"""Bevel: edges or points cut off and rounded."""

from __future__ import annotations

from collections.abc import Hashable
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, as_readonly, starts_from_sizes
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edges_along, kept
from reticula.core.geometry.edit.subset import Part, only, part_of
from reticula.core.geometry.measure.areas import corner_turns, edge_lengths, face_normals
from reticula.core.geometry.mesh.source_maps import Later
from reticula.core.geometry.planar.crossing_limits import crossing_limits
from reticula.core.geometry.remesh.bevel import BevelPlan, bevel_plan
from reticula.core.geometry.remesh.bevel_faces import BevelFaces, Rings, bevel_faces
from reticula.core.geometry.remesh.bevel_patches import corner_patches
from reticula.core.geometry.remesh.bevel_slides import inner_shares, slide_rates
from reticula.core.geometry.remesh.offsets import corner_insets
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import (
    Choice,
    GroupName,
    Integer,
    KindChoice,
    Number,
    PerElement,
    Selection,
)
from reticula.core.rows import row_dots, rows_at, unit

__all__ = ["bevel"]

STOP = 0.99
"""Share of the width at which an edge would vanish that a limited bevel goes to."""
ROUNDS = 6
"""How often widths are taken back face by face before all are."""


@operator(
    "bevel",
    family="topology",
    keywords=("chamfer", "round", "fillet", "soften", "edge", "corner"),
    sections={
        "shape": ("profile", "limit"),
        "names of groups": ("bevel_group", "corner_group"),
    },
    carries=(
        "Carries all. Points and corners that slide are interpolated along their edge or in their "
        "face; points of the rounding "
        "copy the point they replace. Strips copy a face beside them, corner polygons one around "
        "them; edges that are left "
        "keep their values, new ones get the default."
    ),
    example="""
        block = box(size=[0.9, 0.5, 0.6])
        bevel(block, width=0.08, segments=5)
    """,
    related=("round_borders", "extrude", "smooth_subdivide"),
    parameters=(
        KindChoice.of(("edge", "point"), "edge", "what to cut off", name="what"),
        Selection("where", "", "which; empty means all", on="what"),
        PerElement(
            "width",
            {"formula": "0.03 * extent"},
            "distance of the new borders from the edge, or from the point",
            unit="m",
            on="what",
            soft=(0.0, 0.5),
            low=0.0,
        ),
        Integer("segments", 1, "faces across; more than one rounds", soft=(1, 8), low=1, high=256),
        Number(
            "profile",
            0.5,
            "shape across: 0.25 flat, 0.5 round, towards 1 sharp, below 0.25 hollow",
            soft=(0.05, 0.95),
            low=0.02,
            high=0.98,
        ),
        Choice(
            "limit",
            "each point",
            "stop before anything crosses",
            options={
                "each point": "at every point by itself",
                "smallest": "everywhere at the smallest limit",
                "none": "do not stop",
            },
        ),
        GroupName("bevel_group", "bevel", "face group that receives the strips", kind="face"),
        GroupName("corner_group", "bevel_corner", "face group that receives the polygons at points", kind="face"),
    ),
)
def bevel(
    geo: Geo,
    *,
    what: str,
    where: Flags,
    width: Floats,
    segments: int,
    profile: float,
    limit: str,
    bevel_group: str,
    corner_group: str,
) -> Geo:
    """Replace edges by strips of faces, and points where several meet by polygons.

    The strips' borders lie in the old faces, parallel to the edge. Where two cut edges meet the strips turn the corner;
    where three and more meet, or an edge ends, the gap is closed, with several segments by a rounded patch on the ball
    that touches the faces. Profiles are superellipses. Open and non-manifold edges, and points whose faces form no
    single fan, are left as they are.
    """
    shape = geo.topology
    cut, points = _possible(geo, what, where)
    if not cut.any() and not points.any():
        warn(
            "There is nothing to bevel: no marked edge lies between two faces."
            if what == "edge"
            else "There is nothing to bevel."
        )
        blank = np.zeros(shape.face_count, bool)
        return geo.with_attribute("face", bevel_group, blank).with_attribute("face", corner_group, blank)
    key = ("bevel", cut.tobytes(), points.tobytes(), segments)
    plan = shape.memoise(key, lambda: bevel_plan(shape, cut, points, segments))
    insets = corner_insets(geo.positions, shape.face_start, shape.corner_point, face_normals(geo))
    slide, shrink = slide_rates(shape, geo.positions, cut, points, insets)
    wide = _widths(geo, what, width, cut, points, shrink, limit)
    if limit != "none":
        wide = _kept_simple(geo, plan, wide, insets, slide, limit == "smallest")
    return _built(geo, plan, key, wide, insets, slide, segments, profile, points, bevel_group, corner_group)


def _possible(geo: Geo, what: str, where: Flags) -> tuple[Flags, Flags]:
    """Edges and points that can be cut off."""
    shape = geo.topology
    _, _, closed, border = shape.point_fans
    good = closed | border
    if what == "point":
        points = where & good
        return np.zeros(shape.edge_count, bool), points
    two = np.zeros(shape.edge_count, bool)
    two[shape.corner_edge[shape.corner_across >= 0]] = True
    cut = where & two & good[shape.edges].all(axis=1)
    cut = _through_pairs(shape, cut)
    left = int(where.sum() - cut.sum())
    if left and cut.any():
        note(f"{left:,} open or non-manifold edges were left as they are.")
    return cut, np.zeros(shape.point_count, bool)


def _through_pairs(shape: Topology, cut: Flags) -> Flags:
    """Where just two edges meet, both are cut or none: with one, its strip would have no width at its end."""
    pair = np.diff(shape.point_edges[0]) == 2
    while True:
        meets = np.bincount(shape.edges[cut].reshape(-1), minlength=shape.point_count)
        wrong = cut & (pair & (meets == 1))[shape.edges].any(axis=1)
        if not wrong.any():
            return cut
        cut = cut & ~wrong


def _widths(geo: Geo, what: str, width: Floats, cut: Flags, points: Flags, shrink: Floats, limit: str) -> Floats:
    """Width at each point ``(P,)``: the mean over its cut edges, held back before an edge would vanish."""
    shape = geo.topology
    if what == "point":
        wide = np.where(points, width, 0.0)
    else:
        ends = shape.edges[cut]
        total = np.bincount(ends.reshape(-1), np.repeat(width[cut], 2), minlength=shape.point_count)
        wide = total / np.maximum(np.bincount(ends.reshape(-1), minlength=shape.point_count), 1)
    if limit == "none":
        return wide
    rate = shrink.reshape(-1, 2).sum(axis=1)
    most = np.where(rate > 0, edge_lengths(geo) / np.maximum(rate, 1e-300), np.inf) * STOP
    least = np.full(shape.point_count, np.inf)
    for end in (0, 1):
        np.minimum.at(least, shape.edges[:, end], most)
    if limit == "smallest":
        concerned = wide > 0
        least = np.full(shape.point_count, least[concerned].min(initial=np.inf))
    held = int((wide > least).sum())
    if held:
        note(f"At {held:,} points the bevel was held back before edges would cross.")
    return np.minimum(wide, least)


def _kept_simple(geo: Geo, plan: BevelPlan, wide: Floats, insets: Floats, slide: Floats, everywhere: bool) -> Floats:
    """Widths ``(P,)`` at which no face with hollow corners crosses itself or turns over.

    Faces without hollow corners do not before one of their edges vanishes. Widths of faces that would are taken back.

    A narrower width at one corner changes how others move, so that this is looked at again, at last by taking all back
    as much, which keeps the directions.
    """
    shape = geo.topology
    hollow = np.zeros(shape.face_count, bool)
    hollow[shape.corner_face[corner_turns(geo) < 0.0]] = True
    if not hollow.any():
        return wide
    two = plan.before != plan.after
    corner = np.repeat(np.arange(shape.corner_count), 1 + two)
    point = plan.before[corner]
    point[np.cumsum(1 + two) - 1] = plan.after
    start = np.append(0, np.cumsum(1 + two))[shape.face_start].astype(np.int32)
    at = geo.positions[shape.corner_point[corner]]
    asked = wide
    for trial in range(ROUNDS + 1):
        places = np.concatenate(
            [geo.positions, _cut_points(geo, plan, wide, insets, _sources(geo, plan, wide, insets, slide))]
        )
        share = crossing_limits(at, places[point] - at, start, face_normals(geo), hollow) * STOP
        if not (share < 1.0).any():
            break
        scale = np.ones(shape.point_count)
        np.minimum.at(scale, shape.corner_point, share[shape.corner_face])
        wide = wide * (scale.min() if everywhere or trial == ROUNDS else scale)
    held = int((wide < asked).sum())
    if held:
        note(f"At {held:,} points the bevel was held back before a face would cross itself.")
    return wide


def _cut_points(geo: Geo, plan: BevelPlan, wide: Floats, insets: Floats, sources: tuple[AnyArray, Floats]) -> Floats:
    """Where the points in faces and on edges stand ``(N, 3)``."""
    columns, values = sources
    moved = np.einsum("nk,nki->ni", values, rows_at(geo.positions, columns))
    moved[: len(plan.inner)] = _exact_inner(geo, plan, wide, insets)
    return moved


class _Layout(NamedTuple):
    """All of a bevel but places: its ``faces`` and their ``topology``, the ``main (N,)`` old point of each point, and
    the ``part`` of it without points that go, None if all stay.
    """

    faces: BevelFaces
    topology: Topology
    main: Indices
    part: Part | None


def _laid_out(
    shape: Topology, plan: BevelPlan, segments: int, rings: Rings, columns: AnyArray, patch_owner: AnyArray
) -> _Layout:
    faces = bevel_faces(shape, plan, segments, rings)
    main = np.concatenate(
        [np.arange(shape.point_count), columns[:, 0], np.repeat(plan.arc_point, segments - 1), patch_owner]
    )
    used = np.zeros(len(main), bool)
    used[faces.point] = True
    used[: shape.point_count] |= ~shape.used_points
    used[shape.curve_point] = True
    topology = shape.with_faces(len(main), starts_from_sizes(faces.sizes), faces.point)
    part = None if used.all() else part_of(topology, points=used)
    return _Layout(faces, topology, as_readonly(main.astype(np.int32)), part)


def _built(
    geo: Geo,
    plan: BevelPlan,
    key: Hashable,
    wide: Floats,
    insets: Floats,
    slide: Floats,
    segments: int,
    profile: float,
    points: Flags,
    bevel_group: str,
    corner_group: str,
) -> Geo:
    shape = geo.topology
    columns, values = _sources(geo, plan, wide, insets, slide)
    base = np.concatenate([geo.positions, _cut_points(geo, plan, wide, insets, (columns, values))])
    positions = np.concatenate([base, _arcs(geo, plan, base, segments, profile)])
    rings, patch_positions, patch_owner = corner_patches(geo, plan, positions, segments, profile, points)
    positions = np.concatenate([positions, patch_positions])
    layout = shape.memoise(("laid out", key), lambda: _laid_out(shape, plan, segments, rings, columns, patch_owner))
    faces, main = layout.faces, layout.main

    def blend() -> Weights:
        every, one = np.repeat(main[:, None], 3, axis=1), np.tile([1.0, 0.0, 0.0], (len(main), 1))
        cut = slice(shape.point_count, shape.point_count + len(columns))
        every[cut], one[cut] = columns, values
        return Weights.rows(every, one)

    made = carry(
        geo,
        layout.topology,
        {
            "point": SourceMap(main, Later(blend)),
            "face": kept(faces.face),
            "corner": lambda: _corner_map(shape, plan, faces.corner, faces.point, columns, values),
            "edge": edges_along(layout.topology, faces.edge),
        },
        positions=positions,
    )
    made = made.with_attribute("face", bevel_group, faces.kind == 1)
    made = made.with_attribute("face", corner_group, faces.kind == 2)
    note(f"{len(plan.strip_edge):,} edges and {len(plan.ring_point):,} points were cut off.")
    return only(made, layout.part) if layout.part is not None else made


def _sources(geo: Geo, plan: BevelPlan, wide: Floats, insets: Floats, slide: Floats) -> tuple[AnyArray, Floats]:
    """What each inner and slid point blends: three input points ``(N, 3)`` and their shares."""
    shape = geo.topology
    c = plan.inner
    three = np.stack([c, rows_at(shape.corner_next, c), rows_at(shape.corner_previous, c)], axis=1)
    move = rows_at(insets, c) * rows_at(wide, rows_at(shape.corner_point, c))[:, None]
    inner = rows_at(shape.corner_point, three), inner_shares(shape, geo.positions, c, move)
    edge, end = plan.slid // 2, plan.slid % 2
    near, far = shape.edges[edge, end], shape.edges[edge, 1 - end]
    share = np.minimum(slide[plan.slid] * wide[near] / np.maximum(edge_lengths(geo)[edge], 1e-300), 1.0)
    slid = np.stack([near, far, near], axis=1), np.stack([1 - share, share, np.zeros(len(share))], axis=1)
    return np.concatenate([inner[0], slid[0]]), np.concatenate([inner[1], slid[1]])


def _exact_inner(geo: Geo, plan: BevelPlan, wide: Floats, insets: Floats) -> Floats:
    p = geo.topology.corner_point[plan.inner]
    return rows_at(geo.positions, p) + rows_at(insets, plan.inner) * wide[p][:, None]


def _arcs(geo: Geo, plan: BevelPlan, base: Floats, segments: int, profile: float) -> Floats:
    """Points inside the arcs ``(A * (segments - 1), 3)``: superellipses around the old edge."""
    if segments == 1 or not len(plan.arc):
        return np.zeros((0, 3))
    a, b = rows_at(base, plan.arc[:, 0]), rows_at(base, plan.arc[:, 1])
    tip = rows_at(geo.positions, plan.arc_point)
    ends = rows_at(geo.topology.edges, plan.arc_edge)
    way = unit(rows_at(geo.positions, ends[:, 1]) - rows_at(geo.positions, ends[:, 0]))
    middle = 0.5 * (row_dots(a - tip, way) + row_dots(b - tip, way))
    tip = np.where((plan.arc_uses == 1)[:, None], tip + middle[:, None] * way, tip)
    turn = np.pi / 2 * np.arange(1, segments) / segments
    power = 2.0 / _exponent(profile)
    x, y = 1.0 - np.sin(turn) ** power, 1.0 - np.cos(turn) ** power
    return (tip[:, None] + x[None, :, None] * (a - tip)[:, None] + y[None, :, None] * (b - tip)[:, None]).reshape(-1, 3)


def _exponent(profile: float) -> float:
    """The superellipse's exponent: 1 at 0.25 (flat), 2 at 0.5 (round)."""
    return float(np.log(0.5) / np.log(1.0 - _depth(profile)))


def _depth(profile: float) -> float:
    """How far the middle of the arc lies from the chord's towards the old edge, mapped so that 0.5 is a circle."""
    round_ = np.sqrt(0.5)
    if profile <= 0.25:
        return float(np.interp(profile, [0.0, 0.25], [0.98, 0.5]))
    if profile <= 0.5:
        return float(np.interp(profile, [0.25, 0.5], [0.5, 1 - round_]))
    return float(np.interp(profile, [0.5, 1.0], [1 - round_, 0.001]))


def _corner_map(
    shape: Topology, plan: BevelPlan, corner: AnyArray, point: AnyArray, columns: AnyArray, values: Floats
) -> SourceMap:
    """Corner values in the face they lie in: blended towards the next and the previous corner as their point was."""
    three = np.stack([corner, shape.corner_next[corner], shape.corner_previous[corner]], axis=1)
    share = np.tile([1.0, 0.0, 0.0], (len(corner), 1))
    moved = (point >= shape.point_count) & (point < shape.point_count + len(columns))
    number = point[moved] - shape.point_count
    near = shape.corner_point[three[moved]]
    own = columns[number]
    same = own[:, 0] == near[:, 0]
    found = np.zeros((len(number), 3))
    for k in range(3):
        for j in range(3):
            found[:, j] += np.where(own[:, k] == near[:, j], values[number, k], 0.0)
    total = found.sum(axis=1)
    found[~same | (np.abs(total - 1.0) > 1e-6)] = [1.0, 0.0, 0.0]
    share[moved] = found
    return SourceMap(as_readonly(corner.astype(np.int32)), Weights.rows(three, share))
