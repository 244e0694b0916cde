"""Checks: what is wrong with a geometry, at which elements, and which operator mends it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.arrays import Floats, Ints, as_rows
from reticula.core.finite import all_finite
from reticula.core.geometry.edit.double_faces import find_double_faces
from reticula.core.geometry.measure.areas import face_areas, face_planarity
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import KINDS, PLURAL, Kind
from reticula.core.geometry.validation.point_checks import fan_counts, near_points
from reticula.core.geometry.validation.uv_overlaps import overlapping_faces

__all__ = ["CHECKS", "REMARKS", "Finding", "corner_uv", "find_defects", "find_remarks"]

BENT = 0.02
"""From which planarity on a face counts as not flat: a rise of a fiftieth of its size."""
FLAT_SHARE = 1e-12
"""A face below this share of the squared size of the whole has no area."""
NEAR_SHARE = 1e-6
"""Points nearer than this share of the size of the whole are nearly in one place."""


@dataclass(frozen=True)
class Finding:
    """One trouble: its name, the elements that have it, what it means, and the operator (with parameters) that mends
    it.
    """

    name: str
    kind: Kind
    elements: Ints
    help: str
    repair: tuple[str, dict[str, Any]] | None = None


def find_defects(geo: Geo) -> list[Finding]:
    """Return all that is found wrong; nothing if all is well."""
    return [found for check in CHECKS for found in check(geo) if len(found.elements)]


def find_remarks(geo: Geo) -> list[Finding]:
    """Return what may be meant or not."""
    return [found for check in REMARKS for found in check(geo) if len(found.elements)]


def _open_borders(geo: Geo) -> list[Finding]:
    found = np.flatnonzero(geo.topology.border_edges)
    return [Finding("open borders", "edge", found, "edges with a face on one side only", ("fill", {}))]


def _crowded_edges(geo: Geo) -> list[Finding]:
    shape = geo.topology
    uses = shape.edge_face_count
    return [
        Finding(
            "crowded edges",
            "edge",
            np.flatnonzero(uses > 2),
            "edges with more than two faces, where no inside can be told",
            ("repair", {}),
        )
    ]


def _pinched_points(geo: Geo) -> list[Finding]:
    """Points whose faces are not one fan: corners of a point hang together where their faces share an edge at it."""
    fans = fan_counts(geo.topology)
    return [
        Finding(
            "pinched points",
            "point",
            np.flatnonzero(fans > 1),
            "points where faces meet that share no edge there",
            ("repair", {}),
        )
    ]


def _turned_faces(geo: Geo) -> list[Finding]:
    """Faces that run along a shared edge the same way as their neighbour: one of the two is inside out."""
    shape = geo.topology
    if not shape.corner_count:
        return []
    forward = shape.corner_point < shape.corner_point[shape.corner_next]
    ways = np.bincount(shape.corner_edge, forward, minlength=shape.edge_count)
    wrong = (shape.edge_face_count == 2) & (ways != 1)
    touched = wrong[shape.corner_edge]
    shares = np.bincount(shape.corner_face, touched, minlength=shape.face_count) / np.maximum(
        np.diff(shape.face_start), 1
    )
    return [
        Finding(
            "turned faces",
            "face",
            np.flatnonzero(shares > 0.5),
            "faces that look the other way than most of their neighbours",
            ("orient_faces", {}),
        )
    ]


def _bent_faces(geo: Geo) -> list[Finding]:
    found = np.flatnonzero(face_planarity(geo) > BENT)
    return [Finding("bent faces", "face", found, "faces whose points do not lie in one plane", ("triangulate", {}))]


def _size(geo: Geo) -> float:
    return float(np.linalg.norm(geo.bounds[1] - geo.bounds[0]))


def _empty_faces(geo: Geo) -> list[Finding]:
    found = np.flatnonzero(face_areas(geo) <= FLAT_SHARE * _size(geo) ** 2)
    return [Finding("faces without area", "face", found, "faces that are a line or a point", ("repair", {}))]


def _double_faces(geo: Geo) -> list[Finding]:
    """Faces on the points of another, either way around: all but the first of each, of walls between solids both."""
    found = find_double_faces(geo.topology)
    doubles = np.flatnonzero(found.copies | found.walls | found.backs)
    return [
        Finding("double faces", "face", doubles, "faces that lie on the same points as another one", ("repair", {}))
    ]


def _loose_points(geo: Geo) -> list[Finding]:
    shape = geo.topology
    found = np.flatnonzero(~shape.used_points) if shape.face_count or shape.curve_count else np.zeros(0, np.int64)
    return [Finding("loose points", "point", found, "points that no face and no curve uses", ("remove", {}))]


def _near_points(geo: Geo) -> list[Finding]:
    """Points that lie in nearly the same place as another one of them."""
    found = near_points(geo.positions, NEAR_SHARE * max(_size(geo), 1e-300))
    return [
        Finding(
            "points in one place",
            "point",
            found,
            "points that lie on each other without being one",
            ("weld", {}),
        )
    ]


def corner_uv(geo: Geo) -> Floats | None:
    """Return uv at each corner ``(C, 2)``, its own or that of its point; None if there is none with two numbers or
    three.
    """
    for kind in ("corner", "point"):
        if geo.has(kind, "uv") and geo.find(kind, "uv").type in ("vec2", "vec3"):
            values = geo.find(kind, "uv").values[:, :2]
            return values if kind == "corner" else values[geo.topology.corner_point]
    return None


def _uv_overlaps(geo: Geo) -> list[Finding]:
    uv = corner_uv(geo)
    if uv is None:
        return []
    found = np.flatnonzero(overlapping_faces(geo, uv))
    return [Finding("uv overlaps", "face", found, "faces that lie over others on the uv sheet")]


def _not_numbers(geo: Geo) -> list[Finding]:
    found = []
    for kind in KINDS:
        for name, attribute in geo.attributes[kind].items():
            values = attribute.values
            if attribute.start is not None or all_finite(values):
                continue
            bad = np.flatnonzero(~np.isfinite(as_rows(values)).all(axis=1))
            text = f"{PLURAL[kind]} at which '{name}' is not a finite number"
            found.append(
                Finding(f"no numbers in {name}", kind, bad, text, ("set_attribute", {"kind": kind, "name": name}))
            )
    return found


CHECKS: tuple[Callable[[Geo], list[Finding]], ...] = (
    _open_borders,
    _crowded_edges,
    _pinched_points,
    _turned_faces,
    _bent_faces,
    _empty_faces,
    _double_faces,
    _loose_points,
    _near_points,
    _not_numbers,
)
REMARKS: tuple[Callable[[Geo], list[Finding]], ...] = (_uv_overlaps,)
"""What is often meant to be so, as where a pattern repeats: told when asked, but nothing wrong by itself."""
