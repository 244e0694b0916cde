"""What works along the edges of a mesh works along curves too."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.geometry import measure
from reticula.core.language import evaluate

LINE = ops.line(begin=(0, 0, 0), end=(4, 0, 0), segments=4)
RING = ops.regular_polygon(sides=6)


def test_neighbours_in_formulas() -> None:
    counts = [evaluate("len(here.neighbours)", geo, "point").array.tolist() for geo in (LINE, RING)]
    assert counts == [[1, 2, 2, 2, 1], [2] * 6]
    assert evaluate("mean(here.neighbours.index)", LINE, "point").array.tolist() == [1, 1, 2, 3, 3]


def test_points_of_a_mesh_with_a_curve_along_its_edge_have_each_neighbour_once() -> None:
    sheet = ops.grid(cells=(2, 1))
    with collecting():
        both = ops.edges_to_curves(sheet, where="border", keep_faces=True)
    for geo in (sheet, both):
        assert evaluate("len(here.neighbours)", geo, "point").array.tolist() == [2, 3, 2, 2, 3, 2]


def test_smoothing_a_zigzag_straightens_it_and_its_ends_stay(notes: list[Note]) -> None:
    zigzag = ops.set_attribute(LINE, name="position", value="position + vec3(0, index % 2, 0)")
    made = ops.smooth(zigzag, iterations=50, keep="nothing")
    assert made.positions[:, 1] == pytest.approx(np.zeros(5), abs=1e-3)
    assert made.positions[[0, -1]].tolist() == zigzag.positions[[0, -1]].tolist()
    free = ops.smooth(zigzag, iterations=50, keep="nothing", pin_borders=False)
    assert np.ptp(free.positions[:, 0]) < 1


@pytest.mark.parametrize("keep", ["length", "area"])
def test_smoothing_a_closed_curve_keeps_what_is_asked(keep: str, notes: list[Note]) -> None:
    star = ops.regular_polygon(sides=8, star=0.5)
    made = ops.smooth(star, iterations=20, keep=keep)
    turned = np.linalg.norm(made.positions, axis=1)
    assert np.ptp(turned) < 0.01 * turned.mean(), "the corner where it closes is as round as the others"
    before, after = (
        [measure.curve_lengths(geo)[0], measure.face_areas(ops.fill(geo, what="curve")).sum()] for geo in (star, made)
    )
    which = 0 if keep == "length" else 1
    assert after[which] == pytest.approx(before[which])


def test_smoothing_what_has_no_neighbours_is_said(notes: list[Note]) -> None:
    ops.smooth(Geo.of(np.eye(3)))
    assert "No point that may move has a neighbour, so nothing moved." in [entry.text for entry in notes]


def test_blurring(notes: list[Note]) -> None:
    peak = LINE.with_attribute("point", "heat", np.array([0, 0, 1.0, 0, 0]))
    made = ops.blur_values(peak, iterations=1, step=0.5)
    assert made.attribute("point", "heat").tolist() == [0, 0.25, 0.5, 0.25, 0]
    held = ops.blur_values(peak.with_attribute("point", "heat", np.arange(5.0) ** 2), iterations=200, pinned="borders")
    assert held.attribute("point", "heat") == pytest.approx([0, 4, 8, 12, 16], abs=1e-3)
    ops.blur_values(Geo.of(np.eye(3)).with_attribute("point", "heat", np.ones(3)))
    assert "has a neighbour, so nothing was blurred" in notes[-1].text


def test_growing_a_group() -> None:
    start = LINE.with_attribute("point", "some", np.arange(5) == 0)
    for across in ("edges", "points"):
        with collecting():
            made = ops.grow_group(start, kind="point", where="some", steps=2, across=across)
        assert made.group("point", "grown").tolist() == [True, True, True, False, False]


def test_measuring(notes: list[Note]) -> None:
    assert ops.measure(LINE, what="valence").attribute("point", "valence").tolist() == [1, 2, 2, 2, 1]
    assert ops.measure(RING, what="turn").attribute("point", "turn") == pytest.approx(np.full(6, 60))
    assert ops.measure(RING, what="bend").attribute("point", "bend") == pytest.approx(np.full(6, 2))


def test_relaxing_evens_points_out_along_their_curve() -> None:
    crowded = LINE.with_positions(np.array([[0, 0, 0], [0.1, 0, 0], [0.2, 0, 0], [0.3, 0, 0], [4, 0, 0.0]]))
    with collecting():
        made = ops.relax(crowded, passes=400)
    steps = np.diff(made.positions[:, 0])
    assert made.positions[[0, -1]].tolist() == crowded.positions[[0, -1]].tolist()
    assert np.abs(made.positions[:, 1:]).max() < 1e-9
    assert steps.min() > 0.5
