"""Lettering: write words as closed curves; fill makes faces of them, extrude makes them solid."""

import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure


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
