"""Repair: steps with counts, each a toggle; what is in order stays."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from tests.helpers import bumpy, is_closed, volume


def broken() -> Geo:
    """Two boxes through each other, one inside out with a copy of a side, one with a hole; a needle and a fin."""
    first = ops.reverse(ops.box())
    first = ops.join(first, ops.remove(first, where="index > 0"))
    second = ops.transform(ops.box(), move=(0.5, 0.4, 0.3))
    return ops.join(first, second)


def test_what_is_in_order_stays(notes: list[Note]) -> None:
    ball = bumpy(3)
    made = ops.repair(ball)
    assert np.array_equal(made.positions, ball.positions)
    assert np.array_equal(made.topology.corner_point, ball.topology.corner_point)
    assert [note.text for note in notes] == ["Nothing was found to mend."]
    assert not made.group("face", "filled").any()


def test_all_at_once_with_counts(notes: list[Note]) -> None:
    made = ops.repair(broken())
    assert is_closed(made)
    assert volume(made) == pytest.approx(1.79)
    said = [note.text.partition(":")[0] for note in notes if not note.text.startswith("Removed")]
    assert said == [
        "Points in one place welded",
        "Double faces dropped",
        "Faces turned over",
        "Faces crossed others and were cut",
        "Pieces inside of solids dropped",
    ]


@pytest.mark.parametrize(
    ("off", "left"),
    [
        ({"doubles": False}, "Double faces"),
        ({"orient": False}, "Faces turned over"),
        ({"crossings": False}, "Faces crossed"),
    ],
)
def test_each_step_can_be_left_out(off: dict[str, bool], left: str, notes: list[Note]) -> None:
    ops.repair(broken(), **off)
    assert not any(note.text.startswith(left) for note in notes)


def test_holes_are_filled_up_to_a_size() -> None:
    ball = ops.remove(ops.sphere(segments=48, rings=24), where="index == 100")
    made = ops.repair(ball)
    assert is_closed(made)
    assert made.group("face", "filled").sum() == 2
    assert not ops.repair(ball, holes=False).group("face", "filled").any()
    assert not ops.repair(ball, hole_size=0.01).group("face", "filled").any()


def test_crowded_places(notes: list[Note]) -> None:
    blocks = ops.weld(ops.join(ops.box(), ops.transform(ops.box(), move=(1, 1, 0))))
    made = ops.repair(blocks)
    assert made.topology.edge_face_count.max() == 2
    assert any(note.text == "Edges with more than two faces parted: 1." for note in notes)
    assert ops.repair(blocks, crowded="leave").topology.edge_face_count.max() == 4


def test_values_are_kept() -> None:
    boxes = ops.join(ops.box(), ops.transform(ops.box(), move=(0.5, 0.4, 0.3)))
    boxes = boxes.with_attribute("face", "side", np.arange(12)).with_attribute("point", "x", boxes.positions[:, 0])
    boxes = boxes.with_attribute("edge", "old", np.ones(24))
    made = ops.repair(boxes)
    assert made.attribute("point", "x") == pytest.approx(made.positions[:, 0], abs=1e-9)
    assert set(made.attribute("face", "side")) == set(range(12))
    length = np.linalg.norm(np.diff(made.positions[made.topology.edges], axis=1)[:, 0], axis=1)
    assert length[made.attribute("edge", "old") == 1].sum() == pytest.approx(24 - 2 * (0.5 + 0.6 + 0.7))


def test_nothing_to_mend_without_faces() -> None:
    with pytest.warns(match="no faces"):
        ops.repair(Geo.from_faces(np.zeros((0, 3)), []))
