"""Transfer attribute: give each element the values found at its counterpart on another geometry."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry import Attribute


@pytest.fixture
def scan() -> Geo:
    scan = ops.grid(size=(2, 2), cells=(4, 4))
    scan = ops.set_attribute(scan, name="cover", value="position.x * 2 + position.z")
    scan = scan.with_attribute("point", "sort", np.array(["reef" if i % 2 else "sand" for i in range(25)]))
    return scan.with_attribute("face", "plot", np.arange(16))


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
    ops.transfer_attribute(Geo.of([[50, 0, 0]]), source, attributes="heat", limit_reach=True, reach=0.1)
    assert any("None of 1 points found anything within 0.1 m; check where both stand." in note.text for note in notes)


def test_a_linear_field_is_carried_onto_loose_points(scan: Geo, rng: np.random.Generator, notes: list[Note]) -> None:
    places = np.concatenate([rng.random((500, 2)) * 2 - 1, np.zeros((500, 1))], axis=1)[:, [0, 2, 1]] + [0, 0.3, 0]
    made = ops.transfer_attribute(Geo.of(places), scan)
    assert np.allclose(made.attribute("point", "cover"), places[:, 0] * 2 + places[:, 2])
    assert set(made.attribute("point", "sort")) == {"reef", "sand"}
    assert made.find("point", "plot").type == "integer"


def test_transfer_keeps_what_finds_nothing(scan: Geo, notes: list[Note]) -> None:
    target = Geo.of([[0, 0.05, 0], [0, 5, 0]]).with_attribute("point", "cover", [7.0, 8.0])
    made = ops.transfer_attribute(target, scan, attributes="cover", limit_reach=True, reach=0.1)
    assert made.attribute("point", "cover").tolist() == [0, 8]
    assert [note.text for note in notes] == ["1 of 2 points found nothing within 0.1 m and were left as they were."]
    new = ops.transfer_attribute(
        Geo.of([[0, 0.05, 0], [0, 5, 0]]), scan, attributes="sort", limit_reach=True, reach=0.1
    )
    assert new.attribute("point", "sort").tolist() == ["sand", ""]


def test_transfer_onto_faces_corners_and_from_loose_points(scan: Geo, notes: list[Note]) -> None:
    target = ops.grid(size=(1, 1), cells=(2, 2))
    assert len(ops.transfer_attribute(target, scan, onto="face", attributes="pl*").attribute("face", "plot")) == 4
    assert (
        len(ops.transfer_attribute(target, scan, onto="corner", attributes="cover").attribute("corner", "cover")) == 16
    )
    cloud = Geo.of(scan.positions).with_attribute("point", "cover", scan.attribute("point", "cover"))
    assert ops.transfer_attribute(Geo.of([[0.51, 0, 0]]), cloud).attribute("point", "cover").tolist() == [1.0]


def test_transfer_of_a_name_that_is_not_there_lists_those_that_are(scan: Geo) -> None:
    with pytest.raises(
        ParameterError, match="no attribute 'colour' on the source; did you mean cover; it has cover, plot, sort, uv"
    ):
        ops.transfer_attribute(scan, scan, attributes="colour")
    with pytest.raises(GeometryError, match="takes 2 geometries"):
        ops.transfer_attribute(scan)
