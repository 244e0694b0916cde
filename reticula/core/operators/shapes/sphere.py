"""Spheres: by rings and segments, or geodesic."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, starts_from_sizes
from reticula.core.geometry import Geo, Topology
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Integer, Number
from reticula.core.operators.shared.lattice import lattice_quads, lattice_uv

__all__ = ["geodesic_sphere", "sphere"]


@operator(
    "sphere",
    family="shapes",
    inputs=(),
    keywords=("ball", "globe"),
    carries="makes the corner attribute uv",
    example="""
        sphere(radius=0.5, rings=20, segments=40)
    """,
    related=("geodesic_sphere", "torus", "disc"),
    parameters=(
        Number("radius", 0.5, "distance of the points from the origin", unit="m", soft=(0, 5), low=0.0),
        Integer("rings", 16, "faces from pole to pole", soft=(2, 100), low=2, high=4000),
        Integer("segments", 32, "faces around", soft=(3, 200), low=3, high=8000),
    ),
)
def sphere(*, radius: float, rings: int, segments: int) -> Geo:
    """Sphere of quads, with triangles at both poles on the y axis."""
    angle = np.linspace(0, np.pi, rings + 1)[1:-1][:, None]
    turn = (np.arange(segments) * (2 * np.pi / segments))[None, :]
    x, z = np.sin(angle) * np.sin(turn), np.sin(angle) * np.cos(turn)
    y = np.broadcast_to(np.cos(angle), x.shape)
    body = np.stack([x, y, z], axis=-1).reshape(-1, 3)
    positions = np.concatenate([[[0.0, 1.0, 0.0]], body, [[0.0, -1.0, 0.0]]]) * radius
    around = np.arange(segments)
    after = (around + 1) % segments
    last = (rings - 2) * segments
    top = np.stack([np.zeros_like(around), around + 1, after + 1], axis=1)
    bottom = np.stack([after + last + 1, around + last + 1, np.full(segments, len(body) + 1)], axis=1)
    middle = lattice_quads(rings - 1, segments, wrap_columns=True)[:, [0, 3, 2, 1]] + 1
    sizes = np.concatenate([np.full(segments, 3), np.full(len(middle), 4), np.full(segments, 3)])
    corners = np.concatenate([top.reshape(-1), middle.reshape(-1), bottom.reshape(-1)])
    uv = lattice_uv(rings, segments).reshape(rings, segments, 4, 2)
    uv[..., 1] = 1.0 - uv[..., 1]
    uv = uv[:, :, [0, 3, 2, 1]]
    cap = uv[0][:, [0, 1, 2]].copy()
    cap[:, 0, 0] = (around + 0.5) / segments
    foot = uv[-1][:, [3, 0, 2]].copy()
    foot[:, 2, 0] = (around + 0.5) / segments
    parts = [cap.reshape(-1, 2), uv[1:-1].reshape(-1, 2), foot.reshape(-1, 2)]
    shape = Topology(len(positions), starts_from_sizes(sizes), corners)
    return Geo.of(positions, shape).with_attribute("corner", "uv", np.concatenate(parts))


@operator(
    "geodesic_sphere",
    family="shapes",
    inputs=(),
    keywords=("ball", "icosahedron", "triangles", "dome"),
    carries="makes no attributes",
    example="""
        geodesic_sphere(radius=0.5, frequency=8)
    """,
    related=("sphere", "dual", "struts"),
    parameters=(
        Number("radius", 0.5, "distance of the points from the origin", unit="m", soft=(0, 5), low=0.0),
        Integer("frequency", 6, "parts that each edge of the icosahedron is cut into", soft=(1, 40), low=1, high=500),
    ),
)
def geodesic_sphere(*, radius: float, frequency: int) -> Geo:
    """Sphere of nearly equal triangles: an icosahedron, its faces cut and pushed out.

    It has 20 frequency² faces and 10 frequency² + 2 points (class I breakdown: Kenner, "Geodesic Math", 1976).
    """
    solid, sides = _icosahedron()
    n = frequency
    i, j = np.meshgrid(np.arange(n + 1), np.arange(n + 1), indexing="ij")
    keep = i + j <= n
    weight = np.stack([n - i[keep] - j[keep], i[keep], j[keep]], axis=1)
    number = np.full((n + 1, n + 1), -1)
    number[keep] = np.arange(len(weight))
    up = (i + j < n).nonzero()
    down = (i + j < n - 1).nonzero()
    small = np.concatenate(
        [
            np.stack([number[up], number[up[0] + 1, up[1]], number[up[0], up[1] + 1]], axis=1),
            np.stack(
                [number[down[0] + 1, down[1]], number[down[0] + 1, down[1] + 1], number[down[0], down[1] + 1]], axis=1
            ),
        ]
    )
    full = np.zeros((20, len(weight), 12), np.int64)
    np.put_along_axis(full, np.broadcast_to(sides[:, None, :], (20, len(weight), 3)), weight[None], axis=2)
    base = (n + 1) ** np.arange(6)
    keys = np.stack([full[..., :6] @ base, full[..., 6:] @ base], axis=-1).reshape(-1, 2)
    _, first, index = np.unique(keys, axis=0, return_index=True, return_inverse=True)
    places = full.reshape(-1, 12)[first] @ solid
    positions = places / np.linalg.norm(places, axis=1, keepdims=True) * radius
    faces = index.reshape(20, -1)[:, small].reshape(-1, 3)
    return Geo.from_faces(positions, faces)


def _icosahedron() -> tuple[Floats, AnyArray]:
    golden = (1 + 5**0.5) / 2
    points = [(s * a, s2 * b) for a, b in ((1.0, golden),) for s in (-1, 1) for s2 in (-1, 1)]
    solid = np.array([np.roll((0.0, a, b), turn) for turn in range(3) for a, b in points])
    near = np.linalg.norm(solid[:, None] - solid[None], axis=2)
    touches = np.isclose(near, 2.0)
    sides = [
        (a, b, c) if np.dot(np.cross(solid[b] - solid[a], solid[c] - solid[a]), solid[a]) > 0 else (a, c, b)
        for a in range(12)
        for b in range(a + 1, 12)
        for c in range(b + 1, 12)
        if touches[a, b] and touches[b, c] and touches[a, c]
    ]
    return solid, np.array(sides)
