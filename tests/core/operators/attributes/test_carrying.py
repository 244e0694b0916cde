"""Transfer attribute and rays: ways, reach, feather, names, kinds, warnings."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry import Attribute


@pytest.fixture
def source() -> Geo:
    """A square metre with a linear field on its points and a label on its faces."""
    sheet = ops.grid(size=(1, 1), cells=(4, 4))
    sheet = ops.set_attribute(sheet, name="heat", value="3 * position.x - position.z + 1")
    return ops.set_attribute(sheet, name="plot", kind="face", value="index")


@pytest.fixture
def dots(rng: np.random.Generator) -> Geo:
    places = rng.uniform(-0.5, 0.5, (200, 3))
    places[:, 1] *= 0.1
    return Geo.of(places)


def test_a_linear_field_is_carried_exactly(source: Geo, dots: Geo, notes: list[Note]) -> None:
    made = ops.transfer_attribute(dots, source, attributes="heat")
    x, _, z = dots.positions.T
    np.testing.assert_allclose(made.attribute("point", "heat"), 3 * x - z + 1, atol=1e-12)


def test_the_nearest_corner_and_the_nearest_point(source: Geo, dots: Geo, notes: list[Note]) -> None:
    by_point = ops.transfer_attribute(dots, source, attributes="heat", by="point").attribute("point", "heat")
    nearest = np.round(dots.positions * 4) / 4
    np.testing.assert_allclose(by_point, 3 * nearest[:, 0] - nearest[:, 2] + 1, atol=1e-12)
    by_corner = ops.transfer_attribute(dots, source, attributes="heat", by="corner").attribute("point", "heat")
    assert set(np.round(by_corner, 9)) <= set(np.round(source.attribute("point", "heat"), 9))


def test_feather_fades_between_reach_and_its_end(source: Geo, notes: list[Note]) -> None:
    rows = Geo.of([[0, 0.05, 0], [0, 0.15, 0], [0, 0.25, 0], [0, 0.5, 0]]).with_attribute(
        "point", "heat", np.full(4, 9.0)
    )
    near = {"attributes": "heat", "limit_reach": True, "reach": 0.1, "feather": 0.2, "falloff": [[0, 1], [1, 0]]}
    faded = ops.transfer_attribute(rows, source, **near).attribute("point", "heat")
    np.testing.assert_allclose(faded, [1.0, 1.0 * 0.75 + 9 * 0.25, 1.0 * 0.25 + 9 * 0.75, 9.0], atol=1e-9)
    cleared = ops.transfer_attribute(rows, source, elsewhere="default", **near).attribute("point", "heat")
    np.testing.assert_allclose(cleared, [1.0, 0.75, 0.25, 0.0], atol=1e-9)
    assert any("1 of 4 points found nothing within 0.3 m" in note.text for note in notes)


def test_names_by_pattern_renamed_and_of_any_kind(source: Geo, dots: Geo, notes: list[Note]) -> None:
    made = ops.transfer_attribute(dots, source, attributes="h* plot", rename="scan_*")
    assert {"scan_heat", "scan_plot"} <= set(made.attributes["point"])
    assert made.find("point", "scan_plot").type == "integer"
    with pytest.raises(ParameterError, match="'1heat' is not a name"):
        ops.transfer_attribute(dots, source, attributes="heat", rename="1*")
    with pytest.raises(ParameterError, match="would move the points"):
        ops.transfer_attribute(dots, source, attributes="heat", rename="position")
    with pytest.raises(ParameterError, match="no attribute 'plot' on the source's points"):
        ops.transfer_attribute(dots, source, attributes="plot", source_kind="point")


def test_onto_every_kind_and_from_edges_and_the_whole(source: Geo, notes: list[Note]) -> None:
    edges = ops.set_attribute(source, name="seam", kind="edge", value="position.x")
    edges = ops.set_attribute(edges, name="site", kind="whole", value="'bay'")
    box = ops.box(size=(0.5, 0.5, 0.5))
    for kind in ("point", "edge", "corner", "face"):
        assert ops.transfer_attribute(box, source, attributes="heat", onto=kind).has(kind, "heat")
    assert ops.transfer_attribute(box, edges, attributes="seam", onto="face").attribute("face", "seam").max() > 0.2
    assert set(
        ops.transfer_attribute(box, edges, attributes="site", source_kind="whole").attribute("point", "site")
    ) == {"bay"}


def test_by_index_warns_where_counts_or_order_differ(source: Geo, notes: list[Note]) -> None:
    same = ops.transform(source, move=(5, 0, 0))
    plain = same.without_attribute("point", "heat")
    made = ops.transfer_attribute(plain, source, attributes="heat", by="index")
    assert (made.attribute("point", "heat") == source.attribute("point", "heat")).all()
    assert not [note for note in notes if note.level == "warning"]
    ops.transfer_attribute(ops.grid(cells=(4, 5)), source, attributes="heat", by="index")
    assert any("The counts differ: 30 points here and 25 points on the source" in note.text for note in notes)
    turned = ops.reverse(same).without_attribute("point", "heat")
    ops.transfer_attribute(turned, source, attributes="heat", by="index")
    fewer = ops.transfer_attribute(
        ops.grid(cells=(4, 5)).without_attribute("corner", "uv"), source, attributes="heat", by="index"
    )
    assert fewer.attribute("point", "heat")[-1] == 0
    assert any("found nothing and were left" in note.text for note in notes)
    assert any("join other points" in note.text for note in notes)


def test_through_uv(source: Geo, notes: list[Note]) -> None:
    """The receiver lies elsewhere in space and is bent, but has the same uv."""
    far = ops.set_attribute(
        ops.grid(size=(1, 1), cells=(3, 3)), name="position", value="position.zyx * 2 + vec3(9, sin(position.x), 0)"
    )
    made = ops.transfer_attribute(far, source, attributes="heat plot", by="uv").attribute("point", "heat")
    x, z = ops.grid(size=(1, 1), cells=(3, 3)).positions[:, [0, 2]].T
    np.testing.assert_allclose(made, 3 * x - z + 1, atol=1e-9)
    with pytest.raises(GeometryError, match="the source has no uv"):
        ops.transfer_attribute(
            far,
            ops.geodesic_sphere().with_attribute("point", "heat", np.zeros(ops.geodesic_sphere().topology.point_count)),
            by="uv",
            attributes="heat",
        )


def test_a_mark_that_is_everywhere_is_warned_of(source: Geo, notes: list[Note]) -> None:
    marked = source.with_attribute("point", "wet", Attribute.of(np.ones(25, bool), default=True))
    rows = Geo.of([[0, 0, 0], [0, 5, 0]])
    ops.transfer_attribute(rows, marked, attributes="wet", limit_reach=True, reach=0.1)
    assert any("'wet' is yes by default on the source, so all points are marked" in note.text for note in notes)
    ops.transfer_attribute(rows, marked, attributes="wet")
    assert any("'wet' is yes on all 2 points" in note.text for note in notes)


def test_nothing_near_is_a_warning(source: Geo, notes: list[Note]) -> None:
    ops.transfer_attribute(Geo.of([[50, 0, 0]]), source, attributes="heat", limit_reach=True)
    assert any("None of 1 points found anything within 0.1 m; check where both stand." in note.text for note in notes)


def test_rays_read_what_they_hit(source: Geo, notes: list[Note]) -> None:
    dots = Geo.of([[0.1, 1, 0.2], [0.3, 2, -0.1], [9, 1, 0]])
    made = ops.raycast(dots, source, read="heat plot")
    x, _, z = dots.positions[:2].T
    np.testing.assert_allclose(made.attribute("point", "hit_heat")[:2], 3 * x - z + 1, atol=1e-12)
    assert made.group("point", "hit_missed").tolist() == [False, False, True]
    assert made.attribute("point", "hit_face")[2] == -1
    nearest = ops.raycast(dots, source, read="heat", values="nearest").attribute("point", "hit_heat")
    assert round(nearest[0], 9) in set(np.round(source.attribute("point", "heat"), 9))
    with pytest.raises(ParameterError, match="read: there is no attribute 'heet'"):
        ops.raycast(dots, source, read="heet")


def test_rays_from_given_origins_both_ways(source: Geo, notes: list[Note]) -> None:
    below = Geo.of([[0, -0.3, 0]])
    assert not ops.raycast(below, source).group("point", "hit").any()
    both = ops.raycast(below, source, ways="both")
    assert both.attribute("point", "hit_distance")[0] == pytest.approx(0.3)
    moved = ops.raycast(below, source, origin="position + vec3(0, 1, 0)")
    assert moved.attribute("point", "hit_distance")[0] == pytest.approx(0.7)


def test_all_hits_are_listed(notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(radius=1.0, frequency=6)
    dots = Geo.of([[0.1, 3, 0.2], [5, 3, 0]])
    made = ops.raycast(dots, ball, hits="all")
    assert made.attribute("point", "hit_count").tolist() == [2, 0]
    first, second = made.find("point", "hit_distances").row(0)
    assert first == pytest.approx(made.attribute("point", "hit_distance")[0])
    assert first < second
    points = ops.ray_hits(dots, ops.set_attribute(ball, name="y", value="position.y"), read="y")
    assert points.attribute("point", "sender").tolist() == [0, 0]
    assert points.attribute("point", "number").tolist() == [0, 1]
    np.testing.assert_allclose(points.attribute("point", "y"), points.positions[:, 1], atol=1e-12)
    both = ops.ray_hits(Geo.of([[0.1, 0.5, 0.2], [0.1, -0.7, 0.2]]), ball, ways="both")
    assert both.attribute("point", "sender").tolist() == [0, 0, 1, 1]
    assert both.attribute("point", "number").tolist() == [0, 1, 0, 1]
    far = both.attribute("point", "distance")
    assert far[0] < far[1]
    assert far[2] < far[3]
    assert both.positions[0, 1] > 0 > both.positions[2, 1]


def test_a_ray_through_an_edge_hits_once(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(2, 2))
    made = ops.raycast(Geo.of([[0, 1, 0], [0, 1, 0.1]]), sheet, hits="all")
    assert made.attribute("point", "hit_count").tolist() == [1, 1]
