"""How far a simplified surface lies from the one before, by libigl: distances from samples of each to the other."""

from __future__ import annotations

import igl
import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting

SPLITS = 6


def samples(geo: Geo) -> tuple[np.ndarray, np.ndarray]:
    """Places all over the triangles of a mesh, its points included, and the triangles."""
    faces = geo.topology.corner_point.reshape(-1, 3).astype(np.int64)
    share = np.array([(i, j, SPLITS - i - j) for i in range(SPLITS + 1) for j in range(SPLITS + 1 - i)]) / SPLITS
    return np.einsum("sk,fki->fsi", share, geo.positions[faces]).reshape(-1, 3), faces


def farthest(one: Geo, other: Geo) -> float:
    """The Hausdorff distance, from below."""
    far = 0.0
    for a, b in ((one, other), (other, one)):
        squares, _, _ = igl.point_mesh_squared_distance(samples(a)[0], np.array(b.positions), samples(b)[1])
        far = max(far, float(np.sqrt(squares.max())))
    return far


def rough(seed: int, kind: str) -> Geo:
    rng = np.random.default_rng(seed)
    shape = ops.sphere(segments=24, rings=16) if kind == "ball" else ops.grid(cells=(20, 20))
    shape = ops.triangulate(shape)
    return shape.with_positions(shape.positions + rng.normal(size=shape.positions.shape) * rng.uniform(0, 0.02))


@pytest.mark.parametrize("kind", ["ball", "sheet"])
@pytest.mark.parametrize(("scale", "far"), [(1.0, 0.0), (1e-3, 0.0), (1e3, 1e6)])
@pytest.mark.parametrize("seed", range(6))
def test_the_error_is_a_bound(kind: str, scale: float, far: float, seed: int) -> None:
    error = 0.002 * 2.5**seed
    shape = ops.transform(rough(seed, kind), scale=(scale,) * 3, move=(far, -far, far))
    with collecting():
        made = ops.simplify(shape, to="error", error=error * scale)
    local = [geo.with_positions(geo.positions - [far, -far, far]) for geo in (shape, made)]
    assert farthest(*local) <= (1 + 1e-9) * error * scale + 1e-9 * (far != 0.0)
    assert made.counts["faces"] <= shape.counts["faces"]
