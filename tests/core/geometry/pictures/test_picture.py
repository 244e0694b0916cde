"""A picture goes with its geometry, and comes back as it was."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError
from reticula.core.formats import read_bytes, write_bytes
from reticula.core.geometry.pictures import Picture, has_picture, picture_of, with_picture
from reticula.core.geometry.pictures.picture import MOST_NUMBERS

DEEP = np.arange(24, dtype=np.float64).reshape(2, 4, 3) / 65535


@pytest.mark.parametrize("ending", ["ply", "glb"])
def test_a_picture_comes_back_from_files(ending: str) -> None:
    geo = with_picture(ops.grid(cells=(1, 1)), Picture(DEEP, "colours", "nearest", "mirror"))
    back = picture_of(read_bytes(f"a.{ending}", write_bytes(geo, f"a.{ending}")))
    assert np.array_equal(back.pixels, DEEP)
    assert (back.holds, back.between, back.beyond) == ("colours", "nearest", "mirror")
    assert back.size == (4, 2)
    assert back.rules == (1, 2)


def test_it_is_carried_by_edits_and_left_out_by_none() -> None:
    geo = ops.split_faces(with_picture(ops.grid(cells=(2, 2)), Picture(DEEP)))
    assert has_picture(geo)
    assert np.array_equal(picture_of(geo).pixels, DEEP)
    assert not has_picture(ops.box())


def test_colours_become_light_and_opacity_does_not() -> None:
    grey = Picture(np.full((1, 1, 4), 0.5), "colours").linear()
    assert grey[0] == pytest.approx([0.2140, 0.2140, 0.2140, 0.5], abs=1e-4)
    assert Picture(np.full((1, 1, 2), 0.5), "colours").linear()[0] == pytest.approx([0.2140, 0.5], abs=1e-4)
    assert Picture(np.full((1, 1, 3), 0.5)).linear()[0].tolist() == [0.5, 0.5, 0.5]


@pytest.mark.parametrize("shape", [(0, 4, 1), (4, 4), (2, 2, 5)])
def test_what_is_no_picture_is_refused(shape: tuple[int, ...]) -> None:
    with pytest.raises(GeometryError, match="a picture has rows"):
        with_picture(ops.box(), Picture(np.zeros(shape)))


def test_one_that_is_too_large_is_refused() -> None:
    large = np.broadcast_to(np.zeros(1), (MOST_NUMBERS // 1000 + 1, 1000, 1))
    with pytest.raises(GeometryError, match="scale it down"):
        with_picture(ops.box(), Picture(large))


def broken(geo: Geo, name: str, value: int) -> Geo:
    return geo.with_attribute("whole", name, np.array([value]))


@pytest.mark.parametrize(("name", "value"), [("pixels_across", 5), ("pixels_across", 0), ("pixels_up", -2)])
def test_one_that_does_not_hold_together_is_said(name: str, value: int) -> None:
    geo = with_picture(ops.box(), Picture(DEEP))
    with pytest.raises(GeometryError, match="are no picture of"):
        picture_of(broken(geo, name, value))
    with pytest.raises(GeometryError, match="read picture"):
        picture_of(ops.box())


def test_unknown_words_mean_the_usual() -> None:
    geo = with_picture(ops.box(), Picture(DEEP)).with_attribute("whole", "pixels_beyond", np.array(["wrap"]))
    assert picture_of(geo).beyond == "clamp"
