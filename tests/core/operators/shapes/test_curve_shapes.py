"""Curves, discs, cones and lettering."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from tests.helpers import is_closed, volume


@pytest.mark.parametrize(("facing", "normal"), [("up", [0, 1, 0]), ("forward", [0, 0, 1]), ("side", [1, 0, 0])])
def test_flat_curves_run_counter_clockwise(facing: str, normal: list[float]) -> None:
    for name in ("rectangle", "circle", "regular_polygon"):
        sheet = ops.fill(getattr(ops, name)(facing=facing), what="curve")
        assert measure.face_normals(sheet)[0] == pytest.approx(normal)
    assert measure.face_normals(ops.disc(facing=facing)) == pytest.approx(np.tile(normal, (128, 1)))


def test_lengths() -> None:
    assert measure.curve_lengths(ops.rectangle(size=(2, 3)))[0] == pytest.approx(10)
    assert measure.curve_lengths(ops.regular_polygon(sides=6, radius=2))[0] == pytest.approx(12)
    assert measure.curve_lengths(ops.arc(radius=1, segments=2000))[0] == pytest.approx(np.pi, rel=1e-6)
    assert measure.curve_lengths(ops.line(begin=(0, 0, 0), end=(0, 3, 4), segments=7))[0] == pytest.approx(5)
    assert ops.arc(to_middle=True).topology.curve_closed.tolist() == [True]
    assert ops.regular_polygon(sides=5, star=0.4).counts["points"] == 10


@pytest.mark.parametrize("top", [0.0, 0.2])
def test_cones_in_closed_form(top: float) -> None:
    cone = ops.cone(radius=0.5, top_radius=top, height=2, segments=400, rows=3)
    assert is_closed(cone)
    assert volume(cone) == pytest.approx(np.pi * 2 / 3 * (0.25 + 0.5 * top + top * top), rel=1e-4)


def test_disc_middles() -> None:
    assert ops.disc(middle="polygon", segments=12, rings=3).topology.face_size[0] == 12
    for middle in ("polygon", "triangles"):
        disc = ops.disc(middle=middle, segments=12, rings=3)
        assert measure.face_areas(disc).sum() == pytest.approx(0.5 * 12 * 0.25 * np.sin(2 * np.pi / 12))


def test_lettering(notes: list[Note]) -> None:
    made = ops.lettering(text="Ao\nB", size=1.0, align="left")
    assert made.attribute("curve", "letter").tolist() == [0, 0, 1, 1, 2, 2, 2]
    assert made.topology.curve_closed.all()
    assert made.bounds[0, 0] > 0
    assert ops.lettering(text="HH", align="middle").bounds.mean(axis=0)[0] == pytest.approx(0, abs=0.01)
    light, bold = (
        measure.face_areas(ops.fill(ops.lettering(text="I", weight=w), what="curve")).sum() for w in (200, 800)
    )
    assert bold > 2 * light
    assert ops.lettering(text="  ").counts["points"] == 0
    assert "nothing to write" in notes[-1].text
    ops.lettering(text="珊")
    assert "no 珊" in notes[-1].text
