"""Group picked: name elements that were picked by hand."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


def followed(geo: Geo, *faces: int) -> list[str]:
    """What the service gives for faces that nothing else came from yet."""
    return [f"{name}+" for name in names(geo, *faces)]


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
