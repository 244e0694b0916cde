"""Each step of a repair by itself."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.operators.shared.repair_steps import (
    fill_small_holes,
    part_crowded,
    resolve_crossings,
    without_doubles,
)
from tests.helpers import is_closed, volume


def moved(geo: Geo, *by: float) -> Geo:
    return ops.transform(geo, move=by)


def test_doubles_by_kind() -> None:
    box = ops.box()
    made, welded, dropped = without_doubles(ops.join(box, box), 1e-6)
    assert (welded, dropped) == (8, 6)
    assert made.counts["faces"] == 6
    made, welded, dropped = without_doubles(ops.join(box, moved(box, 1, 0, 0)), 1e-6)
    assert (welded, dropped) == (4, 2)
    assert volume(made) == pytest.approx(2)


@pytest.mark.parametrize(
    ("move", "union"), [((0.5, 0.4, 0.3), 1.79), ((0.5, 0, 0), 1.5), ((0.5, 0.25, 0), 1.625), ((1, 0.5, 0), 2)]
)
def test_crossing_boxes_become_one_surface(move: tuple[float, ...], union: float) -> None:
    found = resolve_crossings(ops.join(ops.box(), moved(ops.box(), *move)), 1e-6)
    assert is_closed(found.geo)
    assert volume(found.geo) == pytest.approx(union)
    assert found.cut > 0
    assert found.dropped > 0
    assert found.in_open == 0


def test_a_solid_that_runs_through_itself() -> None:
    """A band that comes back through its own beginning: one part, no second solid to unite with."""
    tube = _band(np.array([[0, 0, 0], [3, 0, 0], [3, 3, 0], [1, 3, 0], [1, -2, 0]], float))
    found = resolve_crossings(tube, 1e-6)
    assert is_closed(found.geo)
    assert volume(found.geo) == pytest.approx(volume(tube) - 0.5 * 0.5 * 0.5)


def _band(at: np.ndarray) -> Geo:
    """A square bar along a path with right angles, mitred at the bends."""
    corners = np.array([[-0.25, -0.25], [0.25, -0.25], [0.25, 0.25], [-0.25, 0.25]])
    rings = []
    ways = np.diff(at, axis=0) / np.linalg.norm(np.diff(at, axis=0), axis=1)[:, None]
    for k, place in enumerate(at):
        before, after = ways[max(k - 1, 0)], ways[min(k, len(ways) - 1)]
        left = np.cross([0, 0, 1], before + after)
        left /= 0.5 * np.linalg.norm(before + after) ** 2 if k and k < len(ways) else np.linalg.norm(left)
        rings.append([place + x * left + y * np.array([0, 0, 1]) for x, y in corners])
    count = len(at)
    faces = [
        [4 * k + i, 4 * k + (i + 1) % 4, 4 * k + 4 + (i + 1) % 4, 4 * k + 4 + i]
        for k in range(count - 1)
        for i in range(4)
    ]
    return ops.orient_faces(
        Geo.from_faces(np.concatenate(rings), [*faces, [3, 2, 1, 0], [4 * count - 4 + i for i in range(4)]])
    )


def test_open_parts_are_cut_and_keep_all() -> None:
    sheet = ops.grid(cells=(1, 1), size=(2, 2))
    crossed = ops.join(sheet, ops.transform(sheet, turn=(0, 0, 90)))
    found = resolve_crossings(crossed, 1e-6)
    assert found.dropped == 0
    assert found.in_open == found.cut == 2
    assert (found.geo.topology.edge_face_count == 4).any(), "they share their points along the crossing"


def test_places_that_nothing_crosses_stay_to_the_bit() -> None:
    far = ops.transform(ops.join(ops.sphere(), moved(ops.box(), 0.5, 0, 0)), move=(1e5, 3e5, 0.1))
    made = resolve_crossings(far, 1e-6).geo
    kept = {tuple(row) for row in far.positions}
    assert sum(tuple(row) in kept for row in made.positions) > 0.5 * len(far.positions)


@pytest.mark.parametrize("drop", [False, True])
def test_fins_are_parted_or_dropped(drop: bool) -> None:
    box = ops.box()
    edge = box.topology.edges[0]
    points = np.concatenate([box.positions, box.positions[edge] * 2])
    faces = [*map(list, box.topology.corner_point.reshape(-1, 4)), [edge[0], edge[1], 9, 8]]
    parted = part_crowded(Geo.from_faces(points, faces), drop)
    assert parted.edges == 1
    assert parted.added == 2
    assert parted.dropped == (1 if drop else 0)
    assert parted.geo.counts["faces"] == (6 if drop else 7)


def test_small_holes_only() -> None:
    ball = ops.remove(ops.sphere(segments=24, rings=12), where="index == 100 or position.y > 0.4")
    made, closed, longer = fill_small_holes(ball, 1.0)
    assert (closed, longer) == (1, 1)
    made, closed, longer = fill_small_holes(ball, 10.0)
    assert (closed, longer) == (2, 0)
    assert is_closed(made)
