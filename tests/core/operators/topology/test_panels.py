"""Panels: areas in closed form, gaps, numbers, values."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from reticula.core.geometry.measure.components import face_components

KINDS = pytest.mark.parametrize("using", ["surface", "sheet"])


def areas(made: Geo) -> np.ndarray:
    """The area of each panel."""
    return np.bincount(made.attribute("face", "panel"), measure.face_areas(made))


@KINDS
def test_a_sheet_in_closed_form(using: str) -> None:
    """Of columns as wide as 1/3, the middle one loses a tenth, those at the border half as much."""
    made = ops.panels(ops.grid(cells=(7, 5)), using=using, columns=3, rows=2, gap=0.1)
    wide, high = np.array([0.95, 0.9, 0.95]) / 3, np.array([0.95, 0.95]) / 2
    assert areas(made) == pytest.approx((high[:, None] * wide).reshape(-1))
    assert len(np.unique(face_components(made))) == 6


@KINDS
def test_a_gap_in_metres(using: str) -> None:
    made = ops.panels(ops.grid(size=(4, 2)), using=using, columns=4, rows=1, gap_in="metres", gap_width=0.2)
    assert areas(made).sum() == pytest.approx(8 - 3 * 0.2 * 2)


@KINDS
def test_without_gaps_panels_share_no_points_and_cover_all(using: str) -> None:
    made = ops.panels(ops.grid(cells=(3, 3)), using=using, columns=2, rows=2, gap=0.0)
    assert areas(made) == pytest.approx([0.25] * 4)
    assert len(np.unique(face_components(made))) == 4


def test_a_surface_that_closes_has_a_gap_there_too() -> None:
    made = ops.panels(ops.remove(ops.cylinder(), where="cap"), columns=4, rows=1, gap=0.2)
    assert areas(made) == pytest.approx([areas(made).mean()] * 4)
    whole = measure.face_areas(ops.remove(ops.cylinder(), where="cap")).sum()
    assert areas(made).sum() == pytest.approx(0.8 * whole)


def test_a_sheet_lies_on_the_surface_with_its_values() -> None:
    torus = ops.torus().with_attribute("point", "x", ops.torus().positions[:, 0])
    made = ops.panels(torus, using="sheet", columns=6, rows=3, divisions=4)
    assert made.counts["faces"] == 6 * 3 * 16
    assert made.attribute("point", "x") == pytest.approx(made.positions[:, 0])
    near = measure.face_centers(made)
    middle = near / np.linalg.norm(near[:, [0, 2]], axis=1)[:, None] * [1, 0, 1]
    away = np.linalg.norm(torus.positions[:, [0, 2]], axis=1)
    ring = 0.5 * (away.max() + away.min())
    outwards = np.einsum("ij,ij->i", measure.area_vectors(made), near - middle * ring)
    assert (outwards > 0).mean() > 0.99


def test_cut_faces_interpolate() -> None:
    sheet = ops.grid(cells=(3, 3))
    sheet = sheet.with_attribute("point", "x", sheet.positions[:, 0])
    made = ops.panels(sheet, columns=5, rows=5)
    assert made.attribute("point", "x") == pytest.approx(made.positions[:, 0])
    assert not [name for name in made.attributes["point"] if name.startswith("_")]


def test_only_marked_faces_and_the_rest_stays() -> None:
    box = ops.box().with_attribute("face", "side", np.arange(6))
    made = ops.panels(box, where="side == 2", columns=2, rows=2)
    assert (made.attribute("face", "panel") == -1).sum() == 5
    assert (made.attribute("face", "side") == 2).sum() == 4
    assert sorted(set(made.attribute("face", "panel"))) == [-1, 0, 1, 2, 3]


def test_flat_without_uv_however_it_is_turned() -> None:
    sheet = Geo.from_faces([[0, 0, 0], [4, 0, 0], [4, 1, 0], [0, 1, 0]], [[0, 1, 2, 3]])
    with pytest.warns(match="no uv"):
        assert ops.panels(sheet, columns=4, rows=1).counts["faces"] == 4
    for turn in ((0, 0, 0), (20, 70, 110)):
        made = ops.panels(ops.transform(sheet, turn=turn), over="flat", columns=4, rows=1, gap=0.0)
        assert areas(made) == pytest.approx([1] * 4), "columns run along the longest side"


def test_panels_beyond_the_surface_are_left_out(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(4, 4))
    made = ops.panels(ops.remove(sheet, where="index == 0"), using="sheet", columns=4, rows=4)
    assert len(np.unique(made.attribute("face", "panel"))) == 15
    assert any(note.text.startswith("1 panels reach beyond") for note in notes)


def test_gaps_as_wide_as_panels_are_said() -> None:
    with pytest.warns(match="no panel is left"):
        ops.panels(ops.grid(), gap_in="metres", gap_width=5.0)
