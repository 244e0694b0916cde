"""Places in triangles as weights of their corners."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats

__all__ = ["barycentric"]


def barycentric(corner: Floats, place: Floats) -> Floats:
    """Return weights ``(N, 3)`` of a place ``(N, 3)`` in each triangle ``(N, 3, 3)``, clipped to the triangle.

    Ericson, "Real-Time Collision Detection", 3.4. A triangle without area gives its first corner.
    """
    a, b, c = corner[:, 0], corner[:, 1], corner[:, 2]
    normal = np.cross(b - a, c - a)
    area = np.maximum(np.einsum("ij,ij->i", normal, normal), 1e-300)
    second = np.einsum("ij,ij->i", np.cross(place - a, c - a), normal) / area
    third = np.einsum("ij,ij->i", np.cross(b - a, place - a), normal) / area
    weight = np.clip(np.stack([1 - second - third, second, third], axis=1), 0.0, 1.0)
    return weight / weight.sum(axis=1, keepdims=True)
