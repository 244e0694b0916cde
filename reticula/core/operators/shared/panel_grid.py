"""The two coordinates over a surface by which it is divided into panels, and how long one step of them is."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, measure
from reticula.core.geometry.edit.split_points import split_along_edges
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.validation.checks import corner_uv

__all__ = ["Chart", "chart_of", "parted_at_seams"]

SAME = 1e-9
"""Coordinates that differ by less than this share of their range are the same."""


class Chart(NamedTuple):
    """Two coordinates per corner ``at (C, 2)``, from 0 to 1 over the marked faces; the metres ``size (2,)`` that their
    range measures on the surface, as a mean by area; and whether the surface goes on from 1 to 0, ``wraps (2,)``.
    """

    at: Floats
    size: Floats
    wraps: Flags


def chart_of(geo: Geo, where: Flags, over: str) -> Chart:
    """Return the coordinates of the marked faces ``(F,)`` by their ``uv``, or laid ``flat`` along their mean normal.

    Flat, the first goes along their longest extent (principal axis); where there is no uv, they are laid flat, which is
    said. GeometryError where they have no extent.
    """
    at = corner_uv(geo) if over == "uv" else None
    if at is None:
        at = _laid_flat(geo, where)
        if over == "uv":
            warn("The surface has no uv, so it is laid flat along its mean normal.")
    own = at[where[geo.topology.corner_face]]
    low, reach = own.min(axis=0), np.ptp(own, axis=0)
    if (reach <= 0.0).any():
        raise GeometryError("the surface has no extent over its coordinates; give one that has area over them")
    flat = (at - low) / reach
    return Chart(flat, _metres(geo, where, flat), _wraps(geo, where, flat))


def _laid_flat(geo: Geo, where: Flags) -> Floats:
    """Coordinates ``(C, 2)`` in the plane across the mean normal; of what closes, in that of its largest extents."""
    shape = geo.topology
    place = geo.positions[shape.corner_point]
    own = place[where[shape.corner_face]]
    away = own - own.mean(axis=0)
    normal = measure.area_vectors(geo)[where].sum(axis=0)
    length = float(np.linalg.norm(normal))
    if length > 1e-9 * float(measure.face_areas(geo)[where].sum()):
        normal = normal / length
    else:
        normal = _with_sign(_axis(away, 0), away)
        warn("The surface closes, so its front and back are divided alike; mark a part of it, or use its uv.")
    flat = away - _along(away, normal)[:, None] * normal
    along = _axis(flat, 2)
    along = along - float((along * normal).sum()) * normal
    along = _with_sign(along / np.linalg.norm(along), flat)
    return np.stack([_along(place, along), _along(place, np.cross(normal, along))], axis=1)


def _along(places: Floats, axis: Floats) -> Floats:
    return np.asarray(np.einsum("ij,j->i", places, axis))


def _axis(away: Floats, rank: int) -> Floats:
    """The principal axis of places about their middle along which they reach least (0) to farthest (2)."""
    return np.asarray(np.linalg.eigh(np.einsum("ni,nj->ij", away, away))[1][:, rank])


def _with_sign(axis: Floats, away: Floats) -> Floats:
    """An axis turned towards where the places ``away (N, 3)`` from their middle reach farther."""
    return -axis if (_along(away, axis) ** 3).sum() < 0.0 else axis


def _metres(geo: Geo, where: Flags, flat: Floats) -> Floats:
    """How many metres a step of 1 along each coordinate is, as a mean by area over the marked faces ``(2,)``."""
    cut = triangles(geo)
    corner = cut.corner[where[cut.face]]
    place = geo.positions[geo.topology.corner_point[corner]]
    side, step = place[:, 1:] - place[:, :1], flat[corner][:, 1:] - flat[corner][:, :1]
    area = step[:, 0, 0] * step[:, 1, 1] - step[:, 0, 1] * step[:, 1, 0]
    good = np.abs(area) > 1e-14
    side, step, area = side[good], step[good], area[good]
    weight = np.linalg.norm(np.cross(side[:, 0], side[:, 1]), axis=1)
    first = (side[:, 0] * step[:, 1, 1:] - side[:, 1] * step[:, 0, 1:]) / area[:, None]
    second = (side[:, 1] * step[:, 0, :1] - side[:, 0] * step[:, 1, :1]) / area[:, None]
    total = max(float(weight.sum()), 1e-300)
    return np.array([float(weight @ np.linalg.norm(way, axis=1)) / total for way in (first, second)])


def _wraps(geo: Geo, where: Flags, flat: Floats) -> Flags:
    shape = geo.topology
    own = np.flatnonzero((shape.corner_across >= 0) & where[shape.corner_face])
    step = np.abs(flat[own] - flat[shape.corner_next[shape.corner_across[own]]])
    return np.asarray((np.abs(step - 1.0) < SAME).any(axis=0))


def parted_at_seams(geo: Geo, at: Floats) -> Geo:
    """Return the mesh with its faces parted where the coordinates of corners ``at (C, 2)`` differ across an edge."""
    shape = geo.topology
    across = shape.corner_across
    own = np.flatnonzero(across >= 0)
    other = across[own]
    begin = np.abs(at[own] - at[shape.corner_next[other]])
    end = np.abs(at[shape.corner_next[own]] - at[other])
    apart = np.maximum(begin.max(axis=1), end.max(axis=1)) > SAME
    seam = np.zeros(shape.edge_count, bool)
    seam[shape.corner_edge[own[apart]]] = True
    return split_along_edges(geo, seam)
