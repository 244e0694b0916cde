"""Fill: close open borders, or fill closed curves, with faces."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import Topology, measure
from tests.helpers import is_closed, volume


class TestFill:
    @pytest.mark.parametrize(("using", "faces"), [("polygon", 1), ("triangles", 10)])
    def test_a_border_is_closed(self, using: str, faces: int) -> None:
        bowl = ops.remove(ops.box(cells=(3, 3, 3)), where="normal.y > 0.5")
        made = ops.fill(bowl, using=using)
        assert is_closed(made)
        assert volume(made) == pytest.approx(1)
        assert made.group("face", "fill").sum() == faces
        assert made.positions[: bowl.counts["points"]].tobytes() == bowl.positions.tobytes()

    @pytest.mark.parametrize("size", [0.01, 1.0, 100.0])
    def test_an_even_mesh_follows_the_size(self, size: float) -> None:
        made = ops.fill(ops.circle(radius=size, segments=48), what="curve", using="even")
        lengths = measure.edge_lengths(made)
        assert 300 < made.counts["faces"] < 420
        assert lengths.max() / lengths.min() < 5
        assert made.topology.border_edges.sum() == 48

    def test_letters_have_holes(self) -> None:
        made = ops.fill(ops.lettering(text="B"), what="curve", using="triangles")
        assert made.topology.euler_characteristic == 1 - 2
        assert (measure.face_normals(made)[:, 1] > 0.999).all()

    def test_three_rings_in_each_other(self) -> None:
        rings = ops.join(*(ops.circle(radius=r, segments=32) for r in (1.0, 0.6, 0.3)))
        made = ops.fill(rings, what="curve", using="triangles")
        circle = 0.5 * 32 * np.sin(2 * np.pi / 32)
        assert measure.face_areas(made).sum() == pytest.approx(circle * (1 - 0.36 + 0.09))

    def test_an_uneven_border_is_spanned_by_a_membrane(self) -> None:
        ring = ops.circle(radius=1, segments=40)
        lifted = ops.set_attribute(ring, name="position", value="position + vec3(0, 0.3 * position.x, 0)")
        made = ops.fill(ops.extrude(ops.fill(lifted, what="curve"), distance=0.1), where="border", using="even")
        inner = made.positions[40 + 40 :]
        assert inner[:, 1] == pytest.approx(0.3 * inner[:, 0], abs=1e-9)

    def test_values_reach_the_inside(self) -> None:
        sheet = ops.remove(ops.grid(cells=(8, 8)), where="length(position) < 0.3")
        sheet = ops.set_attribute(sheet, name="across", value="position.x")
        made = ops.fill(sheet, using="even", where="length(position) < 0.45")
        inside = made.attribute("point", "across")[sheet.counts["points"] :]
        assert np.abs(inside - made.positions[sheet.counts["points"] :, 0]).max() < 0.03

    def test_open_curves_are_told(self, notes: list[Note]) -> None:
        ops.fill(ops.arc(), what="curve")
        assert "open" in told(notes)


def told(notes: list[Note]) -> str:
    return "\n".join(note.text for note in notes)


def outline(*places: tuple[float, float]) -> Geo:
    """A closed curve in the plane y = 0 that runs counter-clockwise seen from above where ``(x, -z)`` does."""
    points = np.array([[x, 0.0, -y] for x, y in places])
    return Geo.of(points, Topology(len(points), None, None, [0, len(points)], np.arange(len(points)), [True]))


def square(x: float, y: float, size: float) -> Geo:
    return outline((x, y), (x + size, y), (x + size, y + size), (x, y + size))


def smallest_angle(made: Geo) -> float:
    place = made.positions[made.topology.corner_point.reshape(-1, 3)]
    ahead = np.roll(place, -1, axis=1) - place
    behind = np.roll(place, 1, axis=1) - place
    cosine = (ahead * behind).sum(axis=2) / np.linalg.norm(ahead, axis=2) / np.linalg.norm(behind, axis=2)
    return float(np.degrees(np.arccos(cosine.max())))


class TestRules:
    """What crossing, touching and nested outlines enclose."""

    @pytest.mark.parametrize("using", ["polygon", "triangles", "even"])
    @pytest.mark.parametrize(("rule", "area"), [("even-odd", 6.0), ("non-zero", 7.0)])
    def test_two_squares_that_overlap(self, rule: str, area: float, using: str) -> None:
        both = ops.join(square(0, 0, 2), square(1, 1, 2))
        made = ops.fill(both, what="curve", rule=rule, using=using)
        assert measure.face_areas(made).sum() == pytest.approx(area)
        assert (measure.face_normals(made)[:, 1] > 0.99).all()

    def test_non_zero_fills_nested_ones_that_run_alike_and_leaves_holes_that_run_back(self) -> None:
        alike = ops.join(square(0, 0, 3), square(1, 1, 1))
        back = ops.join(square(0, 0, 3), ops.reverse(square(1, 1, 1), kind="curve"))
        areas = [
            measure.face_areas(ops.fill(shape, what="curve", rule=rule)).sum()
            for shape in (alike, back)
            for rule in ("even-odd", "non-zero")
        ]
        assert areas == pytest.approx([8, 9, 8, 8])

    @pytest.mark.parametrize("turn", [0.0, 37.0])
    @pytest.mark.parametrize("offset", [0.0, 1e5])
    def test_an_eight_gets_a_point_where_it_crosses(self, turn: float, offset: float) -> None:
        eight = outline((0, 0), (2, 2), (2, 0), (0, 2))
        eight = ops.transform(eight, turn=(turn, turn, 0), move=(offset, 0, offset))
        made = ops.fill(eight, what="curve", using="triangles")
        assert made.counts["points"] == 5
        assert measure.face_areas(made).sum() == pytest.approx(2)

    def test_outlines_that_share_a_point_or_a_side(self) -> None:
        touching = ops.join(square(0, 0, 1), square(1, 1, 1), square(1, 0, 1))
        made = ops.fill(ops.weld(touching), what="curve")
        assert measure.face_areas(made).sum() == pytest.approx(3)

    def test_loose_points_become_points_of_an_even_mesh(self, notes: list[Note]) -> None:
        points = ops.grid(size=(2, 2), cells=(16, 16))
        points = ops.remove(points, where="index >= 0", kind="face", leftovers="keep")
        assert points.counts["points"] == 289
        both = ops.join(points, ops.circle(radius=0.8, segments=40))
        made = ops.fill(both, what="curve", using="even")
        inside = np.linalg.norm(points.positions, axis=1) < 0.8 * np.cos(np.pi / 40) - 1e-6
        used = np.flatnonzero(made.topology.used_points)
        assert inside.sum() > 120
        assert set(np.flatnonzero(inside)) <= set(used)
        assert any(f"{inside.sum():,} loose points" in note.text for note in notes)
        alone = ops.fill(both, what="curve", using="even", use_points=False)
        assert not alone.topology.used_points[: points.counts["points"]].any()

    @pytest.mark.parametrize("across", [2.0, 5.0, 12.0, 30.0])
    @pytest.mark.parametrize(
        "shape",
        [
            ops.circle(radius=1, segments=7),
            ops.circle(radius=1, segments=96),
            outline((0, 0), (4, 0), (4, 1), (1, 1), (1, 3), (0, 3)),
            ops.join(square(0, 0, 3), square(1, 1, 0.2)),
            outline((0, 0), (4, 0), (4, 0.1), (0, 0.1)),
            ops.join(square(0, 0, 3), square(0.02, 1, 1)),
        ],
        ids=["seven", "fine circle", "corner", "small hole", "strip", "near the side"],
    )
    def test_an_even_mesh_has_no_slivers(self, shape: Geo, across: float) -> None:
        assert smallest_angle(ops.fill(shape, what="curve", using="even", across=across)) > 20

    def test_borders_whose_edges_are_too_long_for_an_even_mesh_are_told(self, notes: list[Note]) -> None:
        box = ops.remove(ops.box(), where="normal.y > 0.5", kind="face")
        made = ops.fill(box, using="even")
        assert is_closed(made)
        assert smallest_angle(ops.remove(made, where="not fill", kind="face")) > 20
        assert "divide them" in told(notes)

    def test_a_hole_as_a_curve_is_wound_as_the_faces_beside_it(self) -> None:
        sheet = ops.remove(ops.grid(cells=(4, 4)), where="length(position) < 0.3")
        ring = ops.edges_to_curves(sheet, where="border and length(position) < 0.5", keep_faces=True)
        for shape in (ring, ops.reverse(ring, kind="curve")):
            made = ops.fill(shape, what="curve")
            assert (measure.face_normals(made)[:, 1] * measure.face_normals(shape)[0, 1] > 0.99).all()


class TestOuterBorders:
    def test_a_flat_sheet_gets_no_second_one(self, notes: list[Note]) -> None:
        sheet = ops.remove(ops.grid(cells=(4, 4)), where="length(position) < 0.3")
        made = ops.fill(sheet)
        assert measure.face_areas(made).sum() == pytest.approx(1)
        assert "1 outer borders of flat sheets were left open" in told(notes)

    def test_only_a_sheet_is_said(self, notes: list[Note]) -> None:
        assert ops.fill(ops.grid()).counts == ops.grid().counts
        assert "lie on the sheet itself" in told(notes)

    def test_a_shallow_dish_is_closed(self) -> None:
        lifted = "position + vec3(0, 0.1 - 0.2 * max(abs(position.x), abs(position.z)), 0)"
        dish = ops.set_attribute(ops.grid(cells=(4, 4)), name="position", value=lifted)
        assert is_closed(ops.fill(dish))
