"""Faces over each other on the uv sheet."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry.validation.uv_overlaps import overlapping_faces


def test_faces_that_only_touch_do_not_overlap() -> None:
    geo = ops.grid(cells=(6, 6))
    assert not overlapping_faces(geo, geo.attribute("corner", "uv")).any()


def test_a_face_moved_over_another_one_is_found_with_it() -> None:
    geo = ops.grid(cells=(4, 1))
    uv = geo.attribute("corner", "uv").copy()
    uv[:4, 0] += 0.25 + 0.01
    assert np.flatnonzero(overlapping_faces(geo, uv)).tolist() == [0, 1, 2]


def test_size_and_place_do_not_matter() -> None:
    geo = ops.grid(cells=(5, 5))
    uv = geo.attribute("corner", "uv")
    doubled = np.where(np.arange(len(uv))[:, None] < 8, uv * 0.5, uv)
    found = overlapping_faces(geo, doubled)
    for size, place in ((1e-6, 0.0), (1e6, 300.0)):
        assert np.array_equal(overlapping_faces(geo, doubled * size + place), found)


def test_without_area_or_numbers_nothing_is_found() -> None:
    geo = ops.grid(cells=(2, 2))
    assert not overlapping_faces(geo, np.zeros((16, 2))).any()
    assert not overlapping_faces(geo, np.full((16, 2), np.nan)).any()
    assert overlapping_faces(Geo.empty(), np.zeros((0, 2))).tolist() == []
