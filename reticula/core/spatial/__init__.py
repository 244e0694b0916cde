"""Nearest points, closest places on a surface, and rays: one interface for operators and the language."""

from reticula.core.spatial.points import NearestPoints, points_of
from reticula.core.spatial.surface import Places, Surface, surface_of

__all__ = ["NearestPoints", "Places", "Surface", "points_of", "surface_of"]
