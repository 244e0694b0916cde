"""Extrude: raise faces with walls at their sides, edges as strips, points as curves."""

from __future__ import annotations

from dataclasses import dataclass
from typing import cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, Kind, SourceMap, Topology, carry, edges_along
from reticula.core.geometry.measure.areas import area_vectors, face_normals, gather_sum, row_means
from reticula.core.geometry.mesh.identity import unit_random
from reticula.core.geometry.remesh.extrusion import ExtrusionTopology, numbers_of, plan_extrusion
from reticula.core.geometry.remesh.offsets import Corners, border_offsets, even_offsets
from reticula.core.geometry.remesh.raised_faces import Rings, raise_faces, raise_points
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import (
    Choice,
    GroupName,
    Handle,
    Integer,
    KindChoice,
    Number,
    PerElement,
    Selection,
    Toggle,
)
from reticula.core.operators.shared.edge_strips import raised_lines
from reticula.core.operators.shared.held_moves import hold_back
from reticula.core.operators.shared.profiles.response_curve import Response, ResponseCurve
from reticula.core.rows import nonzero_rows, rows_at, unit

__all__ = ["extrude"]


@dataclass(frozen=True, eq=False)
class _Plan:
    """All of an extrusion that does not depend on positions.

    ``target (R,)`` is the new number of each raised point; ``rim`` lists the raised points at walls, whose copies at
    the divisions in between follow the points of the input and the fresh ones, division by division.
    """

    raised: ExtrusionTopology
    topology: Topology
    point_source: Indices
    face_source: Indices
    corner_source: Indices
    target: Indices
    rim: Indices
    first_wall: int
    divisions: int

    @property
    def first_base(self) -> int:
        return self.first_wall + len(self.raised.wall) * self.divisions

    def old_edges(self, shape: Topology) -> AnyArray:
        """The old edge, or -1, that the edge of each corner of the result lies on: at walls and around bases, too."""
        wall = self.raised.wall
        own, none = shape.corner_edge[wall], np.full(len(wall), -1, np.int32)
        rows = [
            np.stack([own if k == 0 else none, none, own if k == self.divisions - 1 else none, none], axis=1)
            for k in range(self.divisions)
        ]
        under = self.corner_source[self.topology.face_start[self.first_base] :]
        based = shape.corner_edge[shape.corner_previous[under]]
        return np.concatenate([shape.corner_edge, *(row.reshape(-1) for row in rows), based])


def _plan(shape: Topology, chosen: Flags, together: bool, divisions: int, base: bool) -> _Plan:
    raised = plan_extrusion(shape, chosen, together)
    fresh = np.ones(len(raised.source), bool) if base else raised.fresh
    rim, place = np.zeros(0, np.int32), np.zeros(0, np.int32)
    if divisions > 1:
        wall = raised.wall
        rim = np.unique(raised.number[np.stack([wall, shape.corner_next[wall]])]).astype(np.int32)
        place = np.zeros(len(raised.source), np.int32)
        place[rim] = np.arange(len(rim), dtype=np.int32)
    beyond = shape.point_count + int(fresh.sum())
    rings = Rings(numbers_of(raised.source, fresh, shape.point_count), place, beyond, len(rim), divisions)
    faces = raise_faces(shape, raised, rings, np.flatnonzero(chosen) if base else np.zeros(0, np.int32))
    new = raised.source if fresh.all() else raised.source[fresh]
    between = np.tile(raised.source[rim], divisions - 1)
    return _Plan(
        raised,
        shape.with_faces(beyond + (divisions - 1) * len(rim), faces.face_start, faces.corner_point),
        as_readonly(np.concatenate([np.arange(shape.point_count, dtype=np.int32), new, between])),
        as_readonly(faces.face_source),
        as_readonly(faces.corner_source),
        rings.target,
        rim,
        shape.face_count,
        divisions,
    )


@operator(
    "extrude",
    family="topology",
    keywords=("raise", "pull", "push", "walls", "thicken", "ridge", "shell", "strip"),
    brings={
        "points in one place": ("together", False),
        "crowded edges": ("what", "edge"),
        "open borders": ("what", "edge"),
    },
    sections={
        "how far": ("per", "limit", "amount", "variation", "seed"),
        "which way": ("along", "direction"),
        "walls": ("walls", "divisions", "profile", "keep_base"),
        "names of groups": ("mark_walls", "top_group", "side_group", "base_group", "rim_group"),
    },
    carries=(
        "Carries all. New points copy their source point's values, walls those of the face they were raised from "
        "(its groups only if asked), wall corners those of the corners below; edges on and above old edges copy them, "
        "upright edges get the default."
    ),
    example="""
        tile = grid(cells=[6, 6])
        extrude(tile, where="random() > 0.5", together=False, distance=0.15, inset=0.02)
    """,
    related=("inset", "push", "bevel", "displace"),
    parameters=(
        KindChoice.of(
            ("face", "edge", "point"),
            "face",
            "what to raise: faces with walls, edges as strips of faces, points as curves",
            name="what",
        ),
        Selection("where", "", "which elements to raise; empty means all", on="what"),
        Toggle(
            "together",
            True,
            "raise faces that touch as one region; off: each face by itself",
            shown_when=("what", "face"),
        ),
        KindChoice.of(
            ("face", "point", "corner"), "face", "what distance and inset are worked out on (faces only)", name="per"
        ),
        PerElement(
            "distance",
            {"formula": "0.06 * extent"},
            "how far; negative goes inwards",
            unit="m",
            on="per",
            otherwise="point",
            soft=(-1.0, 1.0),
        ),
        PerElement(
            "inset",
            0.0,
            "how far the raised border moves inwards in its own plane",
            unit="m",
            on="per",
            otherwise="point",
            soft=(-0.5, 0.5),
        ),
        Choice(
            "limit",
            "each region",
            "what happens where the inset would let a face cross itself",
            options={
                "each region": "each region, or face, stops just before by itself",
                "smallest": "all stop at the smallest such inset",
                "none": "do not stop",
            },
            shown_when=("what", "face"),
        ),
        Number("amount", 1.0, "factor for both", soft=(0.0, 2.0)),
        Number(
            "variation", 0.0, "how much of the distance is left to chance, per face", soft=(0.0, 1.0), low=0.0, high=1.0
        ),
        Integer("seed", 1, "another number gives other chances", soft=(0, 100)),
        Choice(
            "along",
            "normal",
            "which way",
            options={"normal": "along the surface's normals", "direction": "along one direction, by the distance"},
        ),
        PerElement(
            "direction",
            [0.0, 1.0, 0.0],
            "the direction; its length does not matter",
            on="per",
            otherwise="point",
            type="vec3",
            soft=(-1, 1),
            shown_when=("along", "direction"),
            handle=Handle("direction"),
        ),
        Choice(
            "walls",
            "even",
            "how the distance is kept",
            options={
                "even": "faces move by the distance, so that walls are equally thick",
                "straight": "points move by the distance",
            },
            shown_when=("along", "normal"),
        ),
        Integer("divisions", 1, "how many rows of walls", soft=(1, 10), low=1, high=1000),
        ResponseCurve(
            "profile",
            [[0.0, 1.0], [1.0, 1.0]],
            "size of the cross-section from bottom to top, about the region's middle",
        ),
        Toggle(
            "keep_base",
            False,
            "leave a face below, so that an open sheet becomes a closed solid",
            shown_when=("what", "face"),
        ),
        Toggle("mark_walls", False, "walls are in the groups of the face they rise from", shown_when=("what", "face")),
        GroupName("top_group", "top", "group that receives the raised faces, edges or points", kind="what"),
        GroupName("side_group", "side", "face group that receives the walls", kind="face"),
        GroupName("base_group", "base", "face group that receives the faces left below", kind="face"),
        GroupName(
            "rim_group",
            "rim",
            "edge group of the loops around each division, top included; empty makes none",
            kind="edge",
            optional=True,
        ),
    ),
)
def extrude(
    geo: Geo,
    *,
    what: str,
    where: Flags,
    together: bool,
    per: str,
    distance: Floats,
    inset: Floats,
    limit: str,
    amount: float,
    variation: float,
    seed: int,
    along: str,
    direction: Floats,
    walls: str,
    divisions: int,
    profile: Response,
    keep_base: bool,
    mark_walls: bool,
    top_group: str,
    side_group: str,
    base_group: str,
    rim_group: str,
) -> Geo:
    """Raise faces and close the gap with walls; raise edges as strips and points as curves.

    Raised together, faces that share an edge stay joined. Even walls: a point moves to where the moved planes of its
    faces meet (least squares, shortest move), so that the walls between parallel faces are as thick as the distance
    says. Straight: it moves by the distance along the mean of its faces' normals, weighted by area. Where faces that
    meet have different distances, even walls keep each, straight ones take the mean. Faces keep their order, walls
    follow division by division, bases come last; elements that are not raised stay as they were. Faces that meet in a
    single point only are separate regions.
    """
    if not where.any():
        warn(f"No {what} is marked, so nothing was raised.")
    if not geo.topology.count(cast(Kind, per)):
        per = "point"
    options = _Options(distance * amount, inset * amount, limit, direction, per, along, walls, divisions, profile)
    if variation:
        kind = cast(Kind, per)
        chance = unit_random(geo.identity(kind), seed)
        options.distance = options.distance * (1.0 - variation * chance)
    if what != "face":
        return raised_lines(geo, what, where, options, top_group, side_group)
    shape = geo.topology
    key = ("extrude", where.tobytes(), together, divisions, keep_base)
    plan = shape.memoise(key, lambda: _plan(shape, where, together, divisions, keep_base))
    path = _Path(geo, plan.raised, where, options)
    count = plan.topology.point_count
    positions = raise_points(geo.positions, plan.raised.source, path.move, plan.target, count)
    if path.size(1.0) != 1.0:
        positions[plan.target] = path(1.0)
    beyond = count - (divisions - 1) * len(plan.rim)
    for k in range(1, divisions):
        positions[beyond + (k - 1) * len(plan.rim) : beyond + k * len(plan.rim)] = path(k / divisions)[plan.rim]
    made = carry(
        geo,
        plan.topology,
        {
            "point": SourceMap(plan.point_source),
            "face": SourceMap(plan.face_source),
            "corner": SourceMap(plan.corner_source),
            "edge": edges_along(plan.topology, lambda: plan.old_edges(shape)),
        },
        positions=positions,
    )
    top, sides, bases = (np.zeros(plan.topology.face_count, bool) for _ in range(3))
    top[: shape.face_count] = where
    sides[plan.first_wall : plan.first_base] = True
    bases[plan.first_base :] = True
    note(f"Raised {int(where.sum()):,} faces, made {plan.first_base - plan.first_wall:,} walls.")
    for name in () if mark_walls else geo.groups("face"):
        flags = made.find("face", name)
        made = made.with_attribute("face", name, flags.values & ~sides, default=flags.default)
    made = made.with_attribute("face", top_group, top).with_attribute("face", side_group, sides)
    if keep_base:
        made = made.with_attribute("face", base_group, bases)
    return made.with_attribute("edge", rim_group, _rims(plan)) if rim_group else made


def _rims(plan: _Plan) -> Flags:
    """Edges along the upper side of each row of walls."""
    rims = np.zeros(plan.topology.edge_count, bool)
    upper = plan.topology.face_start[plan.first_wall : plan.first_base] + 2
    rims[plan.topology.corner_edge[upper]] = True
    return rims


@dataclass
class _Options:
    """What a raised element does, values given per element of the kind ``per``."""

    distance: Floats
    inset: Floats
    limit: str
    direction: Floats
    per: str
    along: str
    walls: str
    divisions: int
    profile: Response


class _Path:
    """Positions of the raised points ``(R, 3)`` at a share of the way, 1 being the top."""

    def __init__(self, geo: Geo, raised: ExtrusionTopology, where: Flags, options: _Options) -> None:
        shape = geo.topology
        listed = _listed(shape, raised, options.per)
        self.positions, self.source = geo.positions, raised.source
        if options.along == "direction":
            way = row_means(raised.start, listed, unit(options.direction))
            self.move = unit(way) * row_means(raised.start, listed, options.distance[:, None])
        else:
            faces = listed if options.per == "face" else rows_at(shape.corner_face, raised.corner)
            if options.walls == "even":
                far = rows_at(options.distance, listed)
                self.move = even_offsets(raised.start, faces, face_normals(geo), area_vectors(geo), far)
            else:
                every = np.arange(len(faces), dtype=np.int32)
                normal = unit(gather_sum(raised.start, every, faces, area_vectors(geo)))
                self.move = normal * row_means(raised.start, listed, options.distance[:, None])
            still = ~nonzero_rows(self.move)
            if still.any():
                meant = row_means(raised.start, listed, np.abs(options.distance)[:, None])[:, 0] > 0
                flat = int((meant & still).sum())
                if flat:
                    warn(
                        f"{flat:,} raised points lie on faces without area and have no direction; they were not moved."
                    )
        inward = row_means(raised.start, listed, options.inset[:, None]) if options.inset.any() else np.zeros(0)
        if inward.any():
            self.move = self.move + _inset_moves(geo, raised, where, inward, options.limit)
        elif len(listed) and not rows_at(options.distance, listed).any():
            warn("The distance is 0 everywhere, so the walls have no area.")
        self.profile, self.region = options.profile, raised.region

    def size(self, share: float) -> float:
        """The size of the cross-section there."""
        return float(self.profile(np.array([share]))[0])

    def __call__(self, share: float) -> Floats:
        at = rows_at(self.positions, self.source) + share * self.move
        size = self.size(share)
        if size == 1.0 or not len(at):
            return at
        count = np.bincount(self.region)
        middle = np.stack([np.bincount(self.region, at[:, i]) for i in range(3)], axis=1) / count[:, None]
        return middle[self.region] + size * (at - middle[self.region])


def _listed(shape: Topology, raised: ExtrusionTopology, per: str) -> Indices:
    """The face, point or corner that the distance of each raised corner is given for."""
    if per == "corner":
        return raised.corner
    return rows_at(shape.corner_face if per == "face" else shape.corner_point, raised.corner)


def _inset_moves(geo: Geo, raised: ExtrusionTopology, where: Flags, inward: Floats, limit: str) -> Floats:
    """Moves ``(R, 3)`` that shift the borders of regions inwards by ``inward (R, 1)`` in m, within the ``limit``."""
    shape = geo.topology
    corners = Corners(shape.corner_point, shape.corner_next, shape.corner_face)
    count = len(raised.source)
    moves = border_offsets(raised.wall, raised.number, corners, geo.positions, face_normals(geo), count) * inward
    if limit == "none":
        return moves
    held = hold_back(geo, raised, moves, where, limit == "smallest")
    if held.held:
        note(f"Inset held back before faces would cross themselves, regions: {held.held:,}.")
    return held.moves
