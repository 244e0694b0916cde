"""Halves of a mesh against its volume by the divergence theorem, whatever shells, solids and gaps it is made of."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from tests.helpers import bumpy, is_closed, volume


def halves(geo: Geo, **how: object) -> tuple[Geo, Geo]:
    with collecting():
        above, below = ops.slice(geo, **how)
    return above, below


def box(size: float, *at: float) -> Geo:
    return ops.transform(ops.box(size=(size, size, size)), move=at or (0.0, 0.0, 0.0))


def welded(*parts: Geo) -> Geo:
    with collecting():
        return ops.weld(ops.join(*parts), radius=1e-9)


SOLIDS = {
    "nested shells": (ops.join(box(2), box(1)), 4.5, 4.5),
    "a hollow": (ops.join(box(2), ops.reverse(box(1))), 3.5, 3.5),
    "an island in a hollow": (ops.join(box(4), ops.reverse(box(2)), box(1)), 28.5, 28.5),
    "a hollow turned out": (ops.join(ops.reverse(box(2)), box(1)), -3.5, -3.5),
    "overlapping": (ops.join(box(1), box(1, 0.5, 0.1, 0.2), box(1, 0.3, 0.2, 0.6), box(1, -0.4, -0.2, 0.1)), 2.1, 1.9),
    "touching along a face": (welded(box(1), box(1, 1, 0, 0)), 1, 1),
    "touching along an edge": (welded(box(1), box(1, 1, 0, 1)), 1, 1),
    "touching in one point of the cut": (welded(box(1, 0.5, 0.5, 0.5), box(1, -0.5, -0.5, -0.5)), 1, 1),
}


@pytest.mark.parametrize("name", SOLIDS)
def test_both_halves_have_their_volume_and_no_open_edge(name: str) -> None:
    solid, above, below = SOLIDS[name]
    made = halves(solid)
    assert [volume(half) for half in made] == pytest.approx([above, below], abs=1e-12)
    for half in made:
        shape = half.topology
        way = np.where(shape.corner_point == shape.edges[shape.corner_edge, 0], 1, -1)
        assert not np.bincount(shape.corner_edge, way).any(), "every edge is run along as often in both ways"


@given(st.integers(0, 10**6), st.integers(1, 6))
def test_any_heap_of_balls_is_closed_again(seed: int, count: int) -> None:
    rng = np.random.default_rng(seed)
    balls = [ops.transform(bumpy(seed + n, 2), move=tuple(rng.uniform(-1, 1, 3))) for n in range(count)]
    heap = ops.join(*balls)
    above, below = halves(heap, direction=tuple(rng.normal(size=3)), through=tuple(rng.uniform(-0.3, 0.3, 3)))
    assert is_closed(above)
    assert is_closed(below)
    assert volume(above) + volume(below) == pytest.approx(volume(heap), rel=1e-9)


def test_a_terrain_keeps_its_outline_open() -> None:
    flat = ops.grid(size=(4, 4), cells=(40, 40))
    x, _, z = flat.positions.T
    hills = flat.with_positions(np.stack([x, 0.4 * np.sin(3 * x) * np.cos(3 * z), z], axis=1))
    for half in halves(hills, through=(0, 0.1, 0)):
        assert not half.group("face", "cap").any()


def test_a_scan_with_a_small_hole_is_still_closed_at_the_cut() -> None:
    scan = ops.remove(ops.geodesic_sphere(frequency=12), kind="face", where="index == 5")
    above, below = halves(scan)
    assert above.group("face", "cap").any()
    assert above.topology.border_edges.sum() + below.topology.border_edges.sum() == 3


def test_a_solid_beside_a_terrain_gets_its_lid() -> None:
    ground = ops.transform(ops.grid(size=(9, 9)), move=(0, -0.6, 0))
    above, below = halves(ops.join(box(1), ground))
    assert above.group("face", "cap").sum() == 1
    assert volume(above) == pytest.approx(0.5)
    assert below.group("face", "cap").sum() == 1


def test_an_open_rim_in_the_plane_is_not_closed() -> None:
    tub = ops.remove(ops.box(size=(2, 2, 2)), kind="face", where="normal.y > 0.5")
    _, below = halves(tub, through=(0, 1, 0))
    assert not below.group("face", "cap").any()
    assert below.topology.border_edges.sum() == 4
