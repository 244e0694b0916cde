"""Measure: measure elements and keep the numbers as an attribute."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


def _areas(geo: Geo) -> np.ndarray:
    from reticula.core.geometry.measure.curvature import mixed_areas

    return mixed_areas(geo)


@pytest.mark.parametrize(
    ("what", "kind", "value"),
    [
        ("area", "face", 1.0),
        ("perimeter", "face", 4.0),
        ("length", "edge", 1.0),
        ("angle", "edge", 90.0),
        ("face_count", "edge", 2),
        ("sides", "face", 4),
        ("valence", "point", 3),
        ("planarity", "face", 0.0),
        ("piece", "point", 0),
        ("piece_size", "face", 6),
        ("piece_size", "point", 8),
        ("gauss_curvature", "point", np.pi),
    ],
)
def test_measures_of_a_unit_box(what: str, kind: str, value: float) -> None:
    """By hand. Of the curvature only the sum is told: each corner misses a quarter turn, all eight two full ones."""
    box = ops.measure(ops.box(), what=what)
    got = box.attribute(kind, what)
    if what == "gauss_curvature":
        assert got @ _areas(box) == pytest.approx(4 * np.pi)
    else:
        np.testing.assert_allclose(got, value, atol=1e-12)


def test_angles_tell_ridges_from_valleys() -> None:
    roof = Geo.from_faces(
        [[0, 1, 0], [0, 1, 1], [-1, 0, 0], [-1, 0, 1], [1, 0, 0], [1, 0, 1]], [[0, 2, 3, 1], [0, 1, 5, 4]]
    )
    assert ops.measure(roof, what="angle").attribute("edge", "angle").max() == pytest.approx(90)
    assert ops.measure(ops.reverse(roof), what="angle").attribute("edge", "angle").min() == pytest.approx(-90)


def test_thickness_of_a_plate(notes: list[Note]) -> None:
    plate = ops.box(size=(1, 0.1, 1), cells=(4, 1, 4))
    got = ops.measure(plate, what="thickness").attribute("point", "thickness")
    inner = (np.abs(plate.positions[:, [0, 2]]) < 0.49).all(axis=1)
    np.testing.assert_allclose(got[inner], 0.1, rtol=1e-6)
    ops.measure(ops.grid(), what="thickness")
    assert "look at no other side" in notes[-1].text


def test_walks_stop_at_gaps(sheet: Geo, notes: list[Note]) -> None:
    two = ops.join(ops.grid(cells=(4, 4)), ops.transform(ops.grid(cells=(4, 4)), move=(3, 0, 0)))
    far = ops.measure(two, what="walk", name="away", begin="index == 12").attribute("point", "away")
    assert far[12] == 0
    assert (far[25:] == -1).all()
    assert "25 points cannot be reached" in " ".join(note.text for note in notes)
    capped = ops.measure(two, what="walk", begin="index == 12", reach=0.3).attribute("point", "walk")
    assert capped.max() == pytest.approx(0.3)
    ops.measure(two, what="walk", begin="False")
    assert "no point to begin at" in " ".join(note.text for note in notes)


def test_walks_follow_curves() -> None:
    line = ops.line(begin=(0, 0, 0), end=(3, 0, 0))
    bent = ops.resample(line, count=7)
    far = ops.measure(bent, what="walk", begin="index == 0").attribute("point", "walk")
    np.testing.assert_allclose(far, bent.positions[:, 0], atol=1e-12)
