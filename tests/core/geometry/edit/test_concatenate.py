"""Geometries as one, and what is told of attributes that some of them lack."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry.edit.concatenate import concatenate, concatenation_losses
from reticula.core.reports.concatenation import concatenate_and_tell


def test_elements_follow_each_other(mixed: Geo, cube: Geo) -> None:
    both = concatenate([mixed, cube])
    assert both.counts["points"] == mixed.counts["points"] + cube.counts["points"]
    assert np.array_equal(both.positions[: len(mixed.positions)], mixed.positions)
    assert both.topology.corner_point[mixed.topology.corner_count :].min() == len(mixed.positions)


def test_nothing_and_one_geometry(cube: Geo) -> None:
    assert concatenate([]).counts == Geo.empty().counts
    assert concatenate([cube]) is cube


def test_what_lacks_a_value_gets_the_default_and_it_is_said(cube: Geo, notes: list[Note]) -> None:
    tinted = cube.with_attribute("point", "color", np.zeros((8, 4)))
    both = concatenate_and_tell([tinted, ops.grid(cells=(1, 1))])
    assert both.attribute("point", "color")[8:].tolist() == [[1, 1, 1, 1]] * 4
    told = [note.text for note in notes]
    assert "4 points had no 'color' ([1.0, 1.0, 1.0, 1.0]) and hold these defaults." in told


def test_types_that_do_not_go_together_are_left_out_with_a_warning(cube: Geo, notes: list[Note]) -> None:
    words = cube.with_attribute("point", "a", np.array(list("abcdefgh")))
    numbers = cube.with_attribute("point", "a", np.arange(8.0))
    assert not concatenate_and_tell([words, numbers]).has("point", "a")
    assert [note.level for note in notes] == ["warning"]


def test_whole_numbers_widen() -> None:
    one = ops.grid(cells=(1, 1)).with_attribute("face", "n", np.array([1]))
    two = ops.grid(cells=(1, 1)).with_attribute("face", "n", np.array([0.5]))
    assert concatenate([one, two]).attribute("face", "n").tolist() == [1.0, 0.5]
    assert concatenation_losses([one, two]) == []


@pytest.mark.parametrize("quantity", [2, 3])
def test_names_differ_and_the_first_keeps_its_own(cube: Geo, quantity: int) -> None:
    made = concatenate([cube] * quantity)
    assert np.array_equal(made.identity("point")[:8], cube.identity("point"))
    assert len(np.unique(made.identity("point"))) == 8 * quantity
