"""Counterparts on another geometry: by nearness, by uv, by number; what is found and what is said."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError
from reticula.core.operators.shared.counterparts import METHODS, look_up

SOURCE = ops.set_attribute(ops.grid(size=(1, 1), cells=(4, 4)), name="heat", value="position.x")
ABOVE = Geo.of([[0.1, 0.5, 0.2], [-0.3, 0.1, -0.4], [0.6, 0.0, 0.0]])
ALL = np.arange(3)


def test_the_surface_gives_the_place_below() -> None:
    found = look_up(ABOVE, SOURCE, "point", ALL, "surface", 9.0)
    assert found.distance == pytest.approx([0.5, 0.1, 0.1])
    assert found.attribute("point", "heat").values == pytest.approx([0.1, -0.3, 0.5])


@pytest.mark.parametrize(("by", "values"), [("corner", [0, -0.25, 0.5]), ("point", [0, -0.25, 0.5])])
def test_the_nearest_corner_or_point_gives_its_own_value(by: str, values: list[float]) -> None:
    assert look_up(ABOVE, SOURCE, "point", ALL, by, 9.0).attribute("point", "heat").values == pytest.approx(values)


def test_reach_bounds_what_is_found() -> None:
    assert look_up(ABOVE, SOURCE, "point", ALL, "surface", 0.2).found.tolist() == [False, True, True]


def test_an_empty_source_has_nothing() -> None:
    empty = Geo.empty().with_attribute("point", "heat", np.zeros(0))
    found = look_up(ABOVE, empty, "point", ALL, "surface", 9.0)
    assert not found.found.any()
    assert found.attribute("point", "heat").values.tolist() == [0, 0, 0]


def test_by_number_beyond_the_source_nothing_is_found(notes: list[Note]) -> None:
    short = Geo.of([[0, 0, 0], [1, 0, 0]]).with_attribute("point", "heat", np.array([5.0, 6.0]))
    found = look_up(ABOVE, short, "point", ALL, "index", 9.0)
    assert found.found.tolist() == [True, True, False]
    assert found.attribute("point", "heat").values.tolist() == [5, 6, 0]
    assert "The counts differ: 3 points here and 2 points on the source" in notes[0].text


def test_through_uv_the_place_in_the_picture_counts() -> None:
    tall = ops.grid(size=(10, 10), cells=(2, 2), facing="forward")
    found = look_up(tall, SOURCE, "point", np.arange(9), "uv", 0.0)
    values = found.attribute("point", "heat").values
    assert values == pytest.approx(tall.positions[:, 0] / 10, abs=1e-9)
    with pytest.raises(GeometryError, match="the receiver has no uv"):
        look_up(ABOVE, SOURCE, "point", ALL, "uv", 0.0)


def test_every_way_is_explained() -> None:
    assert set(METHODS) == {"surface", "corner", "point", "uv", "index"}
