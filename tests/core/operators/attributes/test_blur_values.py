"""Blur values: blur attributes along the edges of the mesh: each element goes towards the mean of its neighbours."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute


def test_blur_goes_to_the_neighbours(row: Geo) -> None:
    spike = ops.set_attribute(row, name="heat", value="number(index == 2)")
    once = ops.blur_values(spike, attributes="heat", iterations=1, step=1.0).attribute("point", "heat")
    assert once[2] == 0
    np.testing.assert_allclose(once[[1, 3, 8]], 1 / 3)
    long = ops.blur_values(spike, attributes="heat", iterations=400).attribute("point", "heat")
    assert np.ptp(long) < 1e-3
    none = ops.blur_values(spike, attributes="heat", iterations=0)
    assert (none.attribute("point", "heat") == spike.attribute("point", "heat")).all()


def test_blur_keeps_what_is_pinned(row: Geo, notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(8, 8)), name="heat", value="position.x")
    held = ops.blur_values(sheet, attributes="heat", pinned="borders", iterations=300).attribute("point", "heat")
    np.testing.assert_allclose(held, sheet.positions[:, 0], atol=1e-9)
    part = ops.blur_values(sheet, attributes="heat", where="position.x > 0.01").attribute("point", "heat")
    left = sheet.positions[:, 0] < 0.01
    assert (part[left] == sheet.attribute("point", "heat")[left]).all()
    marked = ops.blur_values(ops.group(sheet, kind="point", where="index == 40"), attributes="marked")
    assert marked.find("point", "marked").type == "number"
    assert "was a flag and is a number now" in notes[-1].text
    with pytest.raises(ParameterError, match="did you mean heat"):
        ops.blur_values(sheet, attributes="heet")


def test_blurred_normals_stay_of_unit_length() -> None:
    ball = ops.set_attribute(ops.sphere(), name="normal", value="normalize(position + noise3(position * 9))")
    blurred = ops.blur_values(ball, attributes="normal", iterations=5).attribute("point", "normal")
    np.testing.assert_allclose(np.linalg.norm(blurred, axis=1), 1.0)


def test_numbers_that_are_none_are_located(notes: list[Note]) -> None:
    heat = np.array([1.0, np.nan, 2.0, np.inf, 0, 0, 0, 0])
    broken = ops.box().with_attribute("point", "heat", Attribute.of(heat))
    ops.blur_values(broken, attributes="heat", iterations=0)
    assert not any("finite" in note.text for note in notes)
    ops.blur_values(broken, attributes="heat", iterations=1)
    assert any("'heat' holds no finite number at" in note.text and "(first: point" in note.text for note in notes)
