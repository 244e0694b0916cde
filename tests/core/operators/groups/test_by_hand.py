"""Groups that are picked, grown, combined and converted."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


@pytest.fixture
def sheet() -> Geo:
    return ops.grid(cells=(5, 5))


def names(geo: Geo, *faces: int) -> list[str]:
    return [f"{name:x}" for name in geo.identity("face")[list(faces)].tolist()]


def test_picked_elements_stay_when_others_go(sheet: Geo, notes: list[Note]) -> None:
    picked = names(sheet, 3, 12)
    made = ops.group_picked(sheet, elements=picked)
    assert np.flatnonzero(made.group("face", "picked")).tolist() == [3, 12]
    fewer = ops.remove(sheet, kind="face", where="index < 3")
    after = ops.group_picked(fewer, elements=picked)
    assert np.flatnonzero(after.group("face", "picked")).tolist() == [0, 9]
    ops.group_picked(ops.remove(sheet, kind="face", where="index == 12"), elements=picked)
    assert "1 of 2 picked faces are not there any more" in "".join(note.text for note in notes)


def test_what_is_no_name_is_refused(sheet: Geo) -> None:
    for bad in (["12xyz"], [3], "abc", ["1" * 17]):
        with pytest.raises(ParameterError, match="elements: "):
            ops.group_picked(sheet, elements=bad)


@pytest.mark.parametrize(
    ("how", "steps", "across", "count"),
    [
        ("grow", 1, "edges", 5),
        ("grow", 1, "points", 9),
        ("grow", 2, "edges", 13),
        ("ring", 1, "edges", 4),
        ("grow", 0, "edges", 1),
        ("grow", 50, "edges", 25),
        ("shrink", 1, "edges", 0),
    ],
)
def test_growing_one_face(sheet: Geo, how: str, steps: int, across: str, count: int, notes: list[Note]) -> None:
    made = ops.grow_group(sheet, where="index == 12", how=how, steps=steps, across=across)
    assert made.group("face", "grown").sum() == count


def test_shrink_and_outline_part_a_group(sheet: Geo) -> None:
    block = ops.grow_group(sheet, where="index == 12", across="points", name="block")
    core = ops.grow_group(block, where="block", how="shrink").group("face", "grown")
    rim = ops.grow_group(block, where="block", how="outline").group("face", "grown")
    assert np.flatnonzero(core).tolist() == [12]
    assert (core ^ rim == block.group("face", "block")).all()


def test_growing_points_and_edges(sheet: Geo) -> None:
    assert ops.grow_group(sheet, kind="point", where="index == 14").group("point", "grown").sum() == 5
    assert ops.grow_group(sheet, kind="point", where="index == 14", across="points").group("point", "grown").sum() == 9
    assert ops.grow_group(sheet, kind="edge", where="index == 0").group("edge", "grown").sum() > 1


def test_growing_warns_where_nothing_is_connected(sheet: Geo, notes: list[Note]) -> None:
    ops.grow_group(ops.unshare(sheet), where="index == 12")
    assert any("put weld before this" in note.text for note in notes)


@pytest.mark.parametrize(
    ("how", "expected"),
    [
        ("and", [2]),
        ("or", [0, 1, 2, 3, 4]),
        ("minus", [0, 1]),
        ("either", [0, 1, 3, 4]),
    ],
)
def test_combining(sheet: Geo, how: str, expected: list[int]) -> None:
    made = ops.combine_groups(sheet, first="index < 3", second="1 < index < 5", how=how)
    assert np.flatnonzero(made.group("face", "combined")).tolist() == expected


def test_not(sheet: Geo) -> None:
    assert ops.combine_groups(sheet, first="index < 3", how="not").group("face", "combined").sum() == 22


@pytest.mark.parametrize(
    ("kind", "to", "counts", "expected"),
    [
        ("face", "point", "any", 4),
        ("face", "point", "all", 0),
        ("face", "edge", "any", 4),
        ("face", "edge", "all", 0),
        ("face", "corner", "any", 4),
        ("face", "face", "any", 1),
        ("point", "face", "any", 4),
        ("point", "face", "all", 0),
        ("edge", "face", "any", 2),
        ("point", "corner", "any", 4),
        ("corner", "point", "any", 1),
        ("edge", "point", "any", 2),
    ],
)
def test_converting(sheet: Geo, kind: str, to: str, counts: str, expected: int, notes: list[Note]) -> None:
    """Of one element in the middle: face 12, the point 14 of its corner, the edge between faces 12 and 13."""
    where = {
        "face": "index == 12",
        "point": "index == 14",
        "corner": "index == 48",
        "edge": "abs(position.x - 0.1) + abs(position.z) < 0.001",
    }[kind]
    made = ops.convert_group(sheet, kind=kind, where=where, to=to, counts=counts)
    assert made.group(to, "converted").sum() == expected


def test_converting_through_points_to_curves() -> None:
    both = ops.join(ops.line(), ops.transform(ops.circle(), move=(5, 0, 0)))
    made = ops.convert_group(both, kind="point", where="position.x > 3", to="curve", counts="all")
    assert made.group("curve", "converted").tolist() == [False, True]


def followed(geo: Geo, *faces: int) -> list[str]:
    """What the service gives for faces that nothing else came from yet."""
    return [f"{name}+" for name in names(geo, *faces)]


def test_a_picked_face_that_is_split_is_followed(sheet: Geo, notes: list[Note]) -> None:
    picked = followed(sheet, 3, 12)
    twice = ops.split_faces(ops.split_faces(sheet))
    made = ops.group_picked(twice, elements=picked).group("face", "picked")
    assert made.sum() == 2 * 16
    origin = ops.set_attribute(sheet, name="origin", kind="face", value="index")
    whence = ops.split_faces(ops.split_faces(origin)).attribute("face", "origin")
    assert (made == np.isin(whence, [3, 12])).all()
    assert any("2 of 2 picked faces were split since; all their 32 parts are taken" in note.text for note in notes)


def test_following_can_be_left_out_and_needs_its_mark(sheet: Geo) -> None:
    split = ops.split_faces(sheet)
    assert ops.group_picked(split, elements=followed(sheet, 3), follow=False).group("face", "picked").sum() == 1
    assert ops.group_picked(split, elements=names(sheet, 3)).group("face", "picked").sum() == 1


def test_only_the_split_part_is_followed_when_its_first_part_is_gone(sheet: Geo, notes: list[Note]) -> None:
    picked = followed(sheet, 3)
    split = ops.split_faces(sheet)
    first = int(np.flatnonzero(split.identity("face") == sheet.identity("face")[3])[0])
    rest = ops.remove(split, kind="face", where=f"index == {first}")
    assert ops.group_picked(rest, elements=picked).group("face", "picked").sum() == 3
    assert not any("not there any more" in note.text for note in notes)
