"""Slice: cut by a plane."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry import Geo, kept
from reticula.core.geometry.carry import carry, edges_along
from reticula.core.geometry.cutting import cut_at_zero
from reticula.core.geometry.filling import Filling, fill_region, flattened, nested
from reticula.core.geometry.loops import segment_loops
from reticula.core.geometry.subset import subset
from reticula.core.notes import note, warn
from reticula.core.operators.declare import Output, operator
from reticula.core.operators.parameters import Choice, GroupName, Toggle, Vector

__all__ = ["slice_"]


@operator(
    "slice",
    family="solids",
    outputs=(Output("above", "the side the direction points to"), Output("below", "the other side")),
    keywords=("cut", "plane", "section", "clip", "halve", "saw", "knife"),
    carries=(
        "Carries all; values of points and corners are interpolated at the cut. Caps copy a face beside them, their corners a "
        "corner beside them. Loose points go to their side; curves through the plane go above whole."
    ),
    parameters=(
        Vector("through", [0.0, 0.0, 0.0], "a place on the plane", unit="m", soft=(-1, 1)),
        Vector("direction", [0.0, 1.0, 0.0], "the plane's normal, pointing above", soft=(-1, 1)),
        Choice("keep", "above and below", "what comes out", options={
            "above and below": "each side on its own output", "above": "only what lies above", "below": "only what lies below",
            "joined": "the whole mesh, cut along the plane but not parted, on both outputs",
        }),
        Toggle("cap", True, "close the cut of solids with faces"),
        GroupName("border_group", "cut", "edge group that receives the edges along the cut", kind="edge"),
        GroupName("cap_group", "cap", "face group that receives the caps", kind="face"),
    ),
)  # fmt: skip
def slice_(
    geo: Geo, *, through: list[float], direction: list[float], keep: str, cap: bool, border_group: str, cap_group: str
) -> tuple[Geo, Geo]:
    """Cut faces along a plane and give both sides.

    Faces stay polygons; only those that the plane crosses more than twice are cut into triangles. Faces that lie in
    the plane go to the side that they are the surface of. Caps are one polygon where the outline has no holes.
    """
    normal = np.array(direction)
    if not normal.any():
        raise ParameterError("direction", "is 0; give the plane's normal, e.g. 0, 1, 0")
    normal /= np.linalg.norm(normal)
    value = (geo.positions - np.array(through)) @ normal
    cut = cut_at_zero(geo, value)
    shape = cut.geo.topology
    on_line = cut.on[shape.edges].all(axis=1)
    crossing = int((cut.side[:, None] != 0).any()) and on_line.any()
    whole = cut.geo.with_attribute("edge", border_group, on_line)
    if keep == "joined":
        whole = whole.with_attribute("face", cap_group, np.zeros(shape.face_count, bool))
        return whole, whole
    if not crossing:
        warn("The plane does not cut any face.")
    side = _of_flat_faces(cut.geo, cut.side, normal)
    sided = np.concatenate([value, np.zeros(shape.point_count - len(value))])
    made = []
    for sign, wanted in ((1.0, keep != "below"), (-1.0, keep != "above")):
        if not wanted:
            made.append(subset(whole, np.zeros(shape.face_count, bool), np.zeros(shape.curve_count, bool), loose=False))
            continue
        loose = shape.used_points | (sided >= 0 if sign > 0 else sided < 0)
        half = subset(whole, side == sign, np.full(shape.curve_count, sign > 0), loose)
        made.append(_capped(half, normal * -sign, border_group, cap_group, cap, geo))
    note(f"{made[0].topology.face_count:,} faces above, {made[1].topology.face_count:,} below.")
    return made[0], made[1]


def _of_flat_faces(geo: Geo, side: AnyArray, normal: AnyArray) -> AnyArray:
    """Give faces in the plane to the side that they bound: below if they look up."""
    from reticula.core.geometry.measure import area_vectors

    flat = np.flatnonzero(side == 0)
    if not len(flat):
        return side
    out = side.copy()
    out[flat] = np.where(area_vectors(geo)[flat] @ normal > 0, -1.0, 1.0)
    return out


def _capped(half: Geo, outward: AnyArray, border_group: str, cap_group: str, cap: bool, before: Geo) -> Geo:
    """Close the borders that the cut made, with faces that look along ``outward``."""
    shape = half.topology
    rim = shape.border_edges & half.group("edge", border_group)
    blank = half.with_attribute("face", cap_group, np.zeros(shape.face_count, bool))
    if not cap or not rim.any():
        return blank
    corner = np.flatnonzero(rim[shape.corner_edge])
    tail, head = shape.corner_point[shape.corner_next[corner]], shape.corner_point[corner]
    start, item, left = segment_loops(tail, head, shape.point_count)
    if left:
        if before.topology.border_edges.any():
            note("The mesh is open, so its cut is not closed everywhere; only closed outlines were capped.")
        else:
            warn(f"{left:,} edges of the cut form no closed outline and were not capped.")
    loops = [tail[item[a:b]] for a, b in zip(start, start[1:], strict=False)]
    fillings: list[Filling] = []
    if loops:
        flat = [flattened(half.positions[loop], outward)[0] for loop in loops]
        try:
            regions = nested(flat)
        except GeometryError:
            regions = [[n] for n in range(len(loops))]
        for region in regions:
            fillings.append(_filled(half, [loops[n] for n in region], outward))
    if not fillings:
        return blank
    return _with_faces(half, fillings, corner, cap_group)


def _filled(half: Geo, rings: list[AnyArray], outward: AnyArray) -> Filling:
    try:
        return fill_region(half.positions, rings, outward, "polygon", 1.0, half.topology.point_count)
    except GeometryError:
        start = np.concatenate([[0], np.cumsum([len(ring) for ring in rings])]).astype(np.int32)
        return Filling(start, np.concatenate(rings).astype(np.int32), np.zeros((0, 3)))


def _with_faces(half: Geo, fillings: list[Filling], corner: AnyArray, cap_group: str) -> Geo:
    shape = half.topology
    points = np.concatenate([filling.point for filling in fillings])
    sizes = np.concatenate([np.diff(filling.start) for filling in fillings])
    topology = shape.with_faces(
        shape.point_count, np.concatenate([shape.face_start, shape.face_start[-1] + np.cumsum(sizes)]),
        np.concatenate([shape.corner_point, points]),
    )  # fmt: skip
    beside = np.full(shape.point_count, -1)
    beside[shape.corner_point[corner]] = corner
    first = points[np.cumsum(sizes) - sizes]
    made = carry(
        half, topology,
        {
            "face": kept(np.concatenate([np.arange(shape.face_count), shape.corner_face[beside[first]]])),
            "corner": kept(np.concatenate([np.arange(shape.corner_count), beside[points]])),
            "edge": edges_along(topology, np.concatenate([shape.corner_edge, np.full(len(points), -1)])),
        },
    )  # fmt: skip
    return made.with_attribute("face", cap_group, _last(topology.face_count, len(sizes)))


def _last(count: int, added: int) -> Flags:
    return np.arange(count) >= count - added
