"""Meshes halved by a plane, with caps where solids were cut."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.errors import GeometryError
from reticula.core.geometry.edit.level_cut import cut_at_zero
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.areas import area_vectors
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import edges_along, kept
from reticula.core.geometry.planar.boundary_loops import segment_loops
from reticula.core.geometry.planar.region_fill import Filling, fill_region, nest_loops, project_to_plane

__all__ = ["ClippedHalf", "clip_half", "cut_by_plane"]


class ClippedHalf(NamedTuple):
    """One half of a mesh.

    ``uncapped`` edges of the cut form no closed outline, because the mesh ``was_open`` or for another reason.
    """

    geo: Geo
    uncapped: int = 0
    was_open: bool = False


def cut_by_plane(geo: Geo, origin: Floats, normal: Floats, rim_group: str) -> tuple[Geo, AnyArray, Floats]:
    """Cut the faces of ``geo`` along a plane through ``origin`` across the unit ``normal``, in m.

    Returns the whole mesh with the edge group ``rim_group`` along the cut, the side of each face (-1 below, 1 above;
    faces in the plane belong to the side that they are the surface of), and the height of each point above the plane.
    """
    value = (geo.positions - origin) @ normal
    cut = cut_at_zero(geo, value)
    shape = cut.geo.topology
    side = cut.side.copy()
    flat = np.flatnonzero(side == 0)
    side[flat] = np.where(area_vectors(cut.geo)[flat] @ normal > 0, -1.0, 1.0)
    height = np.concatenate([value, np.zeros(shape.point_count - len(value))])
    return cut.geo.with_attribute("edge", rim_group, cut.on[shape.edges].all(axis=1)), side, height


def clip_half(
    whole: Geo,
    side: AnyArray,
    height: Floats,
    sign: float,
    normal: Floats,
    rim_group: str,
    cap_group: str,
    *,
    cap: bool,
) -> ClippedHalf:
    """Return one half of a mesh that :func:`cut_by_plane` cut: ``sign`` is 1 for above and -1 for below.

    With ``cap``, faces close the cut where it forms closed outlines; they are the face group ``cap_group`` and copy a
    face beside them. Loose points go to their side, curves go above.
    """
    shape = whole.topology
    loose = shape.used_points | (height >= 0 if sign > 0 else height < 0)
    half = subset(whole, side == sign, np.full(shape.curve_count, sign > 0), loose)
    return _capped(half, normal * -sign, rim_group, cap_group, cap, whole)


def _capped(half: Geo, outward: AnyArray, rim_group: str, cap_group: str, cap: bool, before: Geo) -> ClippedHalf:
    """Close the borders that the cut made, with faces that look along ``outward``."""
    shape = half.topology
    rim = shape.border_edges & half.group("edge", rim_group)
    blank = half.with_attribute("face", cap_group, np.zeros(shape.face_count, bool))
    if not cap or not rim.any():
        return ClippedHalf(blank)
    corner = np.flatnonzero(rim[shape.corner_edge])
    tail, head = shape.corner_point[shape.corner_next[corner]], shape.corner_point[corner]
    start, item, left = segment_loops(tail, head, shape.point_count)
    was_open = left > 0 and bool((before.topology.border_edges & ~before.group("edge", rim_group)).any())
    loops = [tail[item[a:b]] for a, b in zip(start, start[1:], strict=False)]
    fillings: list[Filling] = []
    if loops:
        flat = [project_to_plane(half.positions[loop], outward)[0] for loop in loops]
        try:
            regions = nest_loops(flat)
        except GeometryError:
            regions = [[n] for n in range(len(loops))]
        for region in regions:
            fillings.append(_filled(half, [loops[n] for n in region], outward))
    capped = _with_faces(half, fillings, corner, cap_group) if fillings else blank
    return ClippedHalf(capped, left, was_open)


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
        shape.point_count,
        np.concatenate([shape.face_start, shape.face_start[-1] + np.cumsum(sizes)]),
        np.concatenate([shape.corner_point, points]),
    )
    beside = np.full(shape.point_count, -1)
    beside[shape.corner_point[corner]] = corner
    first = points[np.cumsum(sizes) - sizes]
    made = carry(
        half,
        topology,
        {
            "face": kept(np.concatenate([np.arange(shape.face_count), shape.corner_face[beside[first]]])),
            "corner": kept(np.concatenate([np.arange(shape.corner_count), beside[points]])),
            "edge": edges_along(topology, np.concatenate([shape.corner_edge, np.full(len(points), -1)])),
        },
    )
    return made.with_attribute("face", cap_group, np.arange(topology.face_count) >= shape.face_count)
