"""Place instances: place a shape on every point, as an instance: it is stored once and drawn many times."""

from pathlib import Path

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError
from reticula.core.geometry import measure
from tests.helpers import is_closed


def test_counts_and_place() -> None:
    made = ops.place_instances(ops.grid(cells=(2, 2)), ops.box(size=(0.1, 0.1, 0.1)))
    assert made.counts["instances"] == 9
    assert made.counts["points"] == 0
    assert made.bounds == pytest.approx(np.array([[-0.55, -0.05, -0.55], [0.55, 0.05, 0.55]]))
    mesh = ops.flatten_instances(made)
    assert mesh.counts["faces"] == 9 * 6
    assert is_closed(mesh)
    assert mesh.attribute("point", "point_index").tolist() == np.repeat(np.arange(9), 8).tolist()


def test_y_follows_the_normal_and_z_the_up_vector() -> None:
    pin = ops.transform(ops.box(size=(0.02, 0.2, 0.1)), move=(0, 0.1, 0))
    ball = ops.geodesic_sphere(frequency=2)
    mesh = ops.flatten_instances(ops.place_instances(ball, pin, up=(0, 1, 0)))
    tips = mesh.positions.reshape(-1, 8, 3)
    assert np.linalg.norm(tips.mean(axis=1), axis=1) == pytest.approx(np.full(len(tips), 0.6))
    matrix = ops.place_instances(ball, pin, up=(0, 1, 0)).attribute("instance", "transform")
    assert np.linalg.det(matrix[:, :3, :3]) == pytest.approx(np.ones(len(matrix)))
    assert matrix[:, :3, 1] == pytest.approx(measure.point_normals(ball))


def test_scale_rotation_and_spin() -> None:
    points = Geo.of([[0, 0, 0], [1, 0, 0]]).with_attribute("point", "scale", np.array([[1.0, 2, 3], [1, 1, 1]]))
    points = points.with_attribute("point", "rotation", np.array([[0, 0, 0, 1.0], [0, np.sqrt(0.5), 0, np.sqrt(0.5)]]))
    made = ops.place_instances(points, ops.box(), turn="rotation", scale=2).attribute("instance", "transform")
    assert made[0, :3, :3] == pytest.approx(np.diag([2, 4, 6]))
    assert made[1, :3, 0] == pytest.approx([0, 0, -2])
    spun = ops.place_instances(points, ops.box(), turn="not", spin=90).attribute("instance", "transform")
    assert spun[1, :3, 0] == pytest.approx([0, 0, -1])
    with pytest.raises(GeometryError, match="give a normal"):
        ops.place_instances(ops.grid(), ops.box(), turn="rotation")


def test_choosing_among_shapes_is_stable() -> None:
    shapes = [ops.box(), ops.geodesic_sphere(frequency=1), ops.cone()]
    by_number = ops.place_instances(ops.line(segments=6), *shapes)
    assert by_number.attribute("instance", "shape").tolist() == [0, 1, 2, 0, 1, 2, 0]
    sheet = ops.grid(cells=(5, 5))
    some = ops.place_instances(sheet, *shapes, choose="at random", seed=4)
    part = ops.place_instances(ops.remove(sheet, kind="point", where="index == 0"), *shapes, choose="at random", seed=4)
    kept = part.attribute("instance", "transform")[:, :3, 3]
    before = {
        tuple(p): s
        for p, s in zip(
            some.attribute("instance", "transform")[:, :3, 3].tolist(), some.attribute("instance", "shape"), strict=True
        )
    }
    assert all(before[tuple(p)] == s for p, s in zip(kept.tolist(), part.attribute("instance", "shape"), strict=True))


def test_instances_survive_join_transform_and_cache() -> None:
    some = ops.place_instances(ops.line(), ops.box(), turn="not")
    other = ops.place_instances(ops.line(), ops.cone(), turn="not")
    both = ops.transform(ops.join(some, ops.grid(), other), move=(0, 5, 0), turn=(0, 90, 0))
    assert both.counts["instances"] == 4
    assert both.attribute("instance", "shape").tolist() == [0, 0, 1, 1]
    mesh = ops.flatten_instances(both)
    assert mesh.bounds[0, 1] == pytest.approx(4.5)
    assert mesh.counts["faces"] == 100 + 2 * 6 + 2 * ops.cone().counts["faces"]
    import pickle

    again = pickle.loads(pickle.dumps(both))
    assert again.digest == both.digest
    assert ops.transform(both, move=(1, 0, 0)).digest != both.digest


def test_files_hold_the_mesh(tmp_path: Path, notes: list[Note]) -> None:
    made = ops.place_instances(ops.line(), ops.box(), turn="not")
    made.write(tmp_path / "a.ply")
    assert Geo.read(tmp_path / "a.ply").counts["faces"] == 12
    assert "2 instances were turned into mesh" in notes[-1].text


def test_nothing_to_place() -> None:
    with pytest.raises(GeometryError, match="give a shape"):
        ops.place_instances(ops.grid())
