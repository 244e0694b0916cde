"""What operators that make groups share: combining with an old group, labels, middles of elements."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.operators.shared.group_marking import centers_of, labels_of, marked, words_in

NEW = np.array([True, True, False, False])


@pytest.mark.parametrize(
    ("combine", "expected"),
    [
        ("replace", [True, True, False, False]),
        ("add", [True, True, True, False]),
        ("keep both", [True, False, False, False]),
        ("take away", [False, False, True, False]),
    ],
)
def test_combining(combine: str, expected: list[bool], notes: list[Note]) -> None:
    old = ops.grid(cells=(4, 1)).with_attribute("face", "some", np.array([True, False, True, False]))
    made = marked(old, "face", "some", NEW, combine)
    assert made.group("face", "some").tolist() == expected
    assert f"'some' holds {sum(expected)} of 4 faces" in notes[-1].text


def test_combining_with_a_group_that_is_not_there_is_said(notes: list[Note]) -> None:
    made = marked(ops.grid(cells=(4, 1)), "face", "some", NEW, "add")
    assert made.group("face", "some").tolist() == NEW.tolist()
    assert "There was no face group 'some' to combine with." in [entry.text for entry in notes]


def test_middles_of_every_kind(mixed: Geo) -> None:
    sheet = ops.grid(size=(2, 2), cells=(1, 1))
    for kind in ("face", "whole"):
        assert centers_of(sheet, kind) == pytest.approx(np.zeros((1, 3)))
    assert centers_of(sheet, "edge") @ [1, 0, 1] == pytest.approx([-1, -1, 1, 1], abs=2)
    assert len(centers_of(mixed, "curve")) == mixed.topology.curve_count
    assert centers_of(sheet, "corner").tolist() == sheet.positions[sheet.topology.corner_point].tolist()
    assert centers_of(sheet, "instance").shape == (0, 3)


def test_labels_are_whole_numbers_texts_or_flags() -> None:
    sheet = ops.grid(cells=(4, 1)).with_attribute("face", "word", np.array(["a", "b", "a", "b"]))
    values, type = labels_of(sheet, "face", "word", "label")
    assert (values.tolist(), type) == (["a", "b", "a", "b"], "text")
    assert labels_of(sheet, "face", "index", "label")[0].tolist() == [0, 1, 2, 3]
    with pytest.raises(ParameterError, match="label: 'area' is a number"):
        labels_of(sheet, "face", "area", "label")
    with pytest.raises(GeometryError, match="nothing"):
        labels_of(sheet, "face", "nothing", "label")


def test_words_are_separated_by_spaces_or_commas() -> None:
    assert words_in(" a, b  c,d ") == ["a", "b", "c", "d"]
