"""Lists laid flat and made whole again."""

import numpy as np
import pytest

from reticula.core.errors import FormatError
from reticula.core.formats.ply_lists import with_flat_lists, with_whole_lists
from reticula.core.formats.ply_table import Column, Element


def listed() -> list[Element]:
    words = Column("words", "u1", "u4", np.arange(5, dtype=np.uint8), np.array([0, 2, 2, 5]))
    corners = Column("vertex_indices", "i4", "u1", np.arange(3, dtype=np.int32), np.array([0, 3]))
    return [Element("vertex", 3, [Column("x", "f8", None, np.arange(3.0)), words]), Element("face", 1, [corners])]


def test_only_corners_of_faces_stay_lists() -> None:
    flat = with_flat_lists(listed())
    assert [element.name for element in flat] == ["vertex", "face", "vertex_words"]
    assert [column.name for column in flat[0].columns] == ["x", "words_count"]
    assert flat[0].columns[1].values.tolist() == [2, 0, 3]
    assert flat[1].columns[0].start is not None


def test_there_and_back() -> None:
    whole = with_whole_lists(with_flat_lists(listed()))
    assert [element.name for element in whole] == ["vertex", "face"]
    words = whole[0].column("words")
    assert words is not None
    assert words.start is not None
    assert words.start.tolist() == [0, 2, 2, 5]
    assert words.values.tolist() == [0, 1, 2, 3, 4]


def test_missing_items_are_said() -> None:
    flat = with_flat_lists(listed())
    flat[2].count = 4
    with pytest.raises(FormatError, match="'words' hold 5 items, but there are 4"):
        with_whole_lists(flat)
