"""Boolean: unite solids, take them away from each other, or keep what they share; or cut a sheet."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.errors import GeometryError
from reticula.core.geometry import measure
from tests.core.operators.solids.support import boolean
from tests.helpers import is_closed, volume


def near(ball: Geo, **size: tuple[float, float, float]) -> Geo:
    return ops.transform(ops.box(**size), move=(0.4234567, 0.6333333, 78.0))


class TestBoolean:
    def test_inclusion_and_exclusion_with_attributes(self) -> None:
        a = ops.set_attribute(ops.box(cells=(2, 2, 2)), name="which", kind="face", value="index")
        b = ops.transform(ops.geodesic_sphere(frequency=4, radius=0.4), move=(0.4, 0.3, 0.1))
        made = {how: ops.boolean(a, b, operation=how) for how in ("union", "difference", "intersection")}
        assert all(is_closed(geo) for geo in made.values())
        assert volume(made["union"]) + volume(made["intersection"]) == pytest.approx(volume(a) + volume(b))
        assert volume(made["difference"]) + volume(made["intersection"]) == pytest.approx(volume(a))
        cut = made["difference"]
        old = ~cut.group("face", "from_others")
        which = cut.attribute("face", "which")[old]
        agree = np.einsum("ij,ij->i", measure.face_normals(cut)[old], measure.face_normals(a)[which])
        assert agree == pytest.approx(np.ones(old.sum())), "every face knows the face it is part of"
        assert cut.group("edge", "seam").any()

    def test_faces_that_nothing_cuts_stay_polygons(self) -> None:
        a = ops.box(cells=(4, 1, 1), size=(4, 1, 1))
        made = ops.boolean(a, ops.transform(ops.box(size=(0.5, 2, 0.5)), move=(1.5, 0, 0)))
        assert (made.topology.face_size == 4).sum() >= 12
        assert volume(made) == pytest.approx(4 - 0.25)
        uv = made.attribute("corner", "uv")
        assert uv.min() >= -1e-9
        assert uv.max() <= 1 + 1e-9

    def test_curves_loose_points_and_instances_of_the_first_stay(self, mixed: Geo) -> None:
        first = ops.join(ops.box(), ops.circle(), Geo.of([[9, 9, 9]]), ops.place_instances(ops.line(), ops.cone()))
        made = ops.boolean(first, ops.transform(ops.box(), move=(0.5, 0.5, 0.5)))
        assert made.counts["curves"] == 1
        assert made.counts["instances"] == 2
        assert (made.positions == [9, 9, 9]).all(axis=1).any()
        assert volume(made) == pytest.approx(1 - 1 / 8)

    def test_several_others(self) -> None:
        holes = [ops.transform(ops.cylinder(radius=0.1, height=3, segments=12), move=(x, 0, 0)) for x in (-0.3, 0, 0.3)]
        made = ops.boolean(ops.box(), *holes)
        assert made.topology.euler_characteristic == 2 - 2 * 3

    @pytest.mark.parametrize(
        ("broken", "why"),
        [
            (lambda: ops.remove(ops.box(), where="index == 0"), "open border edges"),
            (lambda: ops.reverse(ops.box()), "look inwards"),
            (lambda: ops.reverse(ops.box(), where="index == 2"), "wind against each other"),
            (lambda: ops.unshare(ops.box()), "weld it first"),
        ],
    )
    def test_what_is_wrong_is_said(self, broken: object, why: str) -> None:
        with pytest.raises(GeometryError, match=why):
            ops.boolean(ops.box(), broken())  # type: ignore[operator]

    def test_nothing_left(self, notes: list[Note]) -> None:
        far = ops.transform(ops.box(), move=(5, 0, 0))
        assert ops.boolean(ops.box(), far, operation="intersection").counts["faces"] == 0
        assert any("do not overlap" in note.text for note in notes)
        assert ops.boolean(ops.box(), operation="union").counts["faces"] == 6


class TestSheets:
    @pytest.mark.parametrize("bend", [0.0, 0.2])
    def test_a_sheet_is_shared_out_by_a_solid(self, bend: float, notes: list[Note]) -> None:
        sheet = ops.set_attribute(
            ops.grid(size=(2, 2), cells=(5, 5)),
            name="position",
            value=f"position + vec3(0, {bend} * sin(position.x * 3), 0)",
        )
        sheet = ops.set_attribute(sheet, name="across", value="position.x")
        ball = ops.geodesic_sphere(frequency=4)
        outside, within, both = (
            ops.boolean(sheet, ball, operation=how) for how in ("difference", "intersection", "union")
        )
        areas = [measure.face_areas(geo).sum() for geo in (outside, within, both)]
        assert areas[2] == pytest.approx(measure.face_areas(sheet).sum())
        assert areas[0] + areas[1] == pytest.approx(areas[2])
        assert both.topology.border_edges.sum() == sheet.topology.border_edges.sum(), "nothing opens along the cut"
        assert within.topology.border_edges.sum() == both.group("edge", "seam").sum()
        assert both.group("face", "inside").sum() == within.counts["faces"]
        assert both.attribute("point", "across") == pytest.approx(both.positions[:, 0], abs=1e-9)
        assert np.linalg.norm(within.positions, axis=1).max() < 0.5 + 1e-9

    def test_a_sheet_is_cut_by_a_sheet(self, notes: list[Note]) -> None:
        wall = ops.transform(ops.grid(size=(3, 3), cells=(1, 1), facing="side"), move=(0.13, 0, 0))
        before = ops.boolean(ops.grid(), wall)
        assert before.bounds[:, 0] == pytest.approx([0.13, 0.5])

    @given(st.floats(-0.7, 0.7), st.floats(-0.7, 0.7), st.floats(0.05, 0.9))
    def test_flat_sheets_by_inclusion_and_exclusion(self, x: float, z: float, radius: float) -> None:
        a = ops.grid(cells=(3, 2))
        b = ops.transform(ops.disc(radius=radius, segments=13, rings=2), move=(x, 0, z))
        with collecting():
            made = {how: ops.boolean(a, b, operation=how) for how in ("union", "difference", "intersection")}
        area = {how: measure.face_areas(geo).sum() for how, geo in made.items()}
        own = measure.face_areas(b).sum()
        assert area["difference"] + area["intersection"] == pytest.approx(1, abs=1e-8)
        assert area["union"] + area["intersection"] == pytest.approx(1 + own, abs=1e-8)
        assert (measure.face_normals(made["union"])[:, 1] > 0.99).all()


def test_faces_that_nothing_cuts_stay_polygons(ball: Geo) -> None:
    made = boolean(ball, near(ball, size=(0.2, 0.2, 0.2)), "difference")
    known = {tuple(place) for place in ball.positions}
    shape = made.topology
    old = np.array([tuple(place) in known for place in made.positions])
    untouched = np.logical_and.reduceat(old[shape.corner_point], shape.face_start[:-1]) & (shape.face_size == 4)
    assert untouched.sum() >= 430, "of the 448 quads only those at the small box are cut"
    assert np.isin(made.attribute("edge", "crease"), [0, *ball.attribute("edge", "crease")]).all()


@pytest.mark.parametrize("operation", ["union", "difference", "intersection"])
def test_a_value_that_one_solid_has_reaches_the_seam_whole(ball: Geo, operation: str) -> None:
    box = near(ball, size=(0.7, 0.7, 0.7))
    box = box.with_attribute("point", "cold", np.ones(8))
    made = boolean(ball, box, operation)
    seam = np.unique(made.topology.edges[made.group("edge", "seam")])
    assert len(seam) > 8
    assert made.attribute("point", "cold")[seam] == pytest.approx(1)
    assert (made.attribute("point", "heat")[seam] > 0.99).all()


def test_a_value_that_both_have_is_the_first_one_s_at_the_seam(ball: Geo) -> None:
    box = near(ball, size=(0.7, 0.7, 0.7)).with_attribute("point", "heat", np.full(8, -5.0))
    made = boolean(ball, box, "union")
    seam = np.unique(made.topology.edges[made.group("edge", "seam")])
    assert (made.attribute("point", "heat")[seam] > 0.99).all()


def test_what_does_not_touch_stays_to_the_bit(ball: Geo) -> None:
    far = ops.transform(ops.box(), move=(9, 0, 0))
    made = boolean(ball, far, "union")
    first = ops.remove(made, kind="face", where="from_others")
    assert first.positions.tolist() == ball.positions.tolist()
    assert sorted(first.topology.face_size) == sorted(ball.topology.face_size)
    assert sorted(first.attribute("edge", "crease")) == sorted(ball.attribute("edge", "crease"))
    assert sorted(map(tuple, first.attribute("corner", "uv"))) == sorted(map(tuple, ball.attribute("corner", "uv")))
