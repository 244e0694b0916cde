"""Bevel: edges or points cut off and rounded."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly, ragged_index, starts_from_sizes, unit
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edges_along, kept
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.areas import edge_lengths, face_normals
from reticula.core.geometry.remesh.bevel import BevelPlan, bevel_plan, slide_rates
from reticula.core.geometry.remesh.offsets import corner_insets, even_offsets
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

__all__ = ["bevel"]

STOP = 0.999
"""Share of the width at which an edge would vanish that a limited bevel goes to."""


@operator(
    "bevel",
    family="topology",
    keywords=("chamfer", "round", "fillet", "soften", "edge", "corner"),
    carries=(
        "Carries all. Points and corners that slide are interpolated along their edge or in their "
        "face; points of the rounding "
        "copy the point they replace. Strips copy a face beside them, corner polygons one around "
        "them; edges that are left "
        "keep their values, new ones get the default."
    ),
    parameters=(
        KindChoice.of(("edge", "point"), "edge", "what to cut off", name="what"),
        Selection("where", "", "which; empty means all", on="what"),
        PerElement(
            "width",
            0.05,
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
    slide, shrink = slide_rates(shape, geo.positions, plan, cut, points, insets)
    wide = _widths(geo, what, width, cut, points, shrink, limit)
    return _built(geo, plan, wide, insets, slide, segments, profile, points, bevel_group, corner_group)


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


def _built(
    geo: Geo,
    plan: BevelPlan,
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
    moved = np.einsum("nk,nki->ni", values, geo.positions[columns])
    exact = _exact_inner(geo, plan, wide, insets)
    moved[: len(plan.inner)] = exact
    base = np.concatenate([geo.positions, moved])
    arcs = _arcs(geo, plan, base, segments, profile)
    positions = np.concatenate([base, arcs])
    rings, patch_positions, patch_owner = _patches(geo, plan, positions, segments, profile, points)
    faces = _faces(shape, plan, segments, rings)
    positions = np.concatenate([positions, patch_positions])
    sizes, point, corner, old_edge, source, kind = faces
    used = np.zeros(len(positions), bool)
    used[point] = True
    used[: shape.point_count] |= ~shape.used_points
    used[shape.curve_point] = True
    main = np.concatenate(
        [np.arange(shape.point_count), columns[:, 0], np.repeat(plan.arc_point, segments - 1), patch_owner]
    )
    extra = len(positions) - shape.point_count - len(columns)
    every = np.concatenate(
        [
            np.repeat(np.arange(shape.point_count)[:, None], 3, 1),
            columns,
            np.repeat(main[len(main) - extra :][:, None], 3, 1),
        ]
    )
    one = np.tile([1.0, 0.0, 0.0], (1, 1))
    shares = np.concatenate([np.repeat(one, shape.point_count, 0), values, np.repeat(one, extra, 0)])
    topology = shape.with_faces(len(positions), starts_from_sizes(sizes), point)
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(as_readonly(main.astype(np.int32)), Weights.rows(every, shares)),
            "face": kept(source),
            "corner": lambda: _corner_map(shape, plan, corner, point, columns, values),
            "edge": edges_along(topology, old_edge),
        },
        positions=positions,
    )
    made = made.with_attribute("face", bevel_group, kind == 1).with_attribute("face", corner_group, kind == 2)
    note(f"{len(plan.strip_edge):,} edges and {len(plan.ring_point):,} points were cut off.")
    return subset(made, points=used) if not used.all() else made


def _sources(geo: Geo, plan: BevelPlan, wide: Floats, insets: Floats, slide: Floats) -> tuple[AnyArray, Floats]:
    """What each inner and slid point blends: three input points ``(N, 3)`` and their shares."""
    shape = geo.topology
    c = plan.inner
    p, ahead, behind = (
        shape.corner_point[c],
        shape.corner_point[shape.corner_next[c]],
        shape.corner_point[shape.corner_previous[c]],
    )
    u, v = geo.positions[ahead] - geo.positions[p], geo.positions[behind] - geo.positions[p]
    move = insets[c] * wide[p][:, None]
    uu, uv, vv = (np.einsum("ij,ij->i", a, b) for a, b in ((u, u), (u, v), (v, v)))
    det = np.maximum(uu * vv - uv * uv, 1e-300)
    um, vm = np.einsum("ij,ij->i", u, move), np.einsum("ij,ij->i", v, move)
    alpha, beta = np.clip((um * vv - vm * uv) / det, 0.0, 1.0), np.clip((vm * uu - um * uv) / det, 0.0, 1.0)
    inner = np.stack([p, ahead, behind], axis=1), np.stack([1 - alpha - beta, alpha, beta], axis=1)
    edge, end = plan.slid // 2, plan.slid % 2
    near, far = shape.edges[edge, end], shape.edges[edge, 1 - end]
    share = np.minimum(slide[plan.slid] * wide[near] / np.maximum(edge_lengths(geo)[edge], 1e-300), 1.0)
    slid = np.stack([near, far, near], axis=1), np.stack([1 - share, share, np.zeros(len(share))], axis=1)
    return np.concatenate([inner[0], slid[0]]).astype(np.int64), np.concatenate([inner[1], slid[1]])


def _exact_inner(geo: Geo, plan: BevelPlan, wide: Floats, insets: Floats) -> Floats:
    p = geo.topology.corner_point[plan.inner]
    return geo.positions[p] + insets[plan.inner] * wide[p][:, None]


def _arcs(geo: Geo, plan: BevelPlan, base: Floats, segments: int, profile: float) -> Floats:
    """Points inside the arcs ``(A * (segments - 1), 3)``: superellipses around the old edge."""
    if segments == 1 or not len(plan.arc):
        return np.zeros((0, 3))
    a, b = base[plan.arc[:, 0]], base[plan.arc[:, 1]]
    tip = geo.positions[plan.arc_point]
    way = unit(
        geo.positions[geo.topology.edges[plan.arc_edge, 1]] - geo.positions[geo.topology.edges[plan.arc_edge, 0]]
    )
    middle = 0.5 * (np.einsum("ij,ij->i", a - tip, way) + np.einsum("ij,ij->i", b - tip, way))
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


def _patches(
    geo: Geo, plan: BevelPlan, positions: Floats, segments: int, profile: float, points: Flags
) -> tuple[list[tuple[AnyArray, AnyArray, AnyArray]], Floats, AnyArray]:
    """Faces in place of points, as (sizes, points, ring number), with the positions and owners of added points."""
    rows = segments // 2 if segments > 1 else 0
    count = len(plan.ring_point)
    sizes = np.diff(plan.ring_start)
    whole = [(sizes, plan.ring, np.arange(count))]
    round_ = (plan.ring_meets >= 3) | points[plan.ring_point] if rows else np.zeros(count, bool)
    if not rows or not round_.any():
        return whole, np.zeros((0, 3)), np.zeros(0, np.int64)
    owner = np.repeat(np.arange(count), sizes)
    plain = ~round_
    made = [(sizes[plain], plan.ring[plain[owner]], np.flatnonzero(plain))]
    chosen = np.flatnonzero(round_)
    pick = round_[owner]
    ring, loop = plan.ring[pick], np.repeat(np.arange(len(chosen)), sizes[chosen])
    rim = positions[ring]
    start = np.concatenate([[0], np.cumsum(sizes[chosen])])
    middle = np.add.reduceat(rim, start[:-1], axis=0) / sizes[chosen][:, None]
    first = len(positions)
    added, levels = [], [ring]
    lift = _Ball(geo, plan, chosen, rim, loop, middle, points, profile)
    for j in range(1, rows):
        t = j / rows
        added.append(lift(rim + t * (middle[loop] - rim), t))
        levels.append(first + (j - 1) * len(ring) + np.arange(len(ring)))
    centers = lift(middle, 1.0, single=True)
    center = first + (rows - 1) * len(ring) + np.arange(len(chosen))
    ahead = np.arange(1, len(ring) + 1)
    ahead[start[1:] - 1] = start[:-1]
    for low, high in zip(levels, levels[1:], strict=False):
        quads = np.stack([low, low[ahead], high[ahead], high], axis=1)
        made.append((np.full(len(quads), 4), quads.reshape(-1), chosen[loop]))
    tips = np.stack([levels[-1], levels[-1][ahead], center[loop]], axis=1)
    made.append((np.full(len(tips), 3), tips.reshape(-1), chosen[loop]))
    owners = np.concatenate([np.tile(plan.ring_point[chosen][loop], rows - 1), plan.ring_point[chosen]])
    return made, np.concatenate([*added, centers]), owners


class _Ball:
    """Lifts points of patches onto the ball that touches the faces around the old point."""

    def __init__(
        self,
        geo: Geo,
        plan: BevelPlan,
        chosen: AnyArray,
        rim: Floats,
        loop: AnyArray,
        middle: Floats,
        points: Flags,
        profile: float,
    ) -> None:
        shape = geo.topology
        point = plan.ring_point[chosen]
        self.tip, self.loop, self.middle, self.rim = geo.positions[point], loop, middle, rim
        fan_start, fan, _, _ = shape.point_fans
        around, starts = ragged_index(fan_start, point)
        faces = shape.corner_face[fan[around]]
        inward = even_offsets(starts, faces, face_normals(geo), np.ones(shape.face_count), -np.ones(len(faces)))
        toward = middle - self.tip
        depth = np.einsum("ij,ij->i", inward, inward)
        out_of = np.sqrt(np.maximum(depth, 1.0))
        self.radius = np.zeros(len(point))
        size = np.sqrt(
            np.add.reduceat(
                np.einsum("ij,ij->i", rim - middle[loop], rim - middle[loop]),
                np.searchsorted(loop, np.arange(len(point))),
            )
            / np.bincount(loop)
        )
        height = np.abs(np.einsum("ij,ij->i", toward, unit(inward)))
        good = (depth > 1.0 + 1e-9) & ~points[point]
        self.radius[good] = _touching(size, height, out_of)[good]
        self.center = self.tip + inward * self.radius[:, None]
        self.round = good
        self.amount = np.clip((profile - 0.25) / 0.25, -1.0, 1.6)

    def __call__(self, at: Floats, share: float, single: bool = False) -> Floats:
        loop = np.arange(len(self.tip)) if single else self.loop
        way = unit(at - self.center[loop])
        ball = self.center[loop] + way * self.radius[loop][:, None] - at
        dome = (self.tip - self.middle)[loop] * 0.4 * (1.0 - (1.0 - share) ** 2)
        if not single:
            edge = self.center[loop] + unit(self.rim - self.center[loop]) * self.radius[loop][:, None] - self.rim
            ball = ball - edge * (1.0 - share)
        return at + self.amount * np.where(self.round[loop][:, None], ball, dome)


def _touching(size: Floats, height: Floats, out_of: Floats) -> Floats:
    """Radius of the ball whose cut at ``height`` below the tip is as large as the patch; its centre is ``out_of``
    radii away.
    """
    a, b, c = out_of * out_of - 1.0, -2.0 * height * out_of, height * height + size * size
    root = np.sqrt(np.maximum(b * b - 4 * a * c, 0.0))
    return np.where(a > 1e-9, (-b + root) / np.maximum(2 * a, 1e-300), 0.0)


def _faces(
    shape: Topology,
    plan: BevelPlan,
    segments: int,
    rings: list[tuple[AnyArray, AnyArray, AnyArray]],
) -> tuple[AnyArray, AnyArray, AnyArray, AnyArray, AnyArray, AnyArray]:
    """All faces: sizes, points, a source corner and an old edge per corner, source faces, and 0, 1 strip or 2
    corner.
    """
    double = plan.before != plan.after
    times = 1 + double
    corner = np.repeat(np.arange(shape.corner_count), times)
    second = np.arange(len(corner)) - np.repeat(np.cumsum(times) - times, times) == 1
    point = np.where(second, plan.after[corner], plan.before[corner])
    last = np.append(corner[1:] != corner[:-1], True) if len(corner) else np.zeros(0, bool)
    old = np.where(last, shape.corner_edge[corner], -1)
    sizes = np.add.reduceat(times, shape.face_start[:-1]) if shape.face_count else np.zeros(0, np.int64)
    base = shape.point_count + len(plan.inner) + len(plan.slid)
    inner = segments - 1
    steps = np.arange(inner)

    def along(arc: AnyArray, back: AnyArray) -> AnyArray:
        number = base + arc[:, None] * inner + np.where(back[:, None], inner - 1 - steps, steps)
        ends = np.where(back[:, None], plan.arc[arc][:, ::-1], plan.arc[arc])
        return np.concatenate([ends[:, :1], number, ends[:, 1:]], axis=1)

    count = len(plan.strip_edge)
    p, q = along(plan.strip_arc[:, 0], plan.strip_back[:, 0]), along(plan.strip_arc[:, 1], plan.strip_back[:, 1])
    quads = np.stack([p[:, :-1], p[:, 1:], q[:, 1:], q[:, :-1]], axis=2).reshape(-1, 4)
    c, t = plan.strip_corner[:, 0], plan.strip_corner[:, 1]
    near = np.arange(segments) < (segments + 1) // 2
    start, end = (
        np.where(near, c[:, None], shape.corner_next[t][:, None]),
        np.where(near, shape.corner_next[c][:, None], t[:, None]),
    )
    quad_corner = np.stack([start, start, end, end], axis=2).reshape(-1)
    quad_face = np.where(near, shape.corner_face[c][:, None], shape.corner_face[t][:, None]).reshape(-1)
    all_sizes, points, corners = (
        [sizes, np.full(count * segments, 4)],
        [point, quads.reshape(-1)],
        [corner, quad_corner],
    )
    faces, kinds = (
        [np.arange(shape.face_count), quad_face],
        [np.zeros(shape.face_count, int), np.ones(count * segments, int)],
    )
    for ring_sizes, ring, number in rings:
        all_sizes.append(ring_sizes)
        points.append(ring)
        corners.append(np.repeat(plan.ring_corner[number], ring_sizes))
        faces.append(shape.corner_face[plan.ring_corner[number]])
        kinds.append(np.full(len(ring_sizes), 2))
    total = sum(len(part) for part in points)
    old = np.concatenate([old, np.full(total - len(old), -1)])
    cut = np.zeros(shape.edge_count, bool)
    cut[plan.strip_edge] = True
    return (
        np.concatenate(all_sizes),
        np.concatenate(points),
        np.concatenate(corners),
        old,
        np.concatenate(faces),
        np.concatenate(kinds),
    )


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
