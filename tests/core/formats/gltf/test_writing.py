"""glTF as it is written: all comes back exactly, and what others see is the same shape."""

import json

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.formats import read_bytes, write_bytes
from tests.core.formats.shared.samples import full, looked_at


@given(seed=st.integers(0, 10**6), ending=st.sampled_from(["glb", "gltf"]))
def test_values_of_every_kind_and_type_come_back_exactly(seed: int, ending: str) -> None:
    geo = full(seed)
    with collecting():
        assert read_bytes(f"a.{ending}", write_bytes(geo, f"a.{ending}")).digest == geo.digest


@given(seed=st.integers(0, 10**6))
def test_what_every_program_reads_is_the_shape_in_single_precision(seed: int) -> None:
    geo = looked_at(seed)
    with collecting():
        back = read_bytes("a.glb", write_bytes(geo, "a.glb", values="plain"))
    assert back.counts["faces"] == 2 + 3 + 1
    assert back.counts["curves"] == 2
    assert back.counts["points"] == geo.counts["points"]
    lower, upper = np.asarray(geo.bounds)
    assert np.asarray(back.bounds) == pytest.approx(np.array([lower, upper]), rel=1e-6, abs=1e-6)
    order = np.argsort(geo.positions[:, 0]), np.argsort(back.positions[:, 0])
    assert back.attribute("point", "color")[order[1]] == pytest.approx(
        geo.attribute("point", "color")[order[0]], abs=1e-6
    )
    assert back.attribute("point", "normal")[order[1]] == pytest.approx(
        geo.attribute("point", "normal")[order[0]], abs=1e-6
    )
    assert sorted(np.unique(back.attribute("corner", "uv")[:, 0])) == pytest.approx(
        sorted(np.unique(geo.attribute("corner", "uv")[:, 0].astype(np.float32))), abs=1e-6
    )


def test_a_file_that_another_program_changed_is_read_as_it_is_now(notes: list[Note]) -> None:
    data = write_bytes(ops.box(size=(1, 1, 1)), "a.gltf")
    told = json.loads(data)
    accessor = told["accessors"][told["meshes"][0]["primitives"][0]["attributes"]["POSITION"]]
    view = told["bufferViews"][accessor["bufferView"]]
    import base64

    buffer = bytearray(base64.b64decode(told["buffers"][0]["uri"].partition(",")[2]))
    places = np.frombuffer(buffer, "<f4", accessor["count"] * 3, view["byteOffset"]) * 2
    buffer[view["byteOffset"] : view["byteOffset"] + view["byteLength"]] = places.astype("<f4").tobytes()
    told["buffers"][0]["uri"] = "data:application/octet-stream;base64," + base64.b64encode(buffer).decode()
    back = read_bytes("a.gltf", json.dumps(told).encode())
    assert np.ptp(back.positions, axis=0).tolist() == [2, 2, 2]
    assert back.counts["faces"] == 12
    assert any("another program has changed" in note.text for note in notes)


@pytest.mark.parametrize("how", ["nodes", "arrays"])
def test_instances_stay_instances(how: str, notes: list[Note]) -> None:
    cloud = ops.scatter(ops.grid(), total=20, seed=3)
    placed = ops.place_instances(cloud, ops.box(size=(0.1, 0.2, 0.3)), scale=2.0)
    placed = placed.with_attribute("instance", "age", np.arange(20) + 0.25)
    back = read_bytes("a.glb", write_bytes(placed, "a.glb", instances=how))
    assert back.counts["instances"] == 20
    assert back.prototypes[0].digest == placed.prototypes[0].digest
    turned = back.attribute("instance", "transform") - placed.attribute("instance", "transform")
    assert np.abs(turned).max() == 0 if how == "nodes" else np.abs(turned).max() < 1e-5
    assert back.attribute("instance", "age").tolist() == placed.attribute("instance", "age").tolist()


def test_a_single_instance_is_one_too_and_a_mesh_beside_it_stays(notes: list[Note]) -> None:
    one = ops.place_instances(Geo.of([(1, 2, 3)]), ops.box())
    both = ops.join(ops.grid(cells=(2, 2)), one)
    back = read_bytes("a.glb", write_bytes(both, "a.glb"))
    assert (back.counts["instances"], back.counts["faces"]) == (1, 4)


def test_sheared_instances_become_mesh_where_they_stand(notes: list[Note]) -> None:
    placed = ops.place_instances(Geo.of([(0, 0, 0), (5, 0, 0)]), ops.box(size=(1, 1, 1)))
    matrices = np.array(placed.attribute("instance", "transform"))
    matrices[0, 0, 1] = 0.5
    placed = placed.with_attribute("instance", "transform", matrices, "mat4")
    back = read_bytes("a.glb", write_bytes(placed, "a.glb"))
    assert (back.counts["instances"], back.counts["faces"]) == (1, 6)
    assert np.ptp(back.positions, axis=0).tolist() == [1.5, 1, 1]
    assert any("sheared" in note.text for note in notes)


def test_what_is_not_finite_is_kept_for_us_and_harmless_for_others(notes: list[Note]) -> None:
    geo = ops.box().with_attribute("point", "heat", [np.nan, np.inf, *range(6)])
    data = write_bytes(geo, "a.glb")
    assert np.isnan(read_bytes("a.glb", data).attribute("point", "heat")[0])
    plain = read_bytes("a.glb", write_bytes(geo, "a.glb", values="plain"))
    assert np.isfinite(plain.attribute("point", "heat")).all()
