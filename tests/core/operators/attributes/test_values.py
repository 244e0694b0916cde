"""Group, set attribute, transfer attribute and raycast."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError, ParameterError


def texts(notes: list[Note], level: str = "warning") -> list[str]:
    return [note.text for note in notes if note.level == level]


def test_group_counts_and_combines(notes: list[Note]) -> None:
    sheet = ops.group(ops.grid(), name="low", where="index < 30")
    assert sheet.group("face", "low").sum() == 30
    assert texts(notes, "note") == ["'low' holds 30 of 100 faces (30.0%)."]
    for how, expected in (("add", 50), ("keep both", 10), ("take away", 20), ("replace", 30)):
        made = ops.group(sheet, name="low", where="index >= 20 and index < 50", combine=how)
        assert made.group("face", "low").sum() == expected, how


def test_an_empty_group_is_warned_about(notes: list[Note]) -> None:
    ops.group(ops.grid(), where="area > 5")
    assert texts(notes) == ["The group 'marked' is empty: none of 100 faces fits."]
    with pytest.raises(ParameterError, match="'position' has a meaning of its own"):
        ops.group(ops.grid(), name="position")
    with pytest.raises(ParameterError, match="'2nd' is not a name"):
        ops.group(ops.grid(), name="2nd")


@pytest.mark.parametrize("kind", ["point", "edge", "corner", "face"])
def test_groups_on_every_kind(kind: str, cube: Geo) -> None:
    made = ops.group(cube, kind=kind, name="some", where="index < 3")
    assert made.group(kind, "some").sum() == 3


def test_set_attribute_makes_changes_and_moves(notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(2, 2)), name="heat", value="index * 2")
    assert sheet.find("point", "heat").type == "integer"
    assert ops.set_attribute(sheet, name="heat", type="number", value=3).find("point", "heat").type == "number"
    some = ops.set_attribute(sheet, name="heat", where="index == 4", value=100)
    assert some.attribute("point", "heat").tolist() == [0, 2, 4, 6, 100, 10, 12, 14, 16]
    lifted = ops.set_attribute(sheet, name="position", value="position + vec3(0, heat, 0)")
    assert lifted.positions[:, 1].tolist() == [0, 2, 4, 6, 8, 10, 12, 14, 16]
    assert sheet.positions[:, 1].max() == 0
    colored = ops.set_attribute(sheet, name="color", type="vec4", value="vec3(1, 0, 0)")
    assert colored.attribute("point", "color")[0].tolist() == [1, 0, 0, 1]


def test_set_attribute_says_what_holds_a_default(notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(2, 2)), name="heat", where="index < 4", value=1.5)
    assert "'heat' is new: 5 points outside of 'where' hold 0." in texts(notes, "note")
    ops.set_attribute(sheet, name="heat", where="index < 4", value="index < 2")
    assert "'heat' was a number and is a flag now; 5 points lost their old value." in texts(notes)
    with pytest.raises(ParameterError, match="'position' is a vec3 of each point"):
        ops.set_attribute(sheet, name="position", value=1)


@pytest.fixture
def scan() -> Geo:
    scan = ops.grid(size=(2, 2), cells=(4, 4))
    scan = ops.set_attribute(scan, name="cover", value="position.x * 2 + position.z")
    scan = scan.with_attribute("point", "sort", np.array(["reef" if i % 2 else "sand" for i in range(25)]))
    return scan.with_attribute("face", "plot", np.arange(16))


def test_a_linear_field_is_carried_exactly(scan: Geo, rng: np.random.Generator, notes: list[Note]) -> None:
    places = np.concatenate([rng.random((500, 2)) * 2 - 1, np.zeros((500, 1))], axis=1)[:, [0, 2, 1]] + [0, 0.3, 0]
    made = ops.transfer_attribute(Geo.of(places), scan)
    assert np.allclose(made.attribute("point", "cover"), places[:, 0] * 2 + places[:, 2])
    assert set(made.attribute("point", "sort")) == {"reef", "sand"}
    assert made.find("point", "plot").type == "integer"


def test_transfer_keeps_what_finds_nothing(scan: Geo, notes: list[Note]) -> None:
    target = Geo.of([[0, 0.05, 0], [0, 5, 0]]).with_attribute("point", "cover", [7.0, 8.0])
    made = ops.transfer_attribute(target, scan, attributes="cover", limit_reach=True, reach=0.1)
    assert made.attribute("point", "cover").tolist() == [0, 8]
    assert texts(notes) == ["1 of 2 points found nothing within 0.1 m and were left as they were."]
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


def test_raycast(notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(radius=1, frequency=30)
    rays = Geo.of([[0, 3, 0], [0.5, 3, 0], [2, 3, 0]])
    made = ops.raycast(rays, ball)
    assert made.group("point", "hit").tolist() == [True, True, False]
    assert made.attribute("point", "hit_distance") == pytest.approx([2, 3 - np.sqrt(0.75), -1], abs=2e-3)
    assert made.attribute("point", "hit_normal")[1] == pytest.approx([0.5, np.sqrt(0.75), 0], abs=0.05)
    assert made.attribute("point", "hit_position")[2].tolist() == [2, 3, 0]
    near = ops.raycast(rays, ball, limit_reach=True, reach=1.0)
    assert not near.group("point", "hit").any()
    assert texts(notes) == [
        "Every ray missed. Check the direction, the reach, and whether both meshes lie where you expect."
    ]


def test_a_surface_does_not_hit_itself(cube: Geo, notes: list[Note]) -> None:
    made = ops.raycast(cube, cube, kind="face", direction="normal")
    assert not made.group("face", "hit").any()
    inside = ops.raycast(cube, cube, kind="face", direction="-normal")
    assert inside.attribute("face", "hit_distance") == pytest.approx([2] * 6)
