"""Meshes halved by a plane, with caps where solids were cut."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.errors import GeometryError
from reticula.core.geometry.edit.level_cut import cut_at_zero
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.areas import area_vectors
from reticula.core.geometry.measure.components import face_components
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.geometry.mesh.source_maps import edges_along, kept
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.geometry.planar.ear_clipping import cut_polygons
from reticula.core.geometry.planar.planar_loops import planar_loops
from reticula.core.geometry.planar.region_fill import (
    Filling,
    Inside,
    fill_region,
    nest_oriented_loops,
    project_to_plane,
)
from reticula.core.rows import rows_at

__all__ = ["ClippedHalf", "clip_half", "cut_by_plane", "faces_of_open_components"]


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
    along = rows_at(cut.on, shape.edges[:, 0]) & rows_at(cut.on, shape.edges[:, 1])
    return cut.geo.with_attribute("edge", rim_group, along), side, height


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
    is_inside: Callable[[Floats], Flags] | None = None,
) -> ClippedHalf:
    """Return one half of a mesh that :func:`cut_by_plane` cut: ``sign`` is 1 for above and -1 for below.

    With ``cap``, faces close the cut where it forms closed outlines; they are the face group ``cap_group`` and copy a
    face beside them. What bounds them is where the faces of the half no longer cancel out, so that shells in shells,
    solids that overlap or touch, and edges with several faces are closed each for itself. Where a piece of the mesh
    was open, ``is_inside`` tells of places ``(N, 3)`` whether there is anything to close. Loose points go to their
    side, curves go above.
    """
    shape = whole.topology
    loose = shape.used_points | (height >= 0 if sign > 0 else height < 0)
    chosen = side == sign
    half = subset(whole, chosen, np.full(shape.curve_count, sign > 0), loose)
    blank = half.with_attribute("face", cap_group, np.zeros(half.topology.face_count, bool))
    if not cap:
        return ClippedHalf(blank)
    was_border = _unmatched(shape, np.ones(shape.edge_count, bool))[np.repeat(chosen, shape.face_size)]
    corner = np.flatnonzero(_unmatched(half.topology, half.group("edge", rim_group)) & ~was_border)
    open_faces = faces_of_open_components(whole)[chosen]
    return _capped(half, corner, normal * -sign, cap_group, open_faces, is_inside)


@once_per_geo
def faces_of_open_components(geo: Geo) -> Flags:
    """Return which faces ``(F,)`` belong to a connected part that has a border."""
    component, shape = face_components(geo), geo.topology
    return np.isin(component, component[shape.corner_face[shape.border_edges[shape.corner_edge]]])


def _unmatched(shape: Topology, edges: Flags) -> Flags:
    """Return the corners ``(C,)`` whose edge, one of ``edges``, no other face runs back along."""
    corner = np.flatnonzero(edges[shape.corner_edge])
    edge = shape.corner_edge[corner]
    way = np.where(shape.corner_point[corner] == shape.edges[edge, 0], 1, -1)
    net = np.bincount(edge, way, minlength=shape.edge_count)[edge]
    order = np.lexsort([way != np.sign(net), edge])
    rank = np.arange(len(order)) - np.searchsorted(edge[order], edge[order])
    out = np.zeros(shape.corner_count, bool)
    out[corner[order]] = rank < np.abs(net[order])
    return out


def _capped(
    half: Geo,
    corner: AnyArray,
    outward: AnyArray,
    cap_group: str,
    open_faces: Flags,
    is_inside: Callable[[Floats], Flags] | None,
) -> ClippedHalf:
    """Close the loops along the edges of ``corner``, with faces that look along ``outward``."""
    shape = half.topology
    tail, head = shape.corner_point[shape.corner_next[corner]], shape.corner_point[corner]
    used = np.concatenate([tail, head])
    across = project_to_plane(half.positions[used] - half.positions[used[:1]].sum(axis=0), outward)[0]
    start, item, left = planar_loops(tail, head, across.reshape(2, -1, 2).swapaxes(0, 1), shape.point_count)
    loops = [tail[item[a:b]] for a, b in zip(start, start[1:], strict=False)]
    fillings: list[Filling] = []
    flat = [project_to_plane(half.positions[loop], outward)[0] for loop in loops]
    open_edges = left
    for region in nest_oriented_loops(flat):
        rings = [loops[n] for n in region]
        filling = _filled(half, rings, outward)
        doubtful = open_faces[shape.corner_face[corner[item[start[region[0]]]]]]
        if is_inside is not None and doubtful and not is_inside(_middle(half, filling, outward)[None])[0]:
            open_edges += sum(map(len, rings))
        else:
            fillings.append(filling)
    capped = (
        _with_faces(half, fillings, corner, cap_group)
        if fillings
        else half.with_attribute("face", cap_group, np.zeros(shape.face_count, bool))
    )
    return ClippedHalf(capped, open_edges, open_edges > 0 and bool(open_faces.any()))


def _middle(half: Geo, filling: Filling, normal: AnyArray) -> Floats:
    """Return a place ``(3,)`` inside a filling: the middle of the largest triangle of its first face."""
    size = int(filling.start[1])
    corners = half.positions[filling.point[:size]]
    ring = np.arange(size, dtype=np.int32)
    cut, _ = cut_polygons(corners, np.array([0, size], np.int32), ring, np.asarray(normal, np.float64)[None])
    tri = corners[cut]
    sizes = np.linalg.norm(np.cross(tri[:, 1] - tri[:, 0], tri[:, 2] - tri[:, 0]), axis=1)
    return np.asarray(tri[sizes.argmax()].mean(axis=0))


def _filled(half: Geo, rings: list[AnyArray], outward: AnyArray) -> Filling:
    try:
        return fill_region(half.positions, rings, outward, "polygon", Inside(), half.topology.point_count)
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
            "edge": edges_along(topology, lambda: np.concatenate([shape.corner_edge, np.full(len(points), -1)])),
        },
    )
    return made.with_attribute("face", cap_group, np.arange(topology.face_count) >= shape.face_count)
