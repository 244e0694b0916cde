"""Curves: from edges, resampled, cut, framed, swept, offset, and struts."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError
from reticula.core.geometry import measure
from tests.helpers import is_closed, volume


def zigzag(count: int = 7) -> Geo:
    line = ops.line(begin=(0, 0, 0), end=(count - 1, 0, 0), segments=count - 1)
    return ops.set_attribute(line, name="position", value="position + vec3(0, index % 2, 0)")


class TestEdgesToCurves:
    def test_long_chains_break_at_branches(self) -> None:
        made = ops.edges_to_curves(ops.grid(cells=(4, 4)), where="abs(position.x) < 0.01 or abs(position.z) < 0.01")
        assert made.counts["curves"] == 4
        assert np.diff(made.topology.curve_start).tolist() == [3] * 4
        border = ops.edges_to_curves(ops.grid(cells=(4, 4)), where="border")
        assert border.topology.curve_closed.tolist() == [True]
        assert border.counts["points"] == 16
        assert border.group("curve", "from_edges").all()

    def test_corners_end_curves_on_demand(self) -> None:
        made = ops.edges_to_curves(ops.grid(cells=(4, 4)), where="border", corner_angle=45)
        assert np.diff(made.topology.curve_start).tolist() == [5] * 4

    def test_edge_values_pass_to_curves(self, cube: Geo) -> None:
        made = ops.edges_to_curves(cube.with_attribute("edge", "number", np.arange(12)), keep_faces=True)
        assert made.attribute("curve", "number").tolist() == list(range(12))
        assert made.counts["faces"] == 6


class TestResample:
    def test_count_and_even_spacing(self) -> None:
        made = ops.resample(zigzag(), count=10)
        assert made.counts["points"] == 11
        assert made.positions[[0, -1]] == pytest.approx(zigzag().positions[[0, -1]])
        closed = ops.resample(ops.circle(segments=200), count=16)
        assert measure.curve_lengths(closed)[0] == pytest.approx(2 * 16 * 0.5 * np.sin(np.pi / 16), rel=1e-3)

    @given(st.floats(0.05, 2.0))
    def test_length_is_the_longest_part(self, length: float) -> None:
        made = ops.resample(ops.rectangle(size=(1, 2)), by="length", length=length, keep_corners=30)
        ends = made.positions[made.topology.curve_segments[0]]
        assert np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1).max() <= length + 1e-9
        for corner in ops.rectangle(size=(1, 2)).positions:
            assert (made.positions == corner).all(axis=1).any(), "corners stay to the bit"

    def test_points_know_their_side(self) -> None:
        made = ops.resample(ops.rectangle(), count=12, keep_corners=30)
        assert made.attribute("point", "side").tolist() == [0] * 3 + [1] * 3 + [2] * 3 + [3] * 3

    def test_values_are_interpolated_and_faces_stay(self, mixed: Geo) -> None:
        warm = mixed.with_attribute("point", "heat", mixed.positions[:, 0] * 2)
        made = ops.resample(warm, where="not closed", count=5)
        new = made.positions[made.topology.curve_point[:6]]
        assert made.attribute("point", "heat")[made.topology.curve_point[:6]] == pytest.approx(new[:, 0] * 2)
        assert made.counts["faces"] == 3
        assert np.array_equal(made.positions[made.topology.corner_point], mixed.positions[mixed.topology.corner_point])


class TestCutCurve:
    def test_open_and_closed(self) -> None:
        made = ops.cut_curve(ops.circle(segments=12), where="index % 4 == 1")
        assert np.diff(made.topology.curve_start).tolist() == [5, 5, 5]
        assert not made.topology.curve_closed.any()
        assert measure.curve_lengths(made).sum() == pytest.approx(measure.curve_lengths(ops.circle(segments=12))[0])
        parts = ops.cut_curve(zigzag(), where="index == 3", part=True)
        assert parts.counts == {**zigzag().counts, "points": 8, "curves": 2}

    def test_nothing_marked(self, notes: list[Note]) -> None:
        ring = ops.circle()
        assert ops.cut_curve(ring, where="False") is ring
        assert "nothing was cut" in notes[0].text


class TestFrames:
    def test_right_handed_and_without_twist(self) -> None:
        helix = ops.set_attribute(
            ops.line(segments=200), name="position", value="vec3(cos(fraction * 12), fraction * 2, sin(fraction * 12))"
        )
        made = ops.frames(helix)
        t, n, b = (made.attribute("point", name) for name in ("tangent", "normal", "binormal"))
        for axis in (t, n, b):
            assert np.linalg.norm(axis, axis=1) == pytest.approx(np.ones(201))
        assert np.cross(t, n) == pytest.approx(b)
        assert np.abs(np.einsum("ij,ij->i", t, n)).max() < 1e-9
        spin = np.einsum("ij,ij->i", n[1:] - n[:-1], b[:-1]) / np.linalg.norm(t[1:] - t[:-1], axis=1)
        assert np.abs(spin).max() < 0.06, "the normal does not turn about the tangent"

    def test_a_closed_curve_closes_its_frame(self) -> None:
        knot = ops.set_attribute(
            ops.circle(segments=90),
            name="position",
            value="vec3(cos(index * tau / 90), 0.5 * sin(3 * index * tau / 90), sin(index * tau / 90))",
        )
        n = ops.frames(knot).attribute("point", "normal")
        steps = np.linalg.norm(np.roll(n, -1, axis=0) - n, axis=1)
        assert steps[-1] < 2 * steps[:-1].max()

    def test_a_rotation_turns_z_to_the_tangent(self) -> None:
        from scipy.spatial.transform import Rotation

        made = ops.frames(zigzag(), twist=30)
        turned = Rotation.from_quat(made.attribute("point", "rotation")).apply([0, 0, 1])
        assert turned == pytest.approx(made.attribute("point", "tangent"))


class TestSweep:
    def test_a_straight_tube_has_the_volume_of_its_prism(self) -> None:
        made = ops.sweep(ops.line(segments=3), radius=0.1, sides=32)
        assert is_closed(made)
        assert volume(made) == pytest.approx(0.5 * 32 * np.sin(2 * np.pi / 32) * 0.01)
        assert made.group("face", "cap").sum() == 2

    def test_a_closed_ring_has_the_topology_of_a_torus(self) -> None:
        made = ops.sweep(ops.circle(radius=1, segments=64), radius=0.2, sides=12)
        assert is_closed(made)
        assert made.topology.euler_characteristic == 0
        assert volume(made) == pytest.approx(2 * np.pi * np.pi * 0.04, rel=0.06)

    def test_bends_keep_the_thickness(self) -> None:
        frame = ops.sweep(ops.rectangle(size=(2, 2)), ops.rectangle(size=(0.2, 0.1)), radius=1.0)
        assert volume(frame) == pytest.approx(8 * 0.02)
        assert frame.counts["faces"] == 16

    def test_taper_and_formula(self) -> None:
        made = ops.sweep(ops.line(segments=4), radius="0.1 + 0.1 * fraction", taper=[[0, 1], [1, 0]], sides=8)
        around = np.linalg.norm(made.positions[:, [0, 2]], axis=1).reshape(-1, 8).mean(axis=1)
        assert around == pytest.approx([0.1, 0.125 * 0.75, 0.15 * 0.5, 0.175 * 0.25, 0], abs=1e-9)

    def test_values_of_points_and_curves_reach_the_tube(self) -> None:
        curve = (
            zigzag().with_attribute("point", "heat", np.arange(7.0)).with_attribute("curve", "rope", np.array(["a"]))
        )
        made = ops.sweep(curve, sides=5)
        assert made.attribute("point", "heat").tolist() == np.repeat(np.arange(7.0), 5).tolist()
        assert set(made.attribute("face", "rope")) == {"a"}
        assert made.attribute("corner", "uv")[:, 0].max() == 1

    def test_a_profile_needs_a_curve(self) -> None:
        with pytest.raises(GeometryError, match="give a curve"):
            ops.sweep(ops.line(), ops.box())


class TestStruts:
    @pytest.mark.parametrize("sides", [3, 4, 7, 12])
    @pytest.mark.parametrize("shape", ["box", "geodesic_sphere", "grid", "torus"])
    def test_joints_are_closed(self, shape: str, sides: int) -> None:
        geo = {
            "box": ops.box(cells=(2, 1, 1)),
            "geodesic_sphere": ops.geodesic_sphere(frequency=2),
            "grid": ops.grid(cells=(2, 3)),
            "torus": ops.torus(segments=9, sides=6),
        }[shape]
        made = ops.struts(geo, sides=sides, radius=0.02)
        assert is_closed(made)
        loops = geo.topology.edge_count - len(np.unique(geo.topology.corner_point)) + 1
        assert made.topology.euler_characteristic == 2 - 2 * loops, "a handle for every loop of edges"
        assert volume(made) > 0

    def test_along_curves_with_ends_and_branches(self) -> None:
        star = ops.join(*(ops.line(begin=(0, 0, 0), end=end) for end in ((1, 0, 0), (0, 1, 0), (0, 0, 1), (-1, 0, 0))))
        made = ops.struts(ops.weld(star), along="curve", radius=0.05)
        assert is_closed(made)
        assert made.topology.euler_characteristic == 2
        assert made.group("face", "cap").sum() == 4
        assert made.group("face", "joint").any()

    def test_two_that_meet_bend_into_each_other(self) -> None:
        made = ops.struts(zigzag(4), along="curve", sides=6)
        assert made.counts["points"] == 4 * 6
        assert is_closed(made)


class TestOffset:
    @pytest.mark.parametrize(
        ("corners", "distance", "area"), [("sharp", 0.1, 1.44), ("sharp", -0.1, 0.64), ("cut", 0.1, 1.42)]
    )
    def test_area_of_a_square(self, corners: str, distance: float, area: float) -> None:
        made = ops.offset_curve(ops.rectangle(), distance=distance, corners=corners, keep_curves=False)
        assert ops.offset_curve(ops.rectangle(), distance=distance).group("curve", "offset").tolist() == [False, True]
        filled = ops.fill(made, what="curve")
        assert measure.face_areas(filled).sum() == pytest.approx(area)

    def test_a_curve_may_fall_apart_or_vanish(self, notes: list[Note]) -> None:
        waist = Geo.of(
            [[0, 0, 0], [1, 0, 0.4], [2, 0, 0], [2, 0, 1], [1, 0, 0.6], [0, 0, 1]],
            ops.regular_polygon(sides=6).topology,
        )
        assert ops.offset_curve(waist, distance=-0.13, keep_curves=False).counts["curves"] == 2
        assert ops.offset_curve(waist, distance=-5, keep_curves=False).counts["curves"] == 0
        assert "too narrow" in notes[-1].text

    def test_open_curves_in_any_plane(self) -> None:
        made = ops.offset_curve(ops.arc(radius=1, facing="side"), distance=0.25, keep_curves=False)
        away = np.linalg.norm(made.positions, axis=1)
        assert away == pytest.approx(np.full(len(away), away[0]), rel=1e-2)
        assert abs(away[0] - 1) == pytest.approx(0.25, rel=1e-2)
