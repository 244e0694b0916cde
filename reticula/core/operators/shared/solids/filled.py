"""Faces over open borders and in closed curves put into a mesh, with what its points and corners give them."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, as_readonly
from reticula.core.geometry import Geo, SourceMap, carry, edges_along, kept
from reticula.core.geometry.planar.boundary_loops import loop_normals
from reticula.core.geometry.planar.region_fill import Filling
from reticula.core.geometry.remesh.harmonic import Harmonic

__all__ = ["with_fillings"]


def with_fillings(geo: Geo, fillings: list[Filling], face_source: AnyArray, membrane: bool) -> Geo:
    """Return the mesh with faces added at the end; ``face_source`` is the face each copies, -1 for none.

    Added points blend the values of the border's (harmonic); ``membrane`` lifts them likewise where it is not flat.
    """
    shape = geo.topology
    added = np.concatenate([filling.added for filling in fillings])
    sizes = np.concatenate([np.diff(filling.start) for filling in fillings])
    corners = np.concatenate([filling.point for filling in fillings])
    topology = shape.with_faces(
        shape.point_count + len(added),
        np.concatenate([shape.face_start, shape.face_start[-1] + np.cumsum(sizes)]),
        np.concatenate([shape.corner_point, corners]),
    )
    blend = Harmonic(shape.point_count, topology, shape.face_count) if len(added) else None
    beside = _corner_beside(geo)
    old = np.where(
        corners < shape.point_count,
        beside[np.minimum(corners, max(shape.point_count - 1, 0))] if shape.point_count else -1,
        -1,
    )
    positions = np.concatenate([geo.positions, added])
    if blend is not None and membrane:
        positions = _membrane(geo, blend, positions, fillings)
    return carry(
        geo,
        topology,
        {
            "point": SourceMap(
                as_readonly(np.concatenate([np.arange(shape.point_count), np.full(len(added), -1)]).astype(np.int32)),
                blend,
            ),
            "face": kept(np.concatenate([np.arange(shape.face_count), face_source])),
            "corner": kept(np.concatenate([np.arange(shape.corner_count), old])),
            "edge": edges_along(topology, lambda: np.concatenate([shape.corner_edge, np.full(len(corners), -1)])),
        },
        positions=positions,
    )


def _corner_beside(geo: Geo) -> AnyArray:
    """Some corner at each point ``(P,)``, -1 at points without faces."""
    start, corner = geo.topology.point_corners
    if not len(corner):
        return np.full(geo.topology.point_count, -1)
    return np.where(np.diff(start) > 0, corner[np.minimum(start[:-1], len(corner) - 1)], -1)


def _membrane(geo: Geo, blend: Harmonic, positions: Floats, fillings: list[Filling]) -> Floats:
    """Lift the added points of fillings whose border is not flat to the height of a membrane."""
    count = geo.topology.point_count
    out = positions.copy()
    soft: Floats | None = None
    for filling in fillings:
        inner = np.unique(filling.point[filling.point >= count])
        rim = np.unique(filling.point[filling.point < count])
        normal = loop_normals(positions, filling.start, filling.point).sum(axis=0)
        normal /= max(float(np.linalg.norm(normal)), 1e-300)
        if len(inner) and np.ptp(geo.positions[rim] @ normal) > 1e-9 * np.abs(positions[inner]).max(initial=1.0):
            soft = blend.apply(geo.positions) if soft is None else soft
            out[inner] += ((soft[inner] - positions[inner]) @ normal)[:, None] * normal
    return out
