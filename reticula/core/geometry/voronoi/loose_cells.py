"""Cells cut by some of their neighbours only: each by itself, so that they may overlap."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.geometry.edit.plane_clip import clip_half, cut_by_plane
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.voronoi.diagram import Diagram

__all__ = ["loose_cells", "select_neighbours"]

RIM, CAP, INNER = "_rim", "_cap", "_inner"


def select_neighbours(diagram: Diagram, most: int, reach: float) -> AnyArray:
    """Return which entries of ``diagram.near`` count: the ``most`` nearest of each cell (0: all) within ``reach`` m
    (0: any).
    """
    sizes = np.diff(diagram.near_start)
    owner = np.repeat(np.arange(diagram.count), sizes)
    rank = np.arange(len(owner)) - np.repeat(diagram.near_start[:-1], sizes)
    far = np.linalg.norm(diagram.centers[owner] - diagram.centers[diagram.near], axis=1)
    return ((rank < most) | (most == 0)) & ((far <= reach) | (reach == 0.0))


def loose_cells(
    geo: Geo, diagram: Diagram, counts: AnyArray, cells: AnyArray, *, cap: bool
) -> list[tuple[int, Geo, AnyArray]]:
    """Cut ``geo`` for each of ``cells`` by the bisectors towards those of its neighbours that count, nearest first.

    Returns the number of each cell of which something is left, the piece, and which of its faces are inner ones.
    """
    made = []
    marked = geo.with_attribute("face", INNER, np.zeros(geo.topology.face_count, bool))
    for cell in cells:
        begin, end = diagram.near_start[cell], diagram.near_start[cell + 1]
        piece = marked
        for other in diagram.near[begin:end][counts[begin:end]]:
            piece = _cut_off(piece, diagram.centers[cell], diagram.centers[other], cap)
            if not piece.topology.face_count:
                break
        else:
            inner = piece.group("face", INNER)
            for kind, name in (("face", INNER), ("face", CAP), ("edge", RIM)):
                piece = piece.without_attribute(kind, name) if piece.has(kind, name) else piece  # type: ignore[arg-type]
            made.append((int(cell), piece, inner))
    return made


def _cut_off(piece: Geo, center: Floats, other: Floats, cap: bool) -> Geo:
    """Return what lies nearer to ``center`` than to ``other``."""
    normal = (other - center) / np.linalg.norm(other - center)
    whole, side, height = cut_by_plane(piece, (center + other) / 2.0, normal, RIM)
    half = clip_half(whole, side, height, -1.0, normal, RIM, CAP, cap=cap).geo
    inner = half.group("face", INNER) | half.group("face", CAP)
    return half.with_attribute("face", INNER, inner)
