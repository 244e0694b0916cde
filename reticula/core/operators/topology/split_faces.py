"""Split faces: smaller faces, same shape."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note, warn
from reticula.core.errors import LimitError
from reticula.core.geometry import Geo, Topology, carry
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.measure.areas import faces_seen_from_center
from reticula.core.geometry.mesh.carry import Maps
from reticula.core.geometry.remesh.face_split import Into, Split, split_plan
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, Integer, Selection
from reticula.core.rows import rows_at

__all__ = ["split_faces"]

MOST_FACES = 16_000_000


@operator(
    "split_faces",
    family="topology",
    keywords=("subdivide", "flat", "refine", "tessellate", "midpoint", "divide", "dense"),
    sections={
        "names of groups": ("split_group", "seam_group"),
    },
    carries=(
        "Carries all. New points and corners are interpolated between the ends of their edge or over "
        "their face; new faces copy "
        "the face they are part of, half edges their whole edge; edges across faces get the default."
    ),
    example="""
        ball = geodesic_sphere(frequency=3)
        split_faces(ball, where="position.y > 0", levels=2)
    """,
    related=("smooth_subdivide", "triangulate", "cut_by_value"),
    parameters=(
        Selection.each("face", "faces to split; empty means all"),
        Integer("levels", 1, "how often; the parts of a split face are split again", soft=(1, 5), low=0, high=10),
        Choice(
            "into",
            "quads",
            "what a face becomes",
            options={
                "quads": "one quad per corner around its middle",
                "triangles": "four triangles; other faces are cut into triangles first",
                "fan": "one triangle per edge around its middle",
            },
        ),
        Choice(
            "seam",
            "corners",
            "neighbours that are not split",
            options={
                "corners": "receive the extra corners: watertight",
                "triangles": "are cut into triangles along the seam: watertight",
                "open": "stay as they are: points of the split side lie on their edges",
            },
        ),
        GroupName("split_group", "split", "face group that receives the parts", kind="face"),
        GroupName("seam_group", "seam", "face group that receives changed neighbours", kind="face"),
    ),
)
def split_faces(geo: Geo, *, where: Flags, levels: int, into: str, seam: str, split_group: str, seam_group: str) -> Geo:
    """Cut faces into smaller ones without changing the shape.

    Parts stand where their face stood in the order; old points come first. Concave faces whose middle does not see all
    of them are cut into triangles first, so that parts never overlap. Splitting chosen parts again and again
    stays watertight with the seams 'corners' and 'triangles'.
    """
    chosen = where
    if not where.any():
        warn("No face is marked, so nothing was split.")
    if into == "triangles" and (geo.topology.face_size[chosen] > 3).any():
        sizes = np.where(chosen, geo.topology.face_size - 2, 1)
        note("Faces with more than three corners were cut into triangles first.")
        geo, chosen = triangulate_faces(geo, chosen), np.repeat(chosen, sizes)
    changed, hollows = np.zeros(geo.topology.face_count, bool), 0
    for _ in range(levels):
        hollow = chosen & ~faces_seen_from_center(geo)
        if hollow.any():
            hollows += int(hollow.sum())
            sizes = np.where(hollow, geo.topology.face_size - 2, 1)
            geo, chosen, changed = triangulate_faces(geo, hollow), np.repeat(chosen, sizes), np.repeat(changed, sizes)
        per = np.full(geo.topology.face_count, 4) if into == "triangles" else geo.topology.face_size
        expected = int(np.where(chosen, per, 1).sum())
        if expected > MOST_FACES:
            raise LimitError(f"this would make {expected:,} faces; {MOST_FACES:,} is the most. Take fewer levels.")
        split = _planned(geo.topology, chosen, cast(Into, into), seam == "open")
        maps: Maps = {"point": split.point, "face": split.face, "corner": split.corner, "edge": split.edge}
        geo = carry(geo, split.topology, maps)
        chosen, changed = split.child, rows_at(changed, split.face.index) | split.grown
        if seam == "triangles" and (changed & (geo.topology.face_size > 3)).any():
            cut = changed & ~chosen
            sizes = np.where(cut, geo.topology.face_size - 2, 1)
            geo = triangulate_faces(geo, cut)
            chosen, changed = np.repeat(chosen, sizes), np.repeat(changed, sizes)
    if hollows:
        note(f"{hollows:,} faces do not lie open to their middle and were cut into triangles first.")
    note(f"{int(chosen.sum()):,} parts in {geo.topology.face_count:,} faces.")
    return geo.with_attribute("face", split_group, chosen).with_attribute("face", seam_group, changed & ~chosen)


def _planned(shape: Topology, chosen: Flags, into: Into, open_seam: bool) -> Split:
    key = ("split faces", into, open_seam, chosen.tobytes())
    return shape.memoise(key, lambda: split_plan(shape, chosen, into, open_seam=open_seam))
