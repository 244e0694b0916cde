"""Attributes written on some elements, and the word about the others."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.reports.attribute_writing import note_default, range_of, write_attribute


@pytest.fixture
def sheet() -> Geo:
    return ops.grid(cells=(2, 1))


def test_a_new_attribute_says_what_the_others_hold(sheet: Geo, notes: list[Note]) -> None:
    made = write_attribute(sheet, "face", "heat", np.array([3.0, 4.0]), np.array([True, False]))
    assert made.attribute("face", "heat").tolist() == [3, 0]
    assert notes[0].text == "'heat' is new: 1 faces outside of 'where' hold 0."


def test_an_old_one_keeps_its_values(sheet: Geo, notes: list[Note]) -> None:
    old = sheet.with_attribute("face", "heat", [7.0, 8.0])
    made = write_attribute(old, "face", "heat", np.array([3.0, 4.0]), np.array([True, False]))
    assert made.attribute("face", "heat").tolist() == [3, 8]
    assert notes[0].text == "Set 1 faces; 1 keep the value they had."


def test_another_type_is_warned_of(sheet: Geo, notes: list[Note]) -> None:
    old = sheet.with_attribute("face", "heat", [True, True])
    write_attribute(old, "face", "heat", np.array([3.0, 4.0]), np.array([True, False]))
    assert notes[0].level == "warning"
    assert "was a flag and is a number now" in notes[0].text


def test_positions_are_vectors_of_points(sheet: Geo) -> None:
    with pytest.raises(ParameterError, match="'position' is a vec3 of each point"):
        write_attribute(sheet, "face", "position", np.zeros((2, 3)))


def test_a_default_everywhere_says_nothing_yet(sheet: Geo, notes: list[Note]) -> None:
    note_default(sheet.with_attribute("face", "heat", [0.0, 0.0]), "face", "heat")
    assert notes[0].text == "'heat' is new and holds its default 0 on all 2 faces."


def test_ranges_in_words() -> None:
    assert range_of(np.zeros(0)) == "nothing"
    assert "0.2 to 3.1" in range_of(np.array([0.2, 3.1]), "m")
