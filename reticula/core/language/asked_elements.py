"""The words for all elements of a kind of an input, e.g. ``mean(source.points.cover)``."""

from __future__ import annotations

from collections.abc import Mapping

from reticula.core.geometry.mesh.kinds import Kind

__all__ = ["ASKED"]

ASKED: Mapping[str, Kind] = {
    "points": "point",
    "edges": "edge",
    "corners": "corner",
    "faces": "face",
    "curves": "curve",
    "instances": "instance",
}
