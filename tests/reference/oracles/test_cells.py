"""Solids broken into cells: volumes in closed form, wherever the solids stand and however they are nested."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial import ConvexHull, HalfspaceIntersection

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.voronoi.diagram import diagram_of
from tests.helpers import is_closed, volume

BOX = ops.box()
SMALL = ops.box(size=(0.5, 0.5, 0.5))
SOLIDS: dict[str, tuple[Callable[[], Geo], float]] = {
    "a box": (lambda: BOX, 1.0),
    "a hollow box": (lambda: ops.join(BOX, ops.reverse(SMALL)), 0.875),
    "a box in a box, both outwards": (lambda: ops.join(BOX, SMALL), 1.125),
    "a box in the hollow of a box": (
        lambda: ops.join(BOX, ops.reverse(SMALL), ops.box(size=(0.25, 0.25, 0.25))),
        0.875 + 0.25**3,
    ),
    "two that overlap": (lambda: ops.join(BOX, ops.transform(BOX, move=(0.3, 0.2, 0.1))), 2.0),
    "two that share an edge": (lambda: ops.weld(ops.join(BOX, ops.transform(BOX, move=(1, 1, 0)))), 2.0),
    "two that share a face's place": (lambda: ops.join(BOX, ops.transform(BOX, move=(1, 0, 0))), 2.0),
}


def centers(seed: int, count: int) -> Geo:
    return Geo.of(np.random.default_rng(seed).uniform(-0.5, 1.2, (count, 3)))


@pytest.mark.parametrize("name", SOLIDS)
@given(seed=st.integers(0, 10_000), count=st.integers(1, 60))
def test_pieces_are_closed_and_make_up_the_whole(name: str, seed: int, count: int) -> None:
    make, whole = SOLIDS[name]
    with collecting() as notes:
        made = ops.break_into_cells(make(), centers(seed, count))
    assert is_closed(made)
    assert (made.topology.edge_face_count == 2).all()
    assert volume(made) == pytest.approx(whole)
    assert [entry.text for entry in notes if entry.level == "warning"] == []


@pytest.mark.parametrize("scale", [1e-3, 1.0, 1e3])
@pytest.mark.parametrize("far", [0.0, 1e4, 1e6])
def test_where_it_stands_and_how_large_it_is_change_nothing(scale: float, far: float) -> None:
    place = {"scale": (scale,) * 3, "move": (far, -far, far / 2)}
    with collecting():
        made = ops.break_into_cells(ops.transform(BOX, **place), ops.transform(centers(1, 40), **place))
        here = ops.break_into_cells(BOX, centers(1, 40))
        back = ops.transform(made, move=(-far, far, -far / 2))
    assert is_closed(made)
    assert made.counts == here.counts
    assert volume(back) / scale**3 == pytest.approx(1, abs=1e-6 if far and scale < 1 else 1e-9)


@given(seed=st.integers(0, 10_000))
def test_each_place_of_a_piece_is_nearest_to_its_own_centre(seed: int) -> None:
    spots = centers(seed, 20)
    with collecting():
        made = ops.break_into_cells(BOX, spots)
    far = np.linalg.norm(made.positions[:, None] - spots.positions[None], axis=2)
    own = far[np.arange(len(far)), made.attribute("point", "cell")]
    assert (own <= far.min(axis=1) + 1e-6).all()


@settings(derandomize=True)
@given(seed=st.integers(0, 10_000), count=st.integers(2, 40), most=st.integers(1, 10))
@pytest.mark.parametrize("far", [0.0, 1e5])
def test_pieces_with_few_neighbours_beside_half_spaces(seed: int, count: int, most: int, far: float) -> None:
    """Each piece of a box is the box cut by the half-spaces towards its neighbours (scipy's HalfspaceIntersection)."""
    centers = np.random.default_rng(seed).uniform(-0.5, 0.5, (count, 3))
    box, places = ops.box(), Geo.of(centers + far)
    with collecting():
        made = ops.break_into_cells(ops.transform(box, move=(far,) * 3), places, most_neighbours=most)
    made = made.with_positions(made.positions - far)
    assert is_closed(made)
    cell = made.attribute("face", "cell")
    diagram = diagram_of(centers, *box.bounds)
    near, near_start = diagram.near, diagram.near_start
    sides = np.concatenate([np.eye(3), -np.eye(3)])
    walls = np.c_[sides, np.full(6, -0.5)]
    for number in range(count):
        away = np.linalg.norm(centers - centers[number], axis=1)
        piece = subset(made, cell == number)
        volumes = []
        for order in (near[near_start[number] : near_start[number + 1]][:most], np.argsort(away)[1:]):
            way = centers[order] - centers[number]
            middle = 0.5 * (centers[order] + centers[number])
            planes = np.c_[way, -np.einsum("ij,ij->i", way, middle)]
            corners = HalfspaceIntersection(np.concatenate([walls, planes]), centers[number]).intersections
            volumes.append(ConvexHull(corners).volume)
        assert volume(piece) == pytest.approx(volumes[0], rel=1e-4, abs=1e-7)
        assert volumes[0] >= volumes[1] - 1e-9
