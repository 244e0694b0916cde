"""USD as it is written and read back: values of every kind, instances, places, frames."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pxr import Usd, UsdGeom

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.formats import FORMATS, read_bytes, write_bytes
from reticula.core.formats.usd.library import temporary
from reticula.core.geometry import Topology
from tests.core.formats.shared.samples import full, looked_at

ENDINGS = ["usda", "usdc", "usdz"]


@given(seed=st.integers(0, 10**6), ending=st.sampled_from(ENDINGS))
def test_values_of_faces_come_back_on_what_they_lay(seed: int, ending: str) -> None:
    """In a mesh alone: points that only curves use belong to the curves there."""
    whole = full(seed)
    with collecting() as notes:
        geo = _faces_alone(whole)
        back = FORMATS[ending].read(write_bytes(geo, f"a.{ending}"))
    assert np.array_equal(back.topology.face_start, geo.topology.face_start)
    assert np.array_equal(back.topology.corner_point, geo.topology.corner_point)
    for kind in ("point", "corner", "face", "whole"):
        for name, found in geo.attributes[kind].items():
            if name == "position" or found.start is not None:
                continue
            assert np.array_equal(back.attribute(kind, name), found.values), (kind, name)
    said = next(note.text for note in notes if "USD cannot hold" in note.text)
    assert "edge edge_number" in said
    assert "point point_number_list" in said


def _faces_alone(geo: Geo) -> Geo:
    shape = geo.topology
    used = np.zeros(shape.point_count, bool)
    used[shape.corner_point] = True
    number = np.cumsum(used) - 1
    topology = Topology(int(used.sum()), shape.face_start, number[shape.corner_point])
    attributes = {
        kind: {name: found.take(np.flatnonzero(used)) if kind == "point" else found for name, found in named.items()}
        for kind, named in geo.attributes.items()
        if kind in ("point", "corner", "face", "whole")
    }
    alone = Geo(topology, attributes)
    return alone.with_attribute("edge", "edge_number", np.arange(topology.edge_count) + 0.5)


@given(seed=st.integers(0, 10**6))
def test_what_every_program_knows_is_in_its_usual_place(seed: int) -> None:
    geo = looked_at(seed)
    with collecting():
        data = write_bytes(geo, "a.usda")
    with temporary("usda", data) as path:
        stage = Usd.Stage.Open(str(path))
        assert UsdGeom.GetStageUpAxis(stage) == "Y"
        assert UsdGeom.GetStageMetersPerUnit(stage) == 1
        mesh = UsdGeom.Mesh(stage.GetPrimAtPath("/shape/mesh"))
        assert list(mesh.GetFaceVertexCountsAttr().Get()) == [4, 5, 3]
        assert UsdGeom.PrimvarsAPI(mesh).GetPrimvar("st").GetInterpolation() == "faceVarying"
        assert len(mesh.GetNormalsAttr().Get()) == 8
        curves = UsdGeom.BasisCurves(stage.GetPrimAtPath("/shape/closed_curves"))
        assert list(curves.GetCurveVertexCountsAttr().Get()) == [3]
        assert UsdGeom.Points(stage.GetPrimAtPath("/shape/points"))


def test_instances_stay_instances(notes: list[Note]) -> None:
    placed = ops.place_instances(ops.scatter(ops.grid(), total=20, seed=3), ops.box(size=(0.1, 0.2, 0.3)), scale=2.0)
    placed = placed.with_attribute("instance", "age", np.arange(20) + 0.25)
    back = read_bytes("a.usdc", write_bytes(placed, "a.usdc"))
    assert back.counts["instances"] == 20
    assert back.prototypes[0].counts["faces"] == 6
    difference = back.attribute("instance", "transform") - placed.attribute("instance", "transform")
    assert np.abs(difference).max() < 1e-6
    assert back.attribute("instance", "age").tolist() == placed.attribute("instance", "age").tolist()


def test_a_place_is_kept_as_one() -> None:
    matrix = np.eye(4)
    matrix[:3, 3] = [1, 2, 3]
    geo = ops.box().with_attribute("whole", "place", matrix[None], "mat4")
    data = write_bytes(geo, "a.usda")
    assert b"xformOp:transform:place" in data
    back = read_bytes("a.usda", data)
    assert np.array_equal(back.attribute("whole", "place"), matrix[None])
    assert back.positions == pytest.approx(geo.positions)


def test_frames_with_other_counts_are_samples_over_time() -> None:
    grown = [(float(n), ops.grid(cells=(n, n))) for n in (1, 2, 3)]
    made = FORMATS["usdc"].frames
    assert made is not None
    data = made(grown, 24.0)
    with temporary("usdc", data) as path:
        stage = Usd.Stage.Open(str(path))
        assert (stage.GetStartTimeCode(), stage.GetEndTimeCode(), stage.GetTimeCodesPerSecond()) == (1, 3, 24)
        mesh = UsdGeom.Mesh(stage.GetPrimAtPath("/shape/mesh"))
        assert [len(mesh.GetFaceVertexCountsAttr().Get(time)) for time in (1, 2, 3)] == [1, 4, 9]
    assert read_bytes("a.usdc", data).counts["faces"] == 1


def test_what_a_frame_does_not_have_is_invisible_in_it() -> None:
    made = FORMATS["usda"].frames
    assert made is not None
    data = made([(1.0, ops.circle()), (2.0, ops.box())], 24.0)
    back = read_bytes("a.usda", data)
    assert (back.counts["curves"], back.counts["faces"]) == (1, 0)
