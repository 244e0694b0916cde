"""Repaired heaps of solids beside the union by the Manifold library: volume, and closed."""

import numpy as np
import pytest
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from tests.helpers import is_closed, volume


def heap(seed: int) -> list[Geo]:
    """Some solids, half of them on a grid, so that faces lie in one plane and edges on edges."""
    rng = np.random.default_rng(seed)
    made = []
    for _ in range(rng.integers(2, 6)):
        ball = ops.sphere(segments=int(rng.integers(5, 16)), rings=int(rng.integers(3, 9)))
        solid = [ops.box(), ball, ops.cylinder()][rng.integers(3)]
        if rng.random() < 0.5:
            made.append(ops.transform(solid, move=tuple(rng.integers(-2, 3, 3) * 0.25)))
        else:
            turn = tuple(rng.uniform(0, 360, 3)) if rng.random() < 0.5 else (0, 0, 0)
            made.append(
                ops.transform(
                    solid, move=tuple(rng.uniform(-0.6, 0.6, 3)), scale=tuple(rng.uniform(0.3, 1.2, 3)), turn=turn
                )
            )
    return made


def lies_within(inner: Geo, outer: Geo) -> bool:
    return bool((inner.bounds[0] >= outer.bounds[0]).all() and (inner.bounds[1] <= outer.bounds[1]).all())


@pytest.mark.parametrize(("scale", "far"), [(1.0, 0.0), (1e-3, 0.0), (1e3, 1e6)])
@settings(derandomize=True)
@given(seed=st.integers(0, 100_000))
@example(seed=1349)
@example(seed=1001)
@example(seed=4653)
def test_beside_manifold(scale: float, far: float, seed: int) -> None:
    solids = heap(seed)
    assume(not any(lies_within(a, b) for a in solids for b in solids if a is not b))
    with collecting():
        union = volume(ops.boolean(*solids, operation="union"))
        made = ops.repair(ops.transform(ops.join(*solids), scale=(scale,) * 3, move=(far, -far, far)))
    assert is_closed(made)
    local = made.with_positions((made.positions - [far, -far, far]) / scale)
    assert volume(local) == pytest.approx(union, abs=1e-5)
