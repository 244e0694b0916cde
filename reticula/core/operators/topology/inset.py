"""Inset: every face shrinks inside a ring of new ones."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, SourceMap, carry, edges_along, kept
from reticula.core.geometry.measure.areas import face_centers, face_normals
from reticula.core.geometry.remesh.extrusion import plan_extrusion
from reticula.core.geometry.remesh.offsets import corner_insets, inset_limits
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, PerElement, Selection

__all__ = ["inset"]

STOP = 0.999
"""Share of the distance at which an edge would vanish that a limited inset goes to."""


@operator(
    "inset",
    family="topology",
    keywords=("shrink", "frame", "ring", "border", "panel"),
    carries=(
        "Carries all. Ring faces copy the face they surround; the inner corners keep the outer ones' "
        "values, uv too. Old edges "
        "keep theirs, new ones get the default."
    ),
    parameters=(
        Selection.each("face", "faces to shrink; empty means all"),
        Choice(
            "by",
            "distance",
            "how far",
            options={
                "distance": "all edges move inwards by as much",
                "fraction": "corners move towards the middle by a share of the way",
            },
        ),
        PerElement(
            "distance",
            0.02,
            "width of the ring; negative goes outwards",
            unit="m",
            on="face",
            soft=(0.0, 0.5),
            shown_when=("by", "distance"),
        ),
        PerElement(
            "fraction",
            0.25,
            "share of the way to the middle",
            on="face",
            soft=(0.0, 1.0),
            shown_when=("by", "fraction"),
        ),
        Choice(
            "limit",
            "each face",
            "stop before a face crosses itself",
            options={
                "each face": "where its own edges would vanish",
                "smallest": "all faces at the smallest such distance",
                "none": "do not stop",
            },
            shown_when=("by", "distance"),
        ),
        GroupName("inner_group", "inner", "face group that receives the shrunk faces", kind="face"),
        GroupName("ring_group", "ring", "face group that receives the faces around them", kind="face"),
    ),
)
def inset(
    geo: Geo,
    *,
    where: Flags,
    by: str,
    distance: Floats,
    fraction: Floats,
    limit: str,
    inner_group: str,
    ring_group: str,
) -> Geo:
    """Shrink each face inside itself and close the gap with a ring of four-cornered faces.

    By distance, every edge moves inwards by as much, in the plane of the face. The shrunk faces keep their place in
    the order, rings follow at the end. Points, and faces that are not marked, stay as they were.
    """
    if not where.any():
        warn("No face is marked, so nothing was shrunk.")
    shape = geo.topology
    raised = plan_extrusion(shape, where, False)
    on = raised.corner[raised.start[:-1]]
    faces = shape.corner_face[on]
    if by == "fraction":
        moves = (face_centers(geo)[faces] - geo.positions[shape.corner_point[on]]) * fraction[faces][:, None]
    else:
        per_metre = corner_insets(geo.positions, shape.face_start, shape.corner_point, face_normals(geo))
        far = distance
        if limit != "none":
            most = inset_limits(geo.positions, shape.face_start, shape.corner_point, per_metre) * STOP
            if limit == "smallest":
                most = np.full(len(most), most[where].min(initial=np.inf))
            held = int((far[where] > most[where]).sum())
            far = np.minimum(far, most)
            if held:
                note(f"{held:,} faces were held back before they would cross themselves.")
        moves = per_metre[on] * far[faces][:, None]
    fresh = shape.point_count + np.arange(len(on))
    corners = shape.corner_point.copy()
    corners[on] = fresh
    number = np.full(shape.corner_count, -1)
    number[on] = fresh
    wall, ahead = raised.wall, shape.corner_next[raised.wall]
    ring = np.stack([shape.corner_point[wall], shape.corner_point[ahead], number[ahead], number[wall]], axis=1)
    topology = shape.with_faces(
        shape.point_count + len(on),
        np.concatenate([shape.face_start, shape.face_start[-1] + 4 * np.arange(1, len(wall) + 1)]),
        np.concatenate([corners, ring.reshape(-1)]),
    )
    none = np.full(len(wall), -1)
    old = (
        np.where(where[shape.corner_face], -1, shape.corner_edge)
        if geo.attributes["edge"]
        else np.full(shape.corner_count, -1)
    )
    own = shape.corner_edge[wall] if geo.attributes["edge"] else none
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(
                as_readonly(np.concatenate([np.arange(shape.point_count), shape.corner_point[on]]).astype(np.int32))
            ),
            "face": kept(np.concatenate([np.arange(shape.face_count), shape.corner_face[wall]])),
            "corner": kept(
                np.concatenate(
                    [np.arange(shape.corner_count), np.stack([wall, ahead, ahead, wall], axis=1).reshape(-1)]
                )
            ),
            "edge": edges_along(topology, np.concatenate([old, np.stack([own, none, none, none], axis=1).reshape(-1)])),
        },
        positions=np.concatenate([geo.positions, geo.positions[shape.corner_point[on]] + moves]),
    )
    inner = np.zeros(topology.face_count, bool)
    inner[: shape.face_count] = where
    note(f"Shrunk {int(where.sum()):,} faces.")
    made = made.with_attribute("face", inner_group, inner)
    return made.with_attribute("face", ring_group, np.arange(topology.face_count) >= shape.face_count)
